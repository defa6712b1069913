<script setup lang="ts">
/** Tables of everything, by stage: sorted, sieved, written, and out again. */
import { computed, ref, watch } from 'vue'
import { ledger, tabsOf, type Tab } from '../lib/ledger'
import type { Row } from '../lib/ledgerTypes'
import { useColumns } from '../lib/ledgerColumns'
import { sieve } from '../lib/sieve'
import { compare } from '../lib/table'
import { useWorkbench } from '../stores/workbench'
import LedgerFilters from './ledger/LedgerFilters.vue'
import LedgerHead from './ledger/LedgerHead.vue'
import LedgerTable from './ledger/LedgerTable.vue'

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
const tabs = computed(() =>
  tabsOf(bench.stage).filter(
    (tab) =>
      (tab !== 'Footings' || bench.lists.pads.length) && (tab !== 'Design members' || bench.chain?.lines?.length),
  ),
)
/** The names of all pieces of the design member that begins with this one. */
function piecesOf(first: string): string[] {
  const line = bench.chain?.lines?.find((own) => bench.lists.members[own[0]!]?.name === first)
  return line?.map((i) => bench.lists.members[i]!.name) ?? [first]
}
const table = computed(() =>
  ledger(
    tab.value,
    bench.chain,
    bench.document?.member_loads,
    { of: bench.marks, onlyGoverning: bench.onlyGoverning },
    { extremes: bench.extremes, states: bench.states, sways: bench.sways, decks: bench.decks, slabs: bench.slabs },
  ),
)
const MEMBERS: Tab[] = ['Members', 'Deflection', 'Steelwork', 'Forces']
const sorting = ref<{ column: number; falling: boolean } | null>(null)
watch(tab, () => (sorting.value = null))
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

const chosen = computed(() => {
  if (tab.value === 'Groups') return bench.member?.role ?? ''
  if (tab.value === 'Sections') return bench.member?.section ?? ''
  if (tab.value === 'Sway' || tab.value === 'Loads') return bench.selected
  return bench.state
})
const isOn = (row: Row) =>
  MEMBERS.includes(tab.value) || tab.value === 'Design members'
    ? bench.chosen.has(row.key)
    : (row.member ?? row.key) === chosen.value

function choose(row: Row, add = false) {
  const members = bench.lists.members
  if (MEMBERS.includes(tab.value)) bench.select(row.key, !add, add)
  else if (tab.value === 'Design members') bench.choose(piecesOf(row.key))
  else if (row.member) bench.select(row.member, true)
  else if (tab.value === 'Decks') void bench.openPanel(row.key)
  else if (row.members) bench.choose(row.members)
  else if (tab.value === 'Groups') {
    const first = bench.worstFirst(row.key)[0]
    if (first) bench.select(first.name, true)
  } else if (tab.value === 'Sections') bench.choose(members.filter((m) => m.section === row.key).map((m) => m.name))
  else if (tab.value === 'Nodes' || tab.value === 'Supports') {
    const at = bench.chain!.node_names.indexOf(row.key)
    bench.choose(members.filter((m) => m.line.includes(at)).map((m) => m.name))
  } else if (row.state) bench.show(row.state)
}
const wrong = ref('')
const { off, widths, showColumn, widen } = useColumns(tab)
</script>

<template>
  <section aria-label="Ledger">
    <LedgerHead
      v-model:tab="tab"
      v-model:query="query"
      v-model:wrong="wrong"
      :tabs="tabs"
      :table="table"
      :rows="rows"
      :off="off"
      :folded="folded"
      @column="showColumn"
      @fold="$emit('fold')"
    />
    <LedgerFilters v-if="!folded && bench.stage === 'verification'" />
    <LedgerTable
      v-if="!folded"
      v-model:wrong="wrong"
      :table="table"
      :rows="rows"
      :off="off"
      :widths="widths"
      :sorting="sorting"
      :is-on="isOn"
      :nothing="query ? `Nothing here contains “${query}”.` : table.empty"
      @choose="choose"
      @sort="sortBy"
      @widen="widen"
    />
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
</style>
