import { computed, ref, shallowRef, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import type { Link } from '../lib/stages'
import type { Quantity } from './workbench'

/** What the Response stage rests on: the open project, its chain, and what is drawn of it. */
export interface Ground {
  project: ShallowRef<Schemas['ProjectOut'] | null>
  chain: ShallowRef<Schemas['ChainOut'] | null>
  diagram: ShallowRef<Schemas['DiagramOut'] | null>
  stage: Ref<Link>
  plane: Ref<string>
  selected: Ref<string>
  message: Ref<string>
  working: ComputedRef<boolean>
}

/** What is drawn of the response, what is drawn beside it, and its tables, asked for once a revision. */
export function useResponse({ project, chain, diagram, stage, plane, selected, message, working }: Ground) {
  /** The internal force that is drawn, the size of it and of movements beside that which fits, and whether these swing. */
  const quantity = ref<Quantity>('My')
  const forceSize = ref(1)
  const movementSize = ref(1)
  const swinging = ref(false)
  /** Checks of combinations, envelopes of members, sways, forces of decks, natural modes. */
  const states = shallowRef<Schemas['StateOut'][]>([])
  const extremes = shallowRef<Schemas['ExtremesOut'][]>([])
  const sways = shallowRef<Schemas['SwayOut'][]>([])
  const decks = shallowRef<Schemas['DeckForcesOut'][]>([])
  const natural = shallowRef<Schemas['ModeOut'][]>([])
  const buckling = shallowRef<{ of: string; modes: Schemas['ModeOut'][] }>({ of: '', modes: [] })
  /** The factor at which the selected member buckles sideways in the state that is shown. */
  const lateral = shallowRef<Schemas['LateralOut'] | null>(null)
  const envelope = shallowRef<Schemas['DiagramOut'] | null>(null)
  /** What is drawn beside, on the same scale: a state by its name, or an older revision as “#12”; and its diagrams. */
  const beside = ref('')
  /** What is drawn beside has a view of its own instead of dashed lines. */
  const split = ref(false)
  const besideDiagram = shallowRef<Schemas['DiagramOut'] | null>(null)
  const paired = computed(() => split.value && !!besideDiagram.value && stage.value === 'response')
  const versions = shallowRef<Schemas['Version'][]>([])
  let answered = ''

  /** Ask for the tables of a revision. */
  async function loadResponse(): Promise<void> {
    const now = project.value
    const revision = chain.value?.revision
    if (!now || revision === undefined || !working.value || answered === `${now.id} ${revision}`) return
    answered = `${now.id} ${revision}`
    // numbers of an older revision are not shown under the new one
    buckling.value = { of: '', modes: [] }
    states.value = []
    extremes.value = []
    sways.value = []
    decks.value = []
    natural.value = []
    const params = { path: { project_id: now.id }, query: { revision } }
    const current = () => chain.value?.revision === revision && project.value?.id === now.id
    const table = await api.GET('/api/projects/{project_id}/extremes', { params })
    if (current()) extremes.value = (table.data ?? []).map((e) => typed('ExtremesOut', e))
    const found = await api.GET('/api/projects/{project_id}/states', { params })
    if (current()) states.value = (found.data ?? []).map((s) => typed('StateOut', s))
    const moved = await api.GET('/api/projects/{project_id}/sways', { params })
    if (current()) sways.value = moved.data ?? []
    const stiff = await api.GET('/api/projects/{project_id}/decks', { params })
    if (current()) decks.value = stiff.data ?? []
    const modes = await api.GET('/api/projects/{project_id}/modes', { params })
    if (current()) natural.value = modes.data ?? []
    const named = await api.GET('/api/projects/{project_id}/versions', { params: { path: { project_id: now.id } } })
    if (current()) versions.value = (named.data ?? []).map((v) => typed('Version', v))
  }

  /** Ask for the buckling modes of a combination. */
  async function loadModes(combination: string): Promise<void> {
    const now = project.value
    const revision = chain.value?.revision
    if (!now || revision === undefined || !working.value) return
    const { data } = await api.GET('/api/projects/{project_id}/modes', {
      params: { path: { project_id: now.id }, query: { combination, revision } },
    })
    if (data && chain.value?.revision === revision) buckling.value = { of: combination, modes: data }
  }

  async function loadLateral(): Promise<void> {
    lateral.value = null
    const [now, shown, member] = [project.value, diagram.value, selected.value]
    if (!now || !shown || !member || !working.value || !['case', 'combination'].includes(shown.kind)) return
    const { data } = await api.GET('/api/projects/{project_id}/lateral', {
      params: { path: { project_id: now.id }, query: { member, state: shown.state, revision: shown.revision } },
    })
    if (diagram.value === shown && selected.value === member) lateral.value = data ?? null
  }

  /** The envelope of strength of what is looked at, behind the diagrams of a member. */
  async function loadEnvelope(): Promise<void> {
    const now = project.value
    if (!now || !chain.value || !working.value) return
    if (
      envelope.value?.revision === chain.value.revision &&
      envelope.value.runs.some((r) => r.member === selected.value)
    )
      return
    const { data } = await api.GET('/api/projects/{project_id}/diagrams', {
      params: {
        path: { project_id: now.id },
        query: { plane: plane.value, state: 'envelope', revision: chain.value.revision },
      },
    })
    if (data) envelope.value = typed('DiagramOut', data)
  }

  /** Fetch what is drawn beside: another state, or the same one of an older revision. */
  async function drawBeside(): Promise<void> {
    const now = project.value
    const shown = diagram.value
    // after an undo the older revision may be the one that is shown
    if (beside.value === `#${shown?.revision}`) beside.value = ''
    if (!now || !shown || !beside.value) {
      besideDiagram.value = null
      return
    }
    const wanted = beside.value
    const older = /^#(\d+)$/.exec(wanted)
    const { data } = await api.GET('/api/projects/{project_id}/diagrams', {
      params: {
        path: { project_id: now.id },
        query: {
          plane: plane.value,
          state: older ? shown.state : beside.value,
          revision: older ? Number(older[1]) : shown.revision,
        },
      },
    })
    if (diagram.value !== shown || beside.value !== wanted) return
    besideDiagram.value = data ? typed('DiagramOut', data) : null
    if (!data)
      message.value = `There is nothing to draw beside: ${older ? `revision ${older[1]} has no` : 'there is no'} ${older ? shown.state : beside.value}.`
  }
  function putBeside(what: string): void {
    beside.value = what
    void drawBeside()
  }
  function clearBeside(): void {
    beside.value = ''
    besideDiagram.value = null
  }

  return {
    quantity,
    forceSize,
    movementSize,
    swinging,
    states,
    extremes,
    sways,
    decks,
    natural,
    buckling,
    lateral,
    envelope,
    beside,
    besideDiagram,
    split,
    paired,
    versions,
    loadResponse,
    loadModes,
    loadLateral,
    loadEnvelope,
    drawBeside,
    putBeside,
    clearBeside,
  }
}
