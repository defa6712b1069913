<script setup lang="ts">
import { ElButton, ElCheckbox, ElCheckTag, ElInput, ElPopover } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import { FILTERS, type Filter } from '../lib/filters'
import { ledger, tabsOf, type Row, type Tab } from '../lib/ledger'
import { useCells } from '../lib/ledgerCells'
import { useOut } from '../lib/ledgerOut'
import { sieve } from '../lib/sieve'
import { compare } from '../lib/table'
import { useWorkbench } from '../stores/workbench'
import UseBar from './UseBar.vue'

defineProps<{ folded: boolean }>()
defineEmits<{ fold: [] }>()
const bench = useWorkbench()
const tab = ref<Tab>('Members')
const query = ref('')
const DEFAULT: Record<string, Tab> = {
  site: 'Balance',
  frame: 'Groups',
  actions: 'Balance',
  combinations: 'Combinations',
  response: 'Forces',
  verification: 'Members',
  sizing: 'Groups',
  dossier: 'Members',
}
watch(
  () => bench.stage,
  (stage) => (tab.value = DEFAULT[stage] ?? 'Members'),
)
const tabs = computed(() => tabsOf(bench.stage))
const table = computed(() =>
  ledger(
    tab.value,
    bench.chain,
    bench.document?.member_loads,
    { of: bench.marks, onlyGoverning: bench.onlyGoverning },
    { extremes: bench.extremes, states: bench.states, sways: bench.sways, decks: bench.decks },
  ),
)
const MEMBERS: Tab[] = ['Members', 'Deflection', 'Steelwork', 'Forces']
/** Filters with the number of members that fit; those that fit none are left out unless they are on. */
const filters = computed(() =>
  bench.stage !== 'verification'
    ? []
    : FILTERS.map((f) => ({ ...f, count: (bench.chain?.members ?? []).filter(f.test).length })).filter(
        (f) => f.count || bench.filters.has(f.key),
      ),
)
function toggle(key: Filter) {
  const next = new Set(bench.filters)
  if (!next.delete(key)) next.add(key)
  bench.filters = next
}
const sorting = ref<{ column: number; falling: boolean } | null>(null)
watch(tab, () => {
  sorting.value = null
  editing.value = null
})
function sortBy(column: number) {
  const now = sorting.value
  sorting.value = now?.column !== column ? { column, falling: false } : now.falling ? null : { column, falling: true }
}
const rows = computed(() => {
  const fits = sieve(
    query.value,
    table.value.head.map((h) => h.text),
  )
  const lit = MEMBERS.includes(tab.value) ? bench.lit : null
  const found = table.value.rows.filter((row) => fits(row.cells) && (!lit || lit.has(row.member ?? row.key)))
  const order = sorting.value
  if (!order) return found
  const by = (row: Row) => row.cells[order.column] ?? ''
  return [...found].sort((a, b) => compare(by(a), by(b)) * (order.falling ? -1 : 1))
})

// long tables draw only the rows in sight
const HEIGHT = 24
const MOST = 200
const scroller = ref<HTMLElement>()
const scrolled = ref(0)
const room = ref(400)
function onScroll() {
  scrolled.value = scroller.value!.scrollTop
  room.value = scroller.value!.clientHeight
}
const windowed = computed(() => {
  const all = rows.value
  if (all.length <= MOST) return { first: 0, rows: all, before: 0, after: 0 }
  const first = Math.max(0, Math.floor(scrolled.value / HEIGHT) - 12)
  const shown = all.slice(first, first + Math.ceil(room.value / HEIGHT) + 24)
  return { first, rows: shown, before: first * HEIGHT, after: (all.length - first - shown.length) * HEIGHT }
})
const chosen = computed(() => {
  if (tab.value === 'Groups') return bench.member?.role ?? ''
  if (tab.value === 'Sections') return bench.member?.section ?? ''
  if (tab.value === 'Sway') return bench.selected
  return bench.state
})
const isOn = (row: Row) =>
  MEMBERS.includes(tab.value) ? bench.chosen.has(row.key) : (row.member ?? row.key) === chosen.value

