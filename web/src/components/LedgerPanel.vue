<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { csv, save, tabbed, type Cell } from '../lib/table'
import { fixed } from '../lib/quantity'
import { figures } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import UseBar from './UseBar.vue'

defineProps<{ folded: boolean }>()
defineEmits<{ fold: [] }>()
const bench = useWorkbench()

interface Row {
  key: string
  cells: Cell[]
  use?: number | null
  status?: string
  bad?: boolean
}
interface Table {
  head: { text: string; number?: boolean; use?: boolean }[]
  rows: Row[]
  empty: string
}
const TABS = ['Groups', 'Members', 'Deflection', 'Reactions', 'Balance', 'Combinations'] as const
type Tab = (typeof TABS)[number]
const tab = ref<Tab>('Members')
const query = ref('')
const DEFAULT: Record<string, Tab> = {
  site: 'Balance',
  frame: 'Groups',
  actions: 'Balance',
  combinations: 'Combinations',
  response: 'Reactions',
  verification: 'Members',
  sizing: 'Groups',
  dossier: 'Members',
}
watch(
  () => bench.stage,
  (stage) => (tab.value = DEFAULT[stage] ?? 'Members'),
)

const n = (text: string) => ({ text, number: true })
const triple = (v: readonly number[]) => v.map((x) => fixed(x, 1)).join(' / ')
const table = computed<Table>(() => {
  const chain = bench.chain
  const members = chain?.members ?? []
  switch (tab.value) {
    case 'Groups':
      return {
        head: [
          { text: 'Role' },
          { text: 'Section' },
          n('Count'),
          { text: 'Worst utilisation', use: true },
          n('Mass kg'),
        ],
        rows: [...(chain?.roles ?? [])]
          .sort((a, b) => (b.worst ?? 9) - (a.worst ?? 9))
          .map((r) => ({
            key: r.role,
            cells: [r.label, r.section, r.count, r.worst ?? null, Math.round(r.mass)],
            use: r.worst ?? null,
            status: r.status,
          })),
        empty: 'No members yet.',
      }
    case 'Members':
      return {
        head: [
          { text: 'Member' },
          { text: 'Section' },
          n('Length m'),
          { text: 'Governs' },
          { text: 'Combination' },
          { text: 'Utilisation', use: true },
          n('Mass kg'),
        ],
        rows: [...members]
          .sort(
            (a, b) =>
              (b.status === 'not covered' ? 9 : (b.utilisation ?? 0)) -
              (a.status === 'not covered' ? 9 : (a.utilisation ?? 0)),
          )
          .map((m) => ({
            key: m.name,
            cells: [
              m.label,
              m.section,
              m.length.toFixed(2),
              m.not_covered.length ? m.not_covered.join('; ') : m.governs,
              m.combination,
              m.utilisation ?? null,
              Math.round(m.mass),
            ],
            use: m.utilisation ?? null,
            status: m.status,
          })),
        empty: 'No members yet.',
      }
    case 'Deflection':
      return {
        head: [
          { text: 'Member' },
          { text: 'Criterion' },
          { text: 'Combination' },
          { text: 'In symbols' },
          { text: 'Utilisation', use: true },
        ],
        rows: members
          .flatMap((m) =>
            (m.checks ?? [])
              .filter((c) => c.criterion === 'deflection' || c.criterion === 'sway')
              .map((c) => ({ m, c })),
          )
          .sort((a, b) => b.c.utilisation - a.c.utilisation)
          .map(({ m, c }) => ({
            key: m.name,
            cells: [m.label, c.words, c.combination, c.formula, c.utilisation],
            use: c.utilisation,
          })),
        empty: 'Deflection limits act on rafters and eaves of a hall; there are none here.',
      }
    case 'Reactions':
      return {
        head: [
          { text: 'Support' },
          { text: 'Direction' },
          n('Least kN, kNm'),
          { text: 'in' },
          n('Greatest kN, kNm'),
          { text: 'in' },
        ],
        rows: (chain?.reactions ?? []).flatMap((r) =>
          r.directions.map((d, i) => ({
            key: `${r.node} ${d}`,
            cells: [
              r.node,
              d.toUpperCase().replace('R', 'M about '),
              fixed(r.least[i]!, 1),
              r.least_in[i]!,
              fixed(r.most[i]!, 1),
              r.most_in[i]!,
            ],
          })),
        ),
        empty: 'No supports.',
      }
    case 'Balance':
      return {
        head: [
          { text: 'Case' },
          { text: 'Name' },
          { text: 'What it is' },
          n('Expected X / Y / Z kN'),
          n('Applied'),
          n('Reacted'),
          { text: 'Balance' },
        ],
        rows: (chain?.cases ?? []).map((c) => ({
          key: c.symbol,
          cells: [
            c.symbol,
            c.name,
            c.note,
            triple(c.expected),
            triple(c.applied),
            triple(c.reacted),
            c.holds ? 'holds' : `off by ${(c.off * 100).toFixed(2)} %`,
          ],
          bad: !c.holds,
        })),
        empty: 'No cases yet.',
      }
    default:
      return {
        head: [{ text: 'Name' }, { text: 'Use' }, { text: 'In symbols' }],
        rows: (chain?.combinations ?? []).map((c) => ({ key: c.name, cells: [c.name, c.use, c.formula] })),
        empty: 'No combinations yet.',
      }
  }
})
const rows = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean)
  return table.value.rows.filter((row) => words.every((w) => row.cells.join(' ').toLowerCase().includes(w)))
})
const chosen = computed(() => {
  if (tab.value === 'Members' || tab.value === 'Deflection') return bench.selected
  if (tab.value === 'Groups') return bench.member?.role ?? ''
  return bench.state
})

