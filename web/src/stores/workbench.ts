import { listsOf, statedOf } from '../lib/lists'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { answer, keepOnly, useAnswer } from '../api/queries'
import { fitting, type Filter } from '../lib/filters'
import type { Link } from '../lib/stages'
import { SITE, useLooks } from './looks'
import { useHead } from './head'
import { useResponse } from './response'
import { useRunning } from './running'

export type Overlay = 'actions' | 'moment' | 'reactions' | 'sway' | 'names'
/** Internal forces that can be drawn, as engineers write them, and their units. */
export const QUANTITIES = {
  My: { word: 'M_y', unit: 'kNm' },
  Mz: { word: 'M_z', unit: 'kNm' },
  N: { word: 'N', unit: 'kN' },
  Vz: { word: 'V_z', unit: 'kN' },
  Vy: { word: 'V_y', unit: 'kN' },
  T: { word: 'T', unit: 'kNm' },
} as const
export type Quantity = keyof typeof QUANTITIES
/** What members are coloured by. */
export const COLOURINGS = ['utilisation', 'section', 'grade', 'role', 'group', 'storey', 'nothing'] as const
export type Colouring = (typeof COLOURINGS)[number]
export type Member = Schemas['MemberOut']
export type Plane = Schemas['PlaneOut']
type Spot = string | readonly [number, number, number]
/** Members being drawn: the points so far, and what each new member is. */
export interface Drawing {
  points: Spot[]
  section: string
  role: NonNullable<Schemas['Draw']['role']>
  behaviour: string
  material: string
  roll: number
  releases: Schemas['Releases']
}

