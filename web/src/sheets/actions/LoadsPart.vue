<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { minus } from '../../lib/quantity'
import { components, inRun, readStretch, type Towards, TOWARDS } from '../../lib/loads'
import { added, removed, unnamed } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'

/** Cases and loads of one's own, beside the generated ones. */
const bench = useWorkbench()
const wrong = ref('')
const NATURES = [
  'permanent',
  'imposed',
  'snow',
  'wind',
  'temperature',
  'accidental',
  'crane',
  'seismic',
  'other',
] as const
const CATEGORIES = ['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H']
const own = computed(() => bench.document?.cases ?? [])
const draft = ref({ name: '', nature: 'imposed', category: 'E', excludes: '', together: '' })
async function addCase() {
  const name = draft.value.name.trim()
  if (!name) {
    wrong.value = 'The case needs a name.'
    return
  }
  const value = {
    name,
    nature: draft.value.nature,
    category: draft.value.nature === 'imposed' ? draft.value.category : '',
    excludes: draft.value.excludes.trim(),
    together: draft.value.together.trim(),
    self_weight: false,
  }
  wrong.value = ''
  draft.value.name = ''
  onCase.value = name
  const done = await bench.edit(`Case ${name}`, added('cases', value))
  if (done) return
  wrong.value = bench.refusal?.message ?? ''
  draft.value.name = name
  onCase.value = ''
}
const LISTS = ['member_loads', 'node_loads', 'panel_loads', 'settlements'] as const
type List = (typeof LISTS)[number]
type Kind = 'member' | 'node' | 'panel'
const uses = (name: string) =>
  LISTS.reduce((sum, key) => sum + (bench.document?.[key] ?? []).filter((load) => load.case === name).length, 0)
const dropCase = (name: string) =>
  bench.edit(`Case ${name} dropped`, [
    ...unnamed('cases', own.value, name),
    ...LISTS.flatMap((key) => removed(key, ...(bench.document?.[key] ?? []).filter((load) => load.case === name))),
    ...removed('combinations', ...(bench.document?.combinations ?? []).filter((c) => name in c.factors)),
  ])

const onCase = ref('')
const target = ref<Kind>('member')
const kind = ref<'line' | 'force' | 'moment' | 'temperature' | 'settlement'>('line')
const asRun = ref(false)
const towards = ref<Towards>('down')
const size = ref('5')
const stretch = ref('')
const node = ref('')
const panel = ref('')
const part = ref('')
const axes = ref<'normal' | 'down' | 'plan'>('down')
const names = computed(() => [
  ...new Set([
    ...own.value.map((c) => c.name),
    ...(bench.chain?.cases ?? []).filter((c) => c.nature !== 'imperfection').map((c) => c.name),
  ]),
])
const numbers = (text: string) =>
  text
    .replaceAll('−', '-')
    .replaceAll(',', '.')
    .split(/[\s;]+/)
    .filter(Boolean)
    .map(Number)

/** The usual direction of a nature: snow on the plan, wind onto the surface, all else downwards. */
watch(onCase, (name) => {
  const nature = (own.value.find((c) => c.name === name) ?? bench.chain?.cases?.find((c) => c.name === name))?.nature
  axes.value = nature === 'wind' ? 'normal' : nature === 'snow' ? 'plan' : 'down'
  towards.value = nature === 'wind' ? 'X' : nature === 'snow' ? 'plan' : 'down'
  kind.value = nature === 'temperature' ? 'temperature' : 'line'
})