function choose(row: Row) {
  if (tab.value === 'Members' || tab.value === 'Deflection') bench.select(row.key, true)
  else if (tab.value === 'Groups') {
    const first = bench.worstFirst(row.key)[0]
    if (first) bench.select(first.name, true)
  } else if (tab.value === 'Balance' || tab.value === 'Combinations') bench.show(row.key)
  else if (row.cells[5]) bench.show(String(row.cells[5]))
}
const body = ref<HTMLElement>()
watch(chosen, () => nextTick(() => body.value?.querySelector('tr.on')?.scrollIntoView({ block: 'nearest' })))
function move(event: KeyboardEvent, index: number) {
  const next = index + (event.key === 'ArrowDown' ? 1 : -1)
  const row = rows.value[next]
  if (!row) return
  event.preventDefault()
  choose(row)
  void nextTick(() => body.value?.querySelectorAll('tr')[next]?.focus())
}
const copied = ref(false)
const plain = (row: Row) =>
  row.cells.map((cell, i) => (table.value.head[i]?.use ? figures(cell as number | null) : cell))
async function copy() {
  await navigator.clipboard.writeText(
    tabbed(
      table.value.head.map((h) => h.text),
      rows.value.map(plain),
    ),
  )
  copied.value = true
  setTimeout(() => (copied.value = false), 1500)
}
function download() {
  const title = `revision ${bench.chain?.revision}${bench.stale ? ' (behind)' : ''}`
  save(
    `${tab.value.toLowerCase()}-${title.replace(/[ ()]+/g, '-')}.csv`,
    csv(
      table.value.head.map((h) => h.text),
      rows.value.map(plain),
    ),
  )
}
</script>

<template>
  <section aria-label="Ledger">
    <div class="tabs" role="tablist">
      <button
        v-for="t in TABS"
        :key="t"
        role="tab"
        :aria-selected="t === tab"
        :class="{ on: t === tab }"
        @click="tab = t"
      >
        {{ t }}
      </button>
      <span v-if="bench.stale" class="stale">of revision {{ bench.chain?.revision }}</span>
      <input v-model="query" aria-label="Filter the ledger" placeholder="filter" />
      <span class="mono count">{{ rows.length }}</span>
      <button class="quiet" @click="copy">{{ copied ? 'copied' : 'copy' }}</button>
      <button class="quiet" @click="download">save CSV</button>
      <button class="quiet" :aria-expanded="!folded" @click="$emit('fold')">{{ folded ? 'unfold' : 'fold' }}</button>
    </div>
    <div v-if="!folded" class="scroll">
      <table>
        <thead>
          <tr>
            <th v-for="h in table.head" :key="h.text" :class="{ n: h.number }">{{ h.text }}</th>
          </tr>
        </thead>
        <tbody ref="body">
          <tr
            v-for="(row, i) in rows"
            :key="row.key"
            tabindex="0"
            :class="{ on: row.key === chosen }"
            @click="choose(row)"
            @keydown.enter="choose(row)"
            @keydown.down="move($event, i)"
            @keydown.up="move($event, i)"
          >
            <td
              v-for="(cell, j) in row.cells"
              :key="j"
              :class="{ n: table.head[j]?.number, mono: table.head[j]?.number, fails: row.bad }"
            >
              <UseBar v-if="table.head[j]?.use" :use="row.use ?? null" :status="row.status" />
              <template v-else>{{ cell }}</template>
            </td>
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
.tabs > button[role='tab'] {
  font: 500 12.5px var(--condensed);
  padding: 4px 12px;
  border: 1px solid transparent;
  border-bottom: 0;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
}
.tabs > button.on {
  background: #fff;
  border-color: var(--line);
  border-radius: 4px 4px 0 0;
  color: var(--ink);
  position: relative;
  top: 1px;
}
.tabs input {
  margin-left: auto;
  width: 130px;
  font: 400 12px var(--condensed);
  border: 1px solid var(--line);
  padding: 2px 6px;
  border-radius: 3px;
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
}
tbody tr:focus-visible {
  outline-offset: -2px;
}
tr.on td {
  background: var(--chalk-soft);
}
.empty {
  padding: 12px;
}
</style>