function choose(row: Row, add = false) {
  const members = bench.chain?.members ?? []
  if (MEMBERS.includes(tab.value)) bench.select(row.key, !add, add)
  else if (tab.value === 'Sway') bench.select(row.member ?? '', true)
  else if (tab.value === 'Decks') void bench.openPanel(row.key)
  else if (tab.value === 'Group forces') {
    const [words, section] = row.key.split('|')
    bench.choose(members.filter((m) => (m.group || m.role) === words && m.section === section).map((m) => m.name))
  } else if (tab.value === 'Groups') {
    const first = bench.worstFirst(row.key)[0]
    if (first) bench.select(first.name, true)
  } else if (tab.value === 'Sections') bench.choose(members.filter((m) => m.section === row.key).map((m) => m.name))
  else if (tab.value === 'Nodes' || tab.value === 'Supports') {
    const at = bench.chain!.node_names!.indexOf(row.key)
    bench.choose(members.filter((m) => m.line.includes(at)).map((m) => m.name))
  } else if (tab.value === 'Balance' || tab.value === 'Combinations' || tab.value === 'States') bench.show(row.key)
  else if (tab.value === 'Loads') bench.select(String(row.cells[1]), true)
  else if (row.cells[5]) bench.show(String(row.cells[5]))
}
const body = ref<HTMLElement>()
watch(
  () => [bench.selected, chosen.value],
  () =>
    nextTick(() => {
      const at = rows.value.findIndex(isOn)
      if (at < 0 || !scroller.value) return
      if (rows.value.length > MOST) {
        const top = at * HEIGHT
        if (top < scroller.value.scrollTop || top > scroller.value.scrollTop + room.value - 60)
          scroller.value.scrollTop = top - 60
      } else body.value?.querySelector('tr.on')?.scrollIntoView({ block: 'nearest' })
    }),
)
function move(event: KeyboardEvent, index: number) {
  if (editing.value) return
  const next = index + (event.key === 'ArrowDown' ? 1 : -1)
  const row = rows.value[next]
  if (!row) return
  event.preventDefault()
  choose(row)
  void nextTick(() => body.value?.querySelector<HTMLElement>(`tr[data-at="${next}"]`)?.focus())
}

const { editing, pointed, wrong, startEdit, commit, paste } = useCells(table, rows)
const vFocus = { mounted: (el: HTMLInputElement) => el.select() }
const { said, copied, copy, download, downloadSheet } = useOut(tab, table, rows)

/** Columns that are not shown, by table, as this browser remembers them. */
const HIDDEN = 'lorica.columns'
const hiddenColumns = ref<Record<string, string[]>>(JSON.parse(localStorage.getItem(HIDDEN) ?? '{}'))
const off = computed(() => new Set(hiddenColumns.value[tab.value] ?? []))
function showColumn(name: string) {
  const next = new Set(off.value)
  if (!next.delete(name)) next.add(name)
  hiddenColumns.value = { ...hiddenColumns.value, [tab.value]: [...next] }
  localStorage.setItem(HIDDEN, JSON.stringify(hiddenColumns.value))
}
</script>