async function addLoad() {
  const values = numbers(size.value)
  wrong.value = ''
  if (!onCase.value) wrong.value = 'Choose the case that the load belongs to.'
  else if (!values.length || values.length > 2 || !values.every(Number.isFinite))
    wrong.value = 'One size is needed, or two for a load that changes along the member: 5 or 2 8.'
  if (wrong.value) return
  if (target.value === 'panel') return addPanelLoad(values[0]!)
  const vector = components(towards.value, values[0]!)
  if (target.value === 'node') {
    if (kind.value === 'settlement') {
      // typed in millimetres, kept in metres
      const movement = vector.value.map((v) => v / 1000)
      return put('settlements', [{ case: onCase.value, node: node.value, movement }], `Settlement of ${node.value}`)
    }
    const load = {
      case: onCase.value,
      node: node.value,
      ...(kind.value === 'moment' ? { moment: vector.value } : { force: vector.value }),
    }
    return put('node_loads', [load], `Load on ${node.value}`)
  }
  const where = readStretch(stretch.value)
  if (typeof where === 'string') {
    wrong.value = where
    return
  }
  if (!bench.chosen.size) {
    wrong.value = 'Choose the members that bear the load, in the drawing or the ledger.'
    return
  }
  if (kind.value === 'temperature') vector.value = [values[0]!, 0, 0]
  const last = values.length === 2 ? components(towards.value, values[1]!).value : null
  let bearers: { member: string; run: string[] }[] = [...bench.chosen].map((member) => ({ member, run: [] }))
  if (asRun.value && bearers.length > 1) {
    const order = inRun(bench.picked.map((m) => ({ name: m.name, nodes: m.line })))
    if (typeof order === 'string') {
      wrong.value = order
      return
    }
    bearers = [{ member: order[0]!, run: order.slice(1) }]
  }
  const loads = bearers.map((bearer) => ({
    case: onCase.value,
    ...bearer,
    kind: kind.value,
    value: vector.value,
    value_end: last,
    axes: vector.axes,
    ...where,
  }))
  await put('member_loads', loads, `Load on ${loads.length === 1 ? loads[0]!.member : `${loads.length} members`}`)
}
function addPanelLoad(pressure: number) {
  const name = panel.value || bench.panel?.name
  const box = numbers(part.value)
  if (!name) wrong.value = 'Choose the panel that is pressed.'
  else if (box.length && (box.length !== 4 || !box.every(Number.isFinite)))
    wrong.value = 'A part is four numbers in the drawing, in metres: left, bottom, right, top.'
  else if (box.length && bench.panel?.name !== name) wrong.value = 'Lay the panel flat to load a part of it.'
  if (wrong.value) return
  const [x0, y0, x1, y1] = box
  const corners = box.length
    ? [
        [x0!, y0!],
        [x1!, y0!],
        [x1!, y1!],
        [x0!, y1!],
      ]
    : []
  const turn = bench.panel?.turn
  const flat = corners.map(([x, y]) => turn!.map((row) => row[0]! + row[1]! * x! + row[2]! * y!))
  const load = { case: onCase.value, panel: name!, pressure, axes: axes.value, part: flat, label: '' }
  return put('panel_loads', [load], `Pressure on ${name}`)
}
async function put(key: List, loads: unknown[], label: string) {
  const done = await bench.edit(label, added(key, ...loads))
  wrong.value = done ? '' : (bench.refusal?.message ?? '')
  if (done) bench.show(bench.chain?.cases?.find((c) => c.name === onCase.value)?.symbol ?? '')
}
interface Row {
  key: List
  at: number
  case: string
  what: string
  words: string
}
const rows = computed<Row[]>(() => {
  const d = bench.document
  const write = (v: readonly number[]) => minus(`(${v.map((x) => String(Number(x.toPrecision(4)))).join(', ')})`)
  return [
    ...(d?.member_loads ?? []).map((load, at) => ({
      key: 'member_loads' as const,
      at,
      case: load.case,
      what: load.run?.length ? `${load.member} + ${load.run.length}` : load.member,
      words: `${load.kind ?? 'line'} ${write(load.value)}${load.value_end ? ` … ${write(load.value_end)}` : ''} ${load.axes ?? 'global'}`,
    })),
    ...(d?.node_loads ?? []).map((load, at) => ({
      key: 'node_loads' as const,
      at,
      case: load.case,
      what: load.node,
      words: `force ${write(load.force ?? [0, 0, 0])} moment ${write(load.moment ?? [0, 0, 0])}`,
    })),
    ...(d?.settlements ?? []).map((move, at) => ({
      key: 'settlements' as const,
      at,
      case: move.case,
      what: move.node,
      words: `moved ${write(move.movement.map((v) => v * 1000))} mm`,
    })),
    ...(d?.panel_loads ?? []).map((load, at) => ({
      key: 'panel_loads' as const,
      at,
      case: load.case,
      what: load.panel,
      words: minus(`${load.pressure} kN/m² ${load.axes ?? 'normal'}${load.part?.length ? ', a part' : ''}`),
    })),
  ]
})
/** The same load on every chosen member that does not bear it. */
function copyLoad(row: Row) {
  const load = bench.document?.member_loads?.[row.at]
  if (!load) return
  const others = [...bench.chosen].filter((name) => name !== load.member)
  wrong.value = others.length ? '' : 'Choose the members that shall bear the load too.'
  if (others.length)
    void put(
      'member_loads',
      others.map((member) => ({ ...load, member, run: [] })),
      `Load of ${load.member} copied to ${others.length} members`,
    )
}
const dropLoad = (row: Row) =>
  bench.edit(`Load on ${row.what} dropped`, removed(row.key, bench.document?.[row.key]?.[row.at]))
const words = (c: Schemas['CaseInput']) =>
  [
    c.nature,
    c.category && `category ${c.category}`,
    c.excludes && `never with ${c.excludes}`,
    c.together && `together: ${c.together}`,
  ]
    .filter(Boolean)
    .join(' · ')
</script>

