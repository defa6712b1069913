<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput, ElOption, ElOptionGroup, ElSelect } from 'element-plus'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { added } from '../../lib/changes'
import { components, inRun, readSteps, readStretch, spanPatterns, type Towards, TOWARDS } from '../../lib/loads'
import { fixed, minus } from '../../lib/quantity'
import { useTrialLoad } from '../../stores/trialLoad'
import { useWorkbench } from '../../stores/workbench'

/** A load being written: on chosen members, a node, a panel, or on many surfaces at once. */
const bench = useWorkbench()
const wrong = ref('')
type Target = 'member' | 'node' | 'panel' | 'area'
type List = 'member_loads' | 'node_loads' | 'panel_loads' | 'area_loads' | 'settlements'
const target = ref<Target>('member')
const kind = ref<'line' | 'force' | 'moment' | 'temperature' | 'settlement'>('line')
const asRun = ref(false)
const patterns = ref(false)
const inPatterns = computed(() => patterns.value && !asRun.value && bench.chosen.size > 1)
const towards = ref<Towards>('down')
const size = ref('5')
const stretch = ref('')
const node = ref('')
const panel = ref('')
const part = ref('')
const axes = ref<'normal' | 'down' | 'plan'>('down')
const PUSHES = [
  ['down', 'down, per m² of surface'],
  ['plan', 'down, per m² of plan'],
  ['normal', 'onto it, from outside'],
] as const
const own = computed(() => bench.document?.cases ?? [])
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
watch(
  () => bench.ownCase,
  (name) => {
    const nature = (own.value.find((c) => c.name === name) ?? bench.chain?.cases?.find((c) => c.name === name))?.nature
    axes.value = nature === 'wind' ? 'normal' : nature === 'snow' ? 'plan' : 'down'
    towards.value = nature === 'wind' ? 'X' : nature === 'snow' ? 'plan' : 'down'
    kind.value = nature === 'temperature' ? 'temperature' : 'line'
  },
)

// many surfaces at once
const SETS = { roofs: 'all roofs', walls: 'all walls', floors: 'all floors' } as const
const onto = ref<string[]>(['set roofs'])
const leaveOut = ref(false)
const floorLevels = computed(() => (bench.chain?.levels ?? []).filter((v) => v.floor).map((v) => v.name))
const there = computed(() => new Set((bench.chain?.panels ?? []).map((p) => p.kind)))
/** One load for each set that is chosen, and one for the panels that are named. */
const areas = computed<Schemas['AreaLoad'][]>(() => {
  const pressure = numbers(size.value)[0]
  if (target.value !== 'area' || pressure === undefined || !Number.isFinite(pressure)) return []
  const base: Schemas['AreaLoad'] = {
    on: 'panels',
    level: '',
    panels: [],
    label: '',
    case: bench.ownCase || 'trial',
    pressure,
    axes: axes.value,
    excluded: leaveOut.value ? [...bench.chosen] : [],
  }
  const found: Schemas['AreaLoad'][] = []
  const panels: string[] = []
  for (const key of onto.value) {
    const [what, name] = [key.slice(0, key.indexOf(' ')), key.slice(key.indexOf(' ') + 1)]
    if (what === 'set') found.push({ ...base, on: name as keyof typeof SETS })
    else if (what === 'level') found.push({ ...base, on: 'floors', level: name })
    else panels.push(name)
  }
  if (panels.length) found.push({ ...base, on: 'panels', panels })
  return found
})
const trial = computed(() => (areas.value.length === 1 ? areas.value[0]! : null))
const { told, problem, clear } = useTrialLoad(trial)

