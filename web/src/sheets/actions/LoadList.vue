<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { added, removed } from '../../lib/changes'
import { piecesOf } from '../../lib/loadTracks'
import { PLACES } from '../../lib/panelPlaces'
import { minus } from '../../lib/quantity'
import { useChosenLoad, type LoadKey } from '../../stores/chosenLoad'
import { useWorkbench } from '../../stores/workbench'
import LoadChange from './LoadChange.vue'
import LoadsTogether from './LoadsTogether.vue'
import OtherLoadChange from './OtherLoadChange.vue'

/** Loads by hand: of which case, on what, where, and how much. */
const bench = useWorkbench()
const chosen = useChosenLoad()
const wrong = ref('')
interface Row {
  key: LoadKey
  at: number
  case: string
  what: string
  words: string
  members: string[]
}
const PARTS = {
  area: (part: boolean) => (part ? ', a part' : ''),
  line: () => ', along a line',
  point: () => ', at a point',
}
const write = (v: readonly number[]) => minus(`(${v.map((x) => String(Number(x.toPrecision(4)))).join(', ')})`)
function place(load: Schemas['MemberLoad']): string {
  const start = load.start
  const far = (x: number) => (load.ratio ? `${Number((x * 100).toFixed(1))} %` : `${Number(x.toFixed(3))} m`)
  if (load.kind === 'temperature') return 'all of it'
  if (load.kind !== 'line') return `at ${far(start)}`
  return !start && load.end == null ? 'all of it' : `${far(start)} – ${load.end == null ? 'end' : far(load.end)}`
}
const rows = computed<Row[]>(() => {
  const order = new Map(bench.stated.cases.map((c, i) => [c.name, i]))
  const found: Row[] = [
    ...bench.stated.member_loads.map((load, at) => ({
      key: 'member_loads' as const,
      at,
      case: load.case,
      what: load.run?.length ? `${load.member} + ${load.run.length}` : load.member,
      words: `${place(load)} · ${load.kind ?? 'line'} ${write(load.value)}${load.value_end ? ` … ${write(load.value_end)}` : ''} ${load.axes ?? 'global'}`,
      members: [load.member, ...load.run],
    })),
    ...bench.stated.node_loads.map((load, at) => ({
      key: 'node_loads' as const,
      at,
      case: load.case,
      what: load.node,
      words: `force ${write(load.force ?? [0, 0, 0])} moment ${write(load.moment ?? [0, 0, 0])}`,
      members: [],
    })),
    ...bench.stated.settlements.map((move, at) => ({
      key: 'settlements' as const,
      at,
      case: move.case,
      what: move.node,
      words: `moved ${write(move.movement.map((v) => v * 1000))} mm`,
      members: [],
    })),
    ...bench.stated.panel_loads.map((load, at) => ({
      key: 'panel_loads' as const,
      at,
      case: load.case,
      what: load.panel,
      words: minus(
        `${load.pressure} ${PLACES[load.kind ?? 'area'].unit} ${load.axes ?? 'normal'}${PARTS[load.kind ?? 'area'](!!load.part?.length)}`,
      ),
      members: [],
    })),
    ...bench.stated.area_loads.map((load, at) => ({
      key: 'area_loads' as const,
      at,
      case: load.case,
      what: surfaces(load),
      words: minus(
        `${load.pressure} kN/m² ${load.axes ?? 'down'}${load.excluded?.length ? `, without ${load.excluded.length} members` : ''}`,
      ),
      members: load.excluded,
    })),
  ]
  return found.sort((a, b) => (order.get(a.case) ?? 1e6) - (order.get(b.case) ?? 1e6) || a.case.localeCompare(b.case))
})
const surfaces = (load: Schemas['AreaLoad']) =>
  load.on === 'panels'
    ? `${load.panels?.length} panels`
    : load.level
      ? `floors of ${load.level}`
      : `all ${load.on ?? 'panels'}`