<template>
  <h4>Own case</h4>
  <div class="form">
    <label>Name <input v-model="draft.name" aria-label="Name of the case" placeholder="Crane, east" /></label>
    <label
      >Nature
      <select v-model="draft.nature" aria-label="Nature of the case">
        <option v-for="n in NATURES" :key="n">{{ n }}</option>
      </select></label
    >
    <label v-if="draft.nature === 'imposed'"
      >Category
      <select v-model="draft.category" aria-label="Category of the case">
        <option v-for="c in CATEGORIES" :key="c">{{ c }}</option>
      </select></label
    >
    <label title="Cases with the same word never act together; generated snow bears “snow”, wind “wind”"
      >Never together with
      <input v-model="draft.excludes" aria-label="Set of the case" placeholder="a word of your own"
    /></label>
    <label title="Cases with the same word are one action: they act at once, with one factor"
      >Always together with
      <input v-model="draft.together" aria-label="Action of the case" placeholder="a word of your own"
    /></label>
    <p class="buttons"><button class="plate" @click="addCase">Add the case</button></p>
  </div>
  <ul>
    <li v-for="c in own" :key="c.name">
      <b>{{ c.name }}</b><span>{{ words(c) }} · {{ uses(c.name) }} loads</span
      ><button class="quiet" :title="`Drop ${c.name} with its loads`" @click="dropCase(c.name)">×</button>
    </li>
  </ul>
  <h4>Load</h4>
  <div class="form">
    <label
      >Of case
      <select v-model="onCase" aria-label="Case of the load">
        <option v-for="n in names" :key="n">{{ n }}</option>
      </select></label
    >
    <label
      >On
      <select v-model="target" aria-label="What bears the load">
        <option value="member">the {{ bench.chosen.size }} chosen members</option>
        <option value="node">a node</option>
        <option value="panel">a panel</option>
      </select></label
    >
    <template v-if="target === 'panel'">
      <label
        >Panel
        <select v-model="panel" aria-label="Panel of the load">
          <option value="">{{ bench.panel?.name ?? '–' }}</option>
          <option v-for="p in bench.chain?.panels ?? []" :key="p.name">{{ p.name }}</option>
        </select></label
      >
      <label
        >Pushes
        <select v-model="axes" aria-label="Direction of the pressure">
          <option value="down">down, per m² of surface</option>
          <option value="plan">down, per m² of plan</option>
          <option value="normal">onto it, from outside</option>
        </select></label
      >
      <label title="Left, bottom, right, top in metres of the drawing; empty: the whole panel"
        >Part <input v-model="part" aria-label="Part of the panel" placeholder="0 0 6 2.5"
      /></label>
    </template>
    <template v-else>
      <label v-if="target === 'node'">Node <input v-model="node" aria-label="Node of the load" /></label>
      <label
        >Kind
        <select v-model="kind" aria-label="Kind of load">
          <option v-if="target === 'member'" value="line">line, kN/m</option>
          <option value="force">force, kN</option>
          <option value="moment">moment, kNm</option>
          <option v-if="target === 'member'" value="temperature">warmer by, K</option>
          <option v-if="target === 'node'" value="settlement">settlement, mm</option>
        </select></label
      >
      <label
        >Direction
        <select v-model="towards" aria-label="Direction of the load">
          <option v-for="(t, key) in TOWARDS" :key="key" :value="key">{{ t.words }}</option>
        </select></label
      >
      <label
        v-if="target === 'member' && bench.chosen.size > 1 && kind !== 'temperature'"
        class="run"
        title="One load over all of them; distances count from the free end of the run"
        ><input v-model="asRun" type="checkbox" aria-label="As one run" /> the members follow one another: one
        run</label
      >
      <label
        v-if="target === 'member'"
        title="In metres from the start, or in % of the length; one number for a force; empty: the whole member"
        >From – to <input v-model="stretch" aria-label="Where on the member" placeholder="whole, 1 – 3.5 or 50 %"
      /></label>
    </template>
    <label :title="target === 'panel' ? 'kN/m²' : 'kN, kN/m or kNm; two numbers: at the start and at the end'"
      >Size <input v-model="size" aria-label="Size of the load" placeholder="5   or   2 8"
    /></label>
    <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
    <p class="buttons"><button class="plate solid" @click="addLoad">Put the load</button></p>
  </div>
  <h4>
    Loads by hand <span>{{ rows.length }}</span>
  </h4>
  <ul>
    <li v-for="r in rows" :key="`${r.key} ${r.at}`" :title="r.case">
      <b>{{ r.what }}</b><span>{{ r.words }}</span
      ><button
        v-if="r.key === 'member_loads'"
        class="quiet"
        :title="`Put the load on ${r.what} on the chosen members too`"
        @click="copyLoad(r)"
      >
        copy</button
      ><button class="quiet" :title="`Drop the load on ${r.what}`" @click="dropLoad(r)">×</button>
    </li>
  </ul>
</template>

<style scoped>
.run {
  display: flex;
  gap: 6px;
  align-items: center;
}
.run input {
  width: auto;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 12px;
  font: 400 12.5px var(--condensed);
}
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
li span {
  flex: 1;
  color: var(--ink-2);
}
h4 span {
  font-weight: 400;
}
</style>
