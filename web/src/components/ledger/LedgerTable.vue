<script setup lang="ts">
/** The rows of the ledger: chosen, moved through by keys, written in place; long tables draw only the rows in sight. */
import { ElButton, ElInput } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import type { Row, Table } from '../../lib/ledgerTypes'
import { dragged } from '../../lib/ledgerColumns'
import { vFocus } from '../../lib/focus'
import { useCells } from '../../lib/ledgerCells'
import { useWindow } from '../../lib/ledgerWindow'
import { useWorkbench } from '../../stores/workbench'
import UseBar from '../UseBar.vue'

const props = defineProps<{
  table: Table
  rows: Row[]
  off: Set<string>
  widths: Record<string, number>
  sorting: { column: number; falling: boolean } | null
  isOn: (row: Row) => boolean
  nothing: string
}>()
const emit = defineEmits<{
  choose: [row: Row, add: boolean]
  sort: [column: number]
  widen: [column: string, width: number | null]
}>()
const wrong = defineModel<string>('wrong', { required: true })
const bench = useWorkbench()
const rows = computed(() => props.rows)

const scroller = ref<HTMLElement>()
const { windowed, long, onScroll, show } = useWindow(rows, scroller)
const body = ref<HTMLElement>()
watch(
  () => [bench.selected, bench.state],
  () =>
    nextTick(() => {
      const at = rows.value.findIndex(props.isOn)
      if (at < 0) return
      if (long.value) show(at)
      else body.value?.querySelector('tr.on')?.scrollIntoView({ block: 'nearest' })
    }),
)
function move(event: KeyboardEvent, index: number) {
  if (editing.value) return
  const next = index + (event.key === 'ArrowDown' ? 1 : -1)
  const row = rows.value[next]
  if (!row) return
  event.preventDefault()
  emit('choose', row, false)
  void nextTick(() => body.value?.querySelector<HTMLElement>(`tr[data-at="${next}"]`)?.focus())
}

const { editing, pointed, startEdit, commit, paste } = useCells(
  computed(() => props.table),
  rows,
  wrong,
)

watch(
  () => props.table.head.map((h) => h.text).join(),
  () => (editing.value = null),
)
</script>

<template>
  <div ref="scroller" class="scroll" @scroll.passive="onScroll" @paste="paste">
    <table :class="{ long }">
      <thead>
        <tr>
          <th
            v-for="(h, j) in table.head"
            v-show="!off.has(h.text)"
            :key="j"
            :class="{ n: h.number }"
            :style="widths[h.text] ? { width: `${widths[h.text]}px`, minWidth: `${widths[h.text]}px` } : {}"
            :aria-sort="sorting?.column === j ? (sorting.falling ? 'descending' : 'ascending') : undefined"
          >
            <ElButton
              link
              class="sort"
              :title="`Sort by ${h.text}${h.write ? '; its cells can be written: double click, or paste' : ''}`"
              @click="$emit('sort', j)"
            >
              {{ h.text }}{{ h.write ? ' ✎' : '' }}{{ sorting?.column === j ? (sorting.falling ? ' ↓' : ' ↑') : '' }}
            </ElButton>
            <i
              class="edge"
              title="Drag for the width of the column; double click: as wide as what stands in it"
              @pointerdown="dragged($event, (width) => $emit('widen', h.text, width))"
              @dblclick="$emit('widen', h.text, null)"
            />
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
          @click="$emit('choose', row, $event.shiftKey || $event.ctrlKey)"
          @keydown.enter="$emit('choose', row, false)"
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
            <ElInput
              v-if="editing?.key === row.key && editing.column === j"
              v-model="editing.text"
              v-focus
              class="cell"
              size="small"
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
    <p v-if="!rows.length" class="note empty">{{ nothing }}</p>
  </div>
</template>

<style scoped>
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
.sort {
  padding: 0;
  font: inherit;
  color: inherit;
  height: auto;
}
.edge {
  position: absolute;
  inset: 0 0 0 auto;
  width: 7px;
  cursor: col-resize;
  touch-action: none;
}
.edge:hover {
  border-right: 2px solid var(--chalk);
}
</style>