async function addLoad() {
  wrong.value = ''
  const steps = target.value === 'member' && kind.value === 'line' ? readSteps(size.value) : null
  const values = steps ? [0] : numbers(size.value)
  if (!bench.ownCase) wrong.value = 'Choose the case that the load belongs to.'
  else if (typeof steps === 'string') wrong.value = steps
  else if (steps && stretch.value.trim()) wrong.value = 'Steps say themselves where they lie: leave From – to empty.'
  else if (!values.length || values.length > 2 || !values.every(Number.isFinite))
    wrong.value =
      'One size is needed, or two for a load that changes along the member: 5 or 2 8; or steps: -6:3 -2:8.2 1.'
  if (wrong.value) return
  if (target.value === 'area') return addAreas()
  if (target.value === 'panel') return addPanelLoad(values[0]!)
  if (target.value === 'node') return addNodeLoad(values[0]!)
  const bearers = bearersOf()
  if (typeof bearers === 'string') {
    wrong.value = bearers
    return
  }
  const pieces = Array.isArray(steps) ? steps : whole(values)
  if (typeof pieces === 'string') {
    wrong.value = pieces
    return
  }
  const loads = bearers.flatMap((bearer) =>
    pieces.map(({ first, last, start, end, ratio }) => {
      const vector = components(towards.value, first)
      return {
        case: bench.ownCase,
        ...bearer,
        kind: kind.value,
        value: kind.value === 'temperature' ? [first, 0, 0] : vector.value,
        value_end: last === first ? null : components(towards.value, last).value,
        axes: vector.axes,
        start,
        end,
        ratio,
      }
    }),
  )
  if (inPatterns.value) return addPatterns(loads, bearers)
  await put('member_loads', loads, `Load on ${bearers.length === 1 ? bearers[0]!.member : `${bearers.length} members`}`)
}
/** The load on some of the spans at a time: cases of which one acts. */
function addPatterns(loads: { member: string }[], bearers: { member: string }[]) {
  const order = inRun(bench.picked.map((m) => ({ name: m.name, nodes: m.line })))
  if (typeof order === 'string') {
    wrong.value = order
    return
  }
  const found = spanPatterns(order.length).map(({ words, takes }) => ({ name: `${bench.ownCase}, ${words}`, takes }))
  const all = found.flatMap(({ name, takes }) =>
    loads.filter((load) => takes[order.indexOf(load.member)]).map((load) => ({ ...load, case: name })),
  )
  const cases = found.map(({ name }) => name)
  return put('member_loads', all, `Load in patterns on ${bearers.length} spans`, cases)
}
/** A load over one stretch: even, or from one size to another. */
function whole(values: readonly number[]) {
  const where = readStretch(stretch.value)
  return typeof where === 'string' ? where : [{ ...where, first: values[0]!, last: values[1] ?? values[0]! }]
}
function bearersOf(): { member: string; run: string[] }[] | string {
  if (!bench.chosen.size) return 'Choose the members that bear the load, in the drawing or the ledger.'
  if (!asRun.value || bench.chosen.size < 2) return [...bench.chosen].map((member) => ({ member, run: [] }))
  const order = inRun(bench.picked.map((m) => ({ name: m.name, nodes: m.line })))
  return typeof order === 'string' ? order : [{ member: order[0]!, run: order.slice(1) }]
}
function addNodeLoad(value: number) {
  const vector = components(towards.value, value).value
  if (kind.value === 'settlement') {
    // typed in millimetres, kept in metres
    const movement = vector.map((v) => v / 1000)
    return put('settlements', [{ case: bench.ownCase, node: node.value, movement }], `Settlement of ${node.value}`)
  }
  const load = {
    case: bench.ownCase,
    node: node.value,
    ...(kind.value === 'moment' ? { moment: vector } : { force: vector }),
  }
  return put('node_loads', [load], `Load on ${node.value}`)
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
  const load = { case: bench.ownCase, panel: name!, pressure, axes: axes.value, part: flat, label: '' }
  return put('panel_loads', [load], `Pressure on ${name}`)
}
function addAreas() {
  if (!areas.value.length) wrong.value = 'Choose the surfaces that are pressed.'
  else if (!problem.value) return put('area_loads', areas.value, `Pressure on ${onto.value.map(said).join(', ')}`)
}
const said = (key: string) => {
  const name = key.slice(key.indexOf(' ') + 1)
  return key.startsWith('set') ? SETS[name as keyof typeof SETS] : name
}
/** A case that is named here for the first time is made with its load: imposed, of category E, until it says otherwise. */
function fresh(...found: string[]) {
  const known = new Set(names.value)
  const excludes = found.length > 1 ? bench.ownCase : ''
  return found
    .filter((name) => !known.has(name))
    .map((name) => ({ name, nature: 'imposed', category: 'E', excludes, together: '', self_weight: false }))
}
async function put(key: List, loads: unknown[], label: string, cases = [bench.ownCase]) {
  const done = await bench.edit(label, [...added('cases', ...fresh(...cases)), ...added(key, ...loads)])
  wrong.value = done ? '' : (bench.refusal?.message ?? '')
  if (!done) return
  clear()
  bench.overlays = new Set([...bench.overlays].filter((o) => o !== 'moment')).add('actions')
  bench.show(bench.chain?.cases?.find((c) => c.name === cases[0])?.symbol ?? '')
}
</script>