/** One open project: its head, its computed chain, and what is looked at. */
export const useWorkbench = defineStore('workbench', () => {
  const project = shallowRef<Schemas['ProjectOut'] | null>(null)
  const chain = shallowRef<Schemas['ChainOut'] | null>(null)
  const lists = computed(() => listsOf(chain.value))
  const working = computed(() => !!chain.value && !chain.value.problem)
  const diagram = shallowRef<Schemas['DiagramOut'] | null>(null)
  const catalogue = shallowRef<Schemas['FamilyOut'][]>([])
  const message = ref('')
  const stage = ref<Link>('verification')
  const plane = ref('whole')
  const selected = ref('')
  const chosen = ref(new Set<string>())
  const gone = ref(new Set<string>())
  const faded = ref(new Set<string>())
  /** What members are looked at by in Verification. */
  const filters = ref(new Set<Filter>())
  const colouring = ref<Colouring>('utilisation')
  const drawing = ref<Drawing | null>(null)
  /** A place that the view of the whole building comes near to. */
  const aim = shallowRef<readonly number[] | null>(null)
  const state = ref('')
  const hidden = ref(new Set<string>())
  const overlays = ref(new Set<Overlay>(['moment']))
  /** A panel laid flat in place of the view, the wind's direction on it, and the zone or load pointed at. */
  const flat = ref('')
  const { data: panel } = useAnswer(
    '/api/projects/{project_id}/panel',
    () =>
      flat.value && project.value && chain.value
        ? { path: { project_id: project.value.id }, query: { name: flat.value, revision: chain.value.revision } }
        : null,
    (before, now) => before.query.name === now.query.name,
  )
  const wind = ref<'left' | 'right' | 'front' | 'back'>('left')
  /** What is pointed at on the panel laid flat: one of its wind zones or of its loads, by number. */
  const spot = ref<{ of: 'zone' | 'load'; number: number } | null>(null)
  /** The case that loads by hand are written for. */
  const ownCase = ref('')
  /** Line loads that a load being written would make, drawn in place of those of the shown case. */
  const trial = shallowRef<Schemas['LoadOut'][] | null>(null)
  /** Axes as somebody proposes them, drawn beside what stands. */
  const proposed = shallowRef<Schemas['CameBackOut']['lines']>([])
  /** Size of the load arrows beside that which fits. */
  const arrowSize = ref(1)
  /** How near each combination comes to what governs, by name, while combinations are looked at. */
  const { data: marked } = useAnswer('/api/projects/{project_id}/marks', () =>
    stage.value === 'combinations' && project.value && working.value
      ? { path: { project_id: project.value.id }, query: { revision: chain.value!.revision } }
      : null,
  )
  const marks = computed(() => new Map(marked.value?.map((m) => [m.name, m])))
  const onlyGoverning = ref(false)
  const document = computed(() => project.value?.document ?? null)
  const stated = computed(() => statedOf(document.value))
  const hall = computed(() => document.value?.hall ?? null)
  const member = computed(() => chain.value?.members?.find((m) => m.name === selected.value) ?? null)
  const planes = computed<Plane[]>(() => lists.value.planes)
  const looking = computed(() => planes.value.find((p) => p.key === plane.value) ?? null)
  /** Everything that is chosen, the selected member with it. */
  const picked = computed(() => lists.value.members.filter((m) => chosen.value.has(m.name)))
  const lit = computed(() => (stage.value === 'verification' ? fitting(lists.value.members, filters.value) : null))
  /** What is drawn faintly: what was faded, and what no filter lights up. */
  const dimmed = computed(() => {
    const all = lists.value.members
    return lit.value
      ? new Set([...faded.value, ...all.map((m) => m.name).filter((name) => !lit.value!.has(name))])
      : faded.value
  })
  const shows = (m: Member) => !hidden.value.has(m.role) && !gone.value.has(m.name)
  const stale = computed(() => !!chain.value && chain.value.revision !== project.value?.revision.number)
  /** Whether the user may change the project, or in words why not. */
  const mayChange = computed(() => project.value?.role === 'owner' || project.value?.role === 'editor')
  const readOnly = computed(() =>
    project.value && !mayChange.value
      ? `${project.value.owner}’s project: you are ${project.value.role}, and may not change it.`
      : '',
  )
  /** Which revision numbers are of, as it is said in files and pictures. */
  const origin = (revision: number | undefined) => {
    const present = project.value?.revision.number
    return revision === present
      ? `revision ${revision}`
      : `revision ${revision}, not the present one, which is ${present}`
  }
  const runs = useRunning({ project, chain, settle })
  const { running, refresh } = runs
  const head = useHead({ project, readOnly, message, refresh })
  const { operate } = head
  const response = useResponse({ project, chain, diagram, stage, plane, selected, message, working })

  /** Members by falling utilisation, those of one role if it is named. */
  function worstFirst(role = ''): Schemas['MemberOut'][] {
    const members = lists.value.members.filter((m) => !role || m.role === role)
    return [...members].sort((a, b) => (b.utilisation ?? 0) - (a.utilisation ?? 0))
  }

  async function open(id: string): Promise<void> {
    head.leave()
    project.value = chain.value = diagram.value = running.value = null
    selected.value = ownCase.value = ''
    trial.value = null
    proposed.value = []
    chosen.value = new Set()
    hidden.value = new Set()
    looks.begin()
    gone.value = new Set()
    faded.value = new Set()
    filters.value = new Set()
    drawing.value = null
    closePanel()
    response.clearBeside()
    const found = await api.GET('/api/projects/{project_id}', { params: { path: { project_id: id } } })
    if (!found.data) {
      const told = (found.error as Partial<Schemas['Problem']> | undefined)?.message
      message.value = told
        ? `${told} It is kept as it is; the list of projects exports it.`
        : 'There is no such project among yours.'
      return
    }
    project.value = typed('ProjectOut', found.data)
    opening = true
    await refresh()
    void loadCatalogue()
  }
  let opening = false

  /** What a project opens with, before anything is pointed at: its middle frame, its worst member. */
  function arrive(): void {
    opening = false
    // somebody may have pointed at something while the numbers were on their way
    const pointed = plane.value !== 'whole'
    const middle = Math.ceil(((hall.value?.spacings?.length ?? -1) + 1) / 2)
    if (!pointed) plane.value = planes.value.find((p) => p.key === `frame-${middle}`)?.key ?? 'whole'
    const first = worstFirst()[0]
    if (!first) {
      stage.value = 'frame'
      return
    }
    selected.value = first.name
    chosen.value = new Set([first.name])
    if (!pointed) plane.value = planes.value.find((p) => p.key === `frame-${first.frame}`)?.key ?? plane.value
  }

  /** The catalogue is large and the same for all: asked for when the numbers are on the screen or a section is chosen. */
  async function loadCatalogue(): Promise<void> {
    catalogue.value = await answer('/api/catalogue', {})
  }

  /** After another chain: what is looked at may not be there any more. */
  async function settle(): Promise<void> {
    if (chain.value) keepOnly(chain.value.revision)
    // diagrams of an older revision are not shown under the new structure
    if (diagram.value?.revision !== chain.value?.revision) diagram.value = null
    if (opening && chain.value && chain.value.status !== 'bare') arrive()
    const present = new Set(lists.value.members.map((m) => m.name))
    if (plane.value !== 'whole' && plane.value !== SITE && !looking.value)
      plane.value = planes.value.filter((p) => p.kind === 'frame').at(-1)?.key ?? 'whole'
    if (selected.value && !present.has(selected.value)) selected.value = ''
    if ([...chosen.value].some((name) => !present.has(name)))
      chosen.value = new Set([...chosen.value].filter((name) => present.has(name)))
    if (flat.value && !chain.value?.panels?.some((p) => p.name === flat.value)) closePanel()
    await draw()
  }

  let asking = 0
  /** Fetch the diagrams of what is looked at. */
  async function draw(): Promise<void> {
    const mine = ++asking
    const now = project.value
    if (!now || !chain.value || chain.value.problem || chain.value.status === 'bare' || plane.value === SITE) {
      diagram.value = null
      if (now && chain.value?.broken_stage === 'response') await drawMechanism(now, chain.value.revision)
      return
    }
    const asked = state.value || member.value?.checks?.[0]?.combination || 'envelope'
    // what is chosen shows its own utilisation, not that of all
    const query = { plane: plane.value, state: asked, revision: chain.value.revision, alone: !!state.value }
    const data = await answer('/api/projects/{project_id}/diagrams', { path: { project_id: now.id }, query }).catch(
      () => null,
    )
    // an answer to an older question may come later than the one to the present
    if (mine !== asking) return
    diagram.value = data
    if (data || !state.value) return
    state.value = ''
    await draw()
  }

  const looks = useLooks({ stage, chain, plane, state, selected, overlays, colouring, draw })

  /** What does not stand is drawn as it moves. */
  async function drawMechanism(now: Schemas['ProjectOut'], revision: number): Promise<void> {
    const query = { plane: plane.value, revision }
    const data = await answer('/api/projects/{project_id}/mechanism', { path: { project_id: now.id }, query }).catch(
      () => null,
    )
    if (!data || chain.value?.revision !== revision) return
    diagram.value = data
    overlays.value = new Set([...overlays.value, 'sway'])
  }

  /** Select one member; `add` adds it to what is chosen, or takes it out. Its frame is shown if it lies in another one. */
  function select(name: string, showFrame = false, add = false): void {
    if (add) {
      const next = new Set(chosen.value)
      if (!next.delete(name)) next.add(name)
      chosen.value = next
      selected.value = next.has(name) ? name : ([...next].at(-1) ?? '')
    } else {
      chosen.value = new Set(name ? [name] : [])
      selected.value = name
    }
    const found = member.value
    if (found && showFrame && looking.value && !looking.value.members.includes(numberOf(name))) {
      const other = planes.value.find((p) => p.key === `frame-${found.frame}`)
      plane.value = other?.key ?? 'whole'
    }
    void draw()
  }
  const numberOf = (name: string) => chain.value?.members?.findIndex((m) => m.name === name) ?? -1

  /** Choose several members at once. */
  function choose(names: Iterable<string>): void {
    chosen.value = new Set(names)
    if (!chosen.value.has(selected.value)) selected.value = [...chosen.value].at(-1) ?? ''
    void draw()
  }

  /** The next or previous combination of the use that is shown. */
  function stepState(by: number): void {
    const all = lists.value.combinations
    const at = all.findIndex((c) => c.name === (diagram.value?.state ?? ''))
    const use = all[at]?.use ?? 'strength'
    const own = all.filter((c) => c.use === use)
    const place = own.findIndex((c) => c.name === all[at]?.name)
    const next = own[(place + by + own.length) % own.length]
    if (next) show(next.name)
  }

  /** Lay a panel flat. */
  function openPanel(name: string): void {
    if (flat.value !== name) spot.value = null
    flat.value = name
  }
  const closePanel = () => openPanel('')

  function look(at: string): void {
    closePanel()
    plane.value = at
    void draw()
  }

  function show(next: string): void {
    state.value = next
    void draw()
  }

  /** End drawing: what was drawn becomes members. */
  async function drawn(): Promise<void> {
    const now = drawing.value
    if (!now || now.points.length < 2) return
    const { points, section, role, behaviour, material, roll, releases } = now
    const before = new Set(stated.value.members.map((m) => m.name))
    const kind = behaviour as 'beam'
    // what is drawn while the answer comes is something else
    drawing.value = { ...now, points: [] }
    const held = chosen.value
    const done = await operate(`Drew ${points.length - 1} × ${section}`, {
      do: 'draw',
      points: points as string[],
      section,
      role,
      behaviour: kind,
      material,
      roll,
      releases,
      group: '',
    })
    if (!done && !drawing.value?.points.length) drawing.value = now
    // what was drawn is chosen: it is what one goes on with
    if (done && chosen.value === held)
      choose(stated.value.members.map((m) => m.name).filter((name) => !before.has(name)))
  }

  return {
    project,
    chain,
    lists,
    stated,
    diagram,
    catalogue,
    message,
    stage,
    plane,
    planes,
    looking,
    selected,
    chosen,
    picked,
    gone,
    faded,
    dimmed,
    filters,
    lit,
    colouring,
    drawing,
    aim,
    shows,
    state,
    hidden,
    overlays,
    document,
    hall,
    member,
    stale,
    origin,
    panel,
    wind,
    spot,
    trial,
    proposed,
    ownCase,
    arrowSize,
    ...response,
    ...head,
    ...runs,
    stepState,
    marks,
    onlyGoverning,
    openPanel,
    closePanel,
    loadCatalogue,
    worstFirst,
    open,
    draw,
    select,
    choose,
    look,
    show,
    mayChange,
    readOnly,
    drawn,
  }
})