<template>
  <section aria-label="Ledger">
    <div class="tabs">
      <div class="names" role="tablist" aria-label="Tables">
        <button
          v-for="t in tabs"
          :key="t"
          role="tab"
          :aria-selected="t === tab"
          :class="{ on: t === tab }"
          @click="tab = t"
        >
          {{ t }}
        </button>
      </div>
      <span v-if="wrong" class="refused" role="alert"
        >{{ wrong }} <ElButton link type="primary" size="small" @click="wrong = ''">×</ElButton></span
      >
      <span v-if="bench.stale" class="stale">of revision {{ bench.chain?.revision }}</span>
      <ElInput
        v-model="query"
        class="filter"
        size="small"
        clearable
        aria-label="Filter the ledger"
        placeholder="filter: util > 0.9"
        title="Words that must all be there; on one column: section: ipe, length > 10"
      />
      <ElPopover trigger="click" placement="bottom-end" :width="200">
        <template #reference>
          <ElButton link type="primary" size="small" title="Columns that are shown">columns</ElButton>
        </template>
        <ElCheckbox
          v-for="(h, j) in table.head"
          :key="j"
          size="small"
          :model-value="!off.has(h.text)"
          :disabled="!j"
          @change="showColumn(h.text)"
          >{{ said[j] }}</ElCheckbox
        >
      </ElPopover>
      <span class="mono count">{{ rows.length }}</span>
      <ElButton link type="primary" size="small" @click="copy">{{ copied ? 'copied' : 'copy' }}</ElButton>
      <ElButton link type="primary" size="small" title="Save the table as a CSV file" @click="download">CSV</ElButton>
      <ElButton link type="primary" size="small" title="Save the table as a spreadsheet" @click="downloadSheet"
        >spreadsheet</ElButton
      >
      <ElButton link type="primary" size="small" :aria-expanded="!folded" @click="$emit('fold')">{{
        folded ? 'unfold' : 'fold'
      }}</ElButton>
    </div>
    <div v-if="!folded && filters.length" class="filters" role="group" aria-label="Members that">
      <ElCheckTag
        v-for="f in filters"
        :key="f.key"
        :checked="bench.filters.has(f.key)"
        role="button"
        tabindex="0"
        :aria-pressed="bench.filters.has(f.key)"
        @change="toggle(f.key)"
        @keydown.enter.space.prevent="toggle(f.key)"
        >{{ f.label }} <b class="mono">{{ f.count }}</b></ElCheckTag
      >
      <span v-if="bench.lit"
        >{{ bench.filters.size > 1 ? 'any of these: ' : '' }}{{ bench.lit.size }} of
        {{ bench.chain?.members?.length }}
        <ElButton link type="primary" size="small" @click="bench.filters = new Set()">show all</ElButton></span
      >
    </div>
    <div v-if="!folded" ref="scroller" class="scroll" @scroll.passive="onScroll" @paste="paste">
      <table :class="{ long: rows.length > MOST }">
        <thead>
          <tr>
            <th
              v-for="(h, j) in table.head"
              v-show="!off.has(h.text)"
              :key="j"
              :class="{ n: h.number }"
              :aria-sort="sorting?.column === j ? (sorting.falling ? 'descending' : 'ascending') : undefined"
            >
              <button
                :title="`Sort by ${h.text}${h.write ? '; its cells can be written: double click, or paste' : ''}`"
                @click="sortBy(j)"
              >
                {{ h.text }}{{ h.write ? ' ✎' : '' }}{{ sorting?.column === j ? (sorting.falling ? ' ↓' : ' ↑') : '' }}
              </button>
            </th>
          </tr>
        </thead>
        <tbody ref="body">
          <tr v-if="windowed.before" class="room" aria-hidden="true">
            <td :style="{ height: `${windowed.before}px` }" />
          </tr>
          <tr
            v-for="(row, i) in windowed.rows"
            :key="row.key"
            tabindex="0"
            :data-at="windowed.first + i"
            :class="{ on: isOn(row) }"
            @click="choose(row, $event.shiftKey || $event.ctrlKey)"
            @keydown.enter="choose(row)"
            @keydown.down="move($event, windowed.first + i)"
            @keydown.up="move($event, windowed.first + i)"
            @keydown.f2="startEdit(row, pointed?.column ?? table.head.findIndex((h) => h.write))"
          >
            <td
              v-for="(cell, j) in row.cells"
              v-show="!off.has(table.head[j]?.text ?? '')"
              :key="j"
              :class="{
                n: table.head[j]?.number,
                mono: table.head[j]?.number,
                fails: row.bad,
                pointed: pointed?.at === windowed.first + i && pointed.column === j && table.head[j]?.write,
              }"
              :title="row.titles?.[j] || String(row.whole?.[j] ?? '')"
              @mousedown="pointed = { at: windowed.first + i, column: j }"
              @dblclick="startEdit(row, j)"
            >
              <input
                v-if="editing?.key === row.key && editing.column === j"
                v-model="editing.text"
                v-focus
                class="cell"
                :aria-label="`${table.head[j]!.text} of ${row.cells[0]}`"
                :list="table.head[j]!.text === 'Section' ? 'sections' : undefined"
                @click.stop
                @keydown.enter.stop="commit"
                @keydown.esc.stop="editing = null"
                @blur="commit"
              />
              <UseBar v-else-if="table.head[j]?.use" :use="row.use ?? null" :status="row.status" />
              <template v-else>{{ cell }}</template>
            </td>
          </tr>
          <tr v-if="windowed.after" class="room" aria-hidden="true">
            <td :style="{ height: `${windowed.after}px` }" />
          </tr>
        </tbody>
      </table>
      <p v-if="!rows.length" class="note empty">{{ query ? `Nothing here contains “${query}”.` : table.empty }}</p>
    </div>
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.tabs {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 3px 12px 0;
  border-bottom: 1px solid var(--line);
  flex: none;
}
.filters {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 4px 12px;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
  border-bottom: 1px solid var(--line-soft);
  flex: none;
}
.filters :deep(.el-check-tag) {
  font: 500 12px var(--condensed);
  padding: 3px 8px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
  color: var(--ink);
}
.filters :deep(.el-check-tag.is-checked) {
  border-color: var(--ink);
  border-bottom-width: 2px;
  padding-bottom: 2px;
  background: var(--chalk-soft);
}
.filters b {
  font-weight: 400;
  color: var(--ink-2);
}
.names {
  display: contents;
}
.names > button {
  font: 500 12.5px var(--condensed);
  padding: 4px 12px;
  border: 1px solid transparent;
  border-bottom: 0;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
}
.names > button.on {
  background: #fff;
  border-color: var(--line);
  border-radius: 4px 4px 0 0;
  color: var(--ink);
  position: relative;
  top: 1px;
}
.filter {
  margin-left: auto;
  width: 158px;
}
.count {
  font-size: 11px;
  color: var(--ink-2);
  min-width: 28px;
  text-align: right;
}
.stale {
  color: #7d5a12;
  font: 500 12px var(--condensed);
  padding-left: 10px;
}
.scroll {
  overflow: auto;
  flex: 1;
}
table {
  border-collapse: collapse;
  width: 100%;
  font: 400 12.5px var(--condensed);
}
th {
  position: sticky;
  top: 0;
  background: var(--sheet);
  font: 500 11px var(--condensed);
  color: var(--ink-2);
  text-align: left;
  padding: 4px 12px;
  border-bottom: 1px solid var(--line-soft);
  z-index: 1;
}
td {
  padding: 3.5px 12px;
  border-bottom: 1px solid var(--line-soft);
}
td.mono {
  font-size: 12px;
  white-space: nowrap;
}
.n {
  text-align: right;
}
tbody tr {
  cursor: pointer;
  scroll-margin-top: 27px;
}
tbody tr:focus-visible {
  outline-offset: -2px;
}
td:first-child,
th:first-child {
  position: sticky;
  left: 0;
  background: var(--sheet);
}
th:first-child {
  z-index: 2;
}
tr.on td {
  background: var(--chalk-soft);
}
.empty {
  padding: 12px;
}
th button {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
.long td {
  height: 24px;
  white-space: nowrap;
}
.room td {
  border: 0;
  padding: 0;
}
.pointed {
  box-shadow: inset 0 0 0 1.5px var(--chalk);
}
.cell {
  width: 100%;
  font: inherit;
  border: 1px solid var(--chalk);
  padding: 0 3px;
  margin: -1px 0;
}
.refused {
  color: var(--oxide);
  font: 400 12px var(--condensed);
}
</style>