<template>
  <h4>Load</h4>
  <div class="load-grid">
    <span>Of case</span>
    <ElSelect
      v-model="bench.ownCase"
      size="small"
      filterable
      allow-create
      default-first-option
      placeholder="choose, or name a new one"
      aria-label="Case of the load"
    >
      <ElOption v-for="n in names" :key="n" :value="n" :label="n" />
    </ElSelect>
    <span>On</span>
    <ElSelect v-model="target" size="small" aria-label="What bears the load">
      <ElOption value="member" :label="`the ${bench.chosen.size} chosen members`" />
      <ElOption value="node" label="a node" />
      <ElOption value="panel" label="a panel, or a part of it" />
      <ElOption value="area" label="surfaces: roofs, walls, floors" />
    </ElSelect>
    <template v-if="target === 'area'">
      <span>Surfaces</span>
      <ElSelect
        v-model="onto"
        size="small"
        multiple
        collapse-tags
        filterable
        placeholder="choose"
        aria-label="Surfaces of the load"
      >
        <ElOptionGroup label="All">
          <ElOption
            v-for="(label, key) in SETS"
            :key="key"
            :value="`set ${key}`"
            :label="label"
            :disabled="!there.has(key.slice(0, -1)) && !there.has('surface')"
          />
        </ElOptionGroup>
        <ElOptionGroup v-if="floorLevels.length" label="Floors of a level">
          <ElOption v-for="v in floorLevels" :key="v" :value="`level ${v}`" :label="v" />
        </ElOptionGroup>
        <ElOptionGroup label="Panels">
          <ElOption v-for="p in bench.chain?.panels ?? []" :key="p.name" :value="`panel ${p.name}`" :label="p.name" />
        </ElOptionGroup>
      </ElSelect>
    </template>
    <template v-if="target === 'panel'">
      <span>Panel</span>
      <ElSelect v-model="panel" size="small" filterable aria-label="Panel of the load">
        <ElOption value="" :label="bench.panel?.name ?? '–'" />
        <ElOption v-for="p in bench.chain?.panels ?? []" :key="p.name" :value="p.name" :label="p.name" />
      </ElSelect>
    </template>
    <template v-if="target === 'panel' || target === 'area'">
      <span>Pushes</span>
      <ElSelect v-model="axes" size="small" aria-label="Direction of the pressure">
        <ElOption v-for="[value, label] in PUSHES" :key="value" :value="value" :label="label" />
      </ElSelect>
    </template>
    <template v-if="target === 'panel'">
      <span title="Left, bottom, right, top in metres of the drawing; empty: the whole panel">Part</span>
      <ElInput v-model="part" size="small" aria-label="Part of the panel" placeholder="0 0 6 2.5" />
    </template>
    <template v-if="target === 'node'">
      <span>Node</span>
      <ElInput v-model="node" size="small" aria-label="Node of the load" />
    </template>
    <template v-if="target === 'member' || target === 'node'">
      <span>Kind</span>
      <ElSelect v-model="kind" size="small" aria-label="Kind of load">
        <ElOption v-if="target === 'member'" value="line" label="line, kN/m" />
        <ElOption value="force" label="force, kN" />
        <ElOption value="moment" label="moment, kNm" />
        <ElOption v-if="target === 'member'" value="temperature" label="warmer by, K" />
        <ElOption v-if="target === 'node'" value="settlement" label="settlement, mm" />
      </ElSelect>
      <span>Direction</span>
      <ElSelect v-model="towards" size="small" aria-label="Direction of the load">
        <ElOption v-for="(t, key) in TOWARDS" :key="key" :value="key" :label="t.words" />
      </ElSelect>
    </template>
    <template v-if="target === 'member'">
      <span title="In metres from the start, or in % of the length; one number for a force; empty: the whole member"
        >From – to</span
      >
      <ElInput v-model="stretch" size="small" aria-label="Where on the member" placeholder="whole, 1 – 3.5 or 50 %" />
    </template>
    <span
      :title="
        target === 'panel' || target === 'area'
          ? 'kN/m²'
          : 'kN, kN/m or kNm; two numbers: at the start and at the end; steps: -6:3 -2:8.2 1 is −6 as far as 3 m, −2 as far as 8.2 m, then 1'
      "
      >Size{{ target === 'panel' || target === 'area' ? ', kN/m²' : '' }}</span
    >
    <ElInput
      v-model="size"
      size="small"
      aria-label="Size of the load"
      :placeholder="target === 'member' ? '5,  2 8  or  -6:3 -2:8.2 1' : '5'"
      @keydown.enter="addLoad"
    />
  </div>
  <p v-if="target === 'member' && bench.chosen.size > 1 && kind !== 'temperature'" class="note">
    <ElCheckbox
      v-model="asRun"
      size="small"
      aria-label="As one run"
      title="One load over all of them; distances count from the free end of the run"
      >the members follow one another: one run</ElCheckbox
    >
    <ElCheckbox
      v-if="!asRun"
      v-model="patterns"
      size="small"
      aria-label="In patterns of spans"
      title="Each member is a span: cases with all of them loaded, with every other one, and with two that follow one another; one acts at a time"
      >in patterns of spans</ElCheckbox
    >
  </p>
  <template v-if="target === 'area'">
    <p class="note">
      <ElCheckbox
        v-model="leaveOut"
        size="small"
        :disabled="!bench.chosen.size"
        aria-label="Leave out the chosen members"
        >the {{ bench.chosen.size }} chosen members take none of it</ElCheckbox
      >
    </p>
    <p v-if="told" class="note told">
      {{ told.panels.length }} panel{{ told.panels.length === 1 ? '' : 's' }}, {{ fixed(told.area, 1) }} m² on
      {{ told.members }} members, up to {{ fixed(told.most, 2) }} kN/m; in all
      <span class="mono">{{ minus(told.total.map((v) => v.toFixed(1)).join('  ')) }}</span> kN along X, Y, Z. It is
      drawn as it would lie.
    </p>
    <p v-if="problem" class="note fails" role="alert">{{ problem }}</p>
  </template>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <p class="note">
    <ElButton size="small" type="primary" :disabled="!bench.mayChange" @click="addLoad">Put the load</ElButton>
  </p>
</template>
