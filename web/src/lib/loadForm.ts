/** A load being written: on chosen members, a node, a panel, or on many surfaces at once. */

import { computed, ref, watch } from 'vue'
import { added } from './changes'
import type { Schemas } from '../api/client'
import { components, inRun, readSteps, readStretch, spanPatterns, type Towards } from './loads'
import { ownOf, placeTyped, type LiesOn } from './panelPlaces'
import { useTrialLoad } from '../stores/trialLoad'
import { useWorkbench } from '../stores/workbench'

export function useLoadForm() {
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
  const lies = ref<LiesOn>('area')
  /** Whether the panel bends by itself: lines and points of it can be loaded. */
  const bends = computed(() => {
    const name = panel.value || bench.panel?.name
    return bench.lists.panels.some((p) => p.name === name && p.stiff === 'slab')
  })
  const on = computed(() => (bends.value ? lies.value : 'area'))
  const axes = ref<'normal' | 'down' | 'plan'>('down')
  const PUSHES = [
    ['down', 'down, per m² of surface'],
    ['plan', 'down, per m² of plan'],
    ['normal', 'onto it, from outside'],
  ] as const
  const own = computed(() => bench.stated.cases)
  const names = computed(() => [
    ...new Set([
      ...own.value.map((c) => c.name),
      ...bench.lists.cases.filter((c) => c.nature !== 'imperfection').map((c) => c.name),
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
      const nature = (own.value.find((c) => c.name === name) ?? bench.chain?.cases?.find((c) => c.name === name))
        ?.nature
      axes.value = nature === 'wind' ? 'normal' : nature === 'snow' ? 'plan' : 'down'
      towards.value = nature === 'wind' ? 'X' : nature === 'snow' ? 'plan' : 'down'
      kind.value = nature === 'temperature' ? 'temperature' : 'line'
    },
  )

  // many surfaces at once
  const SETS = { roofs: 'all roofs', walls: 'all walls', floors: 'all floors' } as const
  const onto = ref<string[]>(['set roofs'])
  const leaveOut = ref(false)
  const floorLevels = computed(() => bench.lists.levels.filter((v) => v.floor).map((v) => v.name))
  const there = computed(() => new Set(bench.lists.panels.map((p) => p.kind)))
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
    await put(
      'member_loads',
      loads,
      `Load on ${bearers.length === 1 ? bearers[0]!.member : `${bearers.length} members`}`,
    )
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
    const corners = placeTyped(on.value, numbers(part.value))
    if (!name) wrong.value = 'Choose the panel that is pressed.'
    else if (typeof corners === 'string') wrong.value = corners
    else if (corners.length && bench.panel?.name !== name) wrong.value = 'Lay the panel flat to load a part of it.'
    if (wrong.value || typeof corners === 'string') return
    const flat = corners.map((p) => ownOf(bench.panel!.turn, p))
    const load = {
      case: bench.ownCase,
      panel: name!,
      kind: on.value,
      pressure,
      // what acts along a line or at a point knows no plan
      axes: on.value !== 'area' && axes.value === 'plan' ? 'down' : axes.value,
      part: flat,
      label: '',
    }
    return put('panel_loads', [load], `Load on ${name}`)
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
    wrong.value = ''
    const done = await bench.edit(label, [...added('cases', ...fresh(...cases)), ...added(key, ...loads)])
    if (!done) wrong.value = bench.refusal?.message ?? ''
    if (!done) return
    clear()
    bench.overlays = new Set([...bench.overlays].filter((o) => o !== 'moment')).add('actions')
    bench.show(bench.chain?.cases?.find((c) => c.name === cases[0])?.symbol ?? '')
  }

  return {
    wrong,
    target,
    kind,
    asRun,
    patterns,
    towards,
    size,
    stretch,
    node,
    panel,
    part,
    lies,
    bends,
    on,
    axes,
    PUSHES,
    names,
    SETS,
    onto,
    leaveOut,
    floorLevels,
    there,
    told,
    problem,
    addLoad,
  }
}