const first = (i: number) => i === 0 || rows.value[i - 1]!.case !== rows.value[i]!.case
/** One by itself with all that shows it, or beside those that are chosen. */
function look(row: Row, beside: boolean) {
  const at = { key: row.key, number: row.at }
  if (beside) return chosen.choose(at, true)
  bench.overlays = new Set([...bench.overlays].filter((o) => o !== 'moment')).add('actions')
  if (row.members.length) bench.choose(row.members)
  bench.show(bench.chain?.cases?.find((c) => c.name === row.case)?.symbol ?? '')
  bench.openPanel(row.key === 'panel_loads' ? row.what : '')
  chosen.at = at
}
const isChosen = (row: Row) => chosen.has({ key: row.key, number: row.at })
/** What is typed of the chosen one comes into sight, once the sheet has found its height. */
function intoSight(row: unknown) {
  if (row instanceof HTMLElement) requestAnimationFrame(() => row.scrollIntoView({ block: 'nearest' }))
}
/** The same load on every chosen member that does not bear it. */
async function copy(row: Row) {
  const load = bench.document?.member_loads?.[row.at]
  if (!load) return
  const others = [...bench.chosen].filter((name) => name !== load.member)
  wrong.value = others.length ? '' : 'Choose the members that shall bear the load too.'
  if (!others.length) return
  const copies = others.map((member) => ({ ...load, member, run: [] }))
  wrong.value = ''
  const done = await bench.edit(
    `Load of ${load.member} copied to ${others.length} members`,
    added('member_loads', ...copies),
  )
  if (!done) wrong.value = bench.refusal?.message ?? ''
}
/** The load from the other end of its member, or of its run. */
async function turnRound(row: Row) {
  const load = bench.document?.member_loads?.[row.at]
  const track = load && piecesOf([load.member, ...(load.run ?? [])], bench.lists.members)?.at(-1)
  if (!load || !track) return
  const [start, end] = [load.start, load.end ?? null]
  const last = load.ratio ? 1 : track.from + track.length
  wrong.value = ''
  const done = await bench.operate(`Load on ${row.what} mirrored`, {
    do: 'load',
    number: row.at,
    value: load.value_end ?? load.value,
    value_end: load.value_end ? load.value : undefined,
    start: load.kind === 'line' ? Math.max(0, last - (end ?? last)) : last - start,
    ...(load.kind === 'line' ? { end: last - start } : {}),
  })
  if (!done) wrong.value = bench.refusal?.message ?? ''
}
const drop = (row: Row) =>
  bench.edit(`Load on ${row.what} dropped`, removed(row.key, bench.document?.[row.key]?.[row.at]))
</script>

<template>
  <h4>
    Loads by hand <span>{{ rows.length }}</span>
  </h4>
  <p v-if="!rows.length" class="note">
    None yet. What is put here acts beside the generated loads, in a case of its own or in theirs.
  </p>
  <p v-else-if="chosen.all.length === 1 && rows.length > 1" class="note">With Shift others are chosen beside it.</p>
  <LoadsTogether v-if="chosen.all.length > 1" />
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <ul class="load-list">
    <template v-for="(r, i) in rows" :key="`${r.key} ${r.at}`">
      <li v-if="first(i)" class="of">{{ r.case }}</li>
      <li :class="{ on: isChosen(r) }">
        <ElButton link size="small" :title="`Show ${r.case} on ${r.what}`" @click="look(r, $event.shiftKey)">{{
          r.what
        }}</ElButton>
        <span>{{ r.words }}</span>
        <template v-if="r.key === 'member_loads'">
          <ElButton link size="small" :title="`Put the load on ${r.what} on the chosen members too`" @click="copy(r)"
            >copy</ElButton
          >
          <ElButton link size="small" :title="`Count the load on ${r.what} from the other end`" @click="turnRound(r)"
            >mirror</ElButton
          >
        </template>
        <ElButton link size="small" :title="`Drop the load on ${r.what}`" @click="drop(r)">×</ElButton>
      </li>
      <li v-if="isChosen(r) && chosen.all.length === 1" :ref="intoSight" class="change">
        <LoadChange v-if="r.key === 'member_loads'" :number="r.at" />
        <OtherLoadChange v-else :of="r.key" :number="r.at" />
      </li>
    </template>
  </ul>
</template>
