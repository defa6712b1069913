import { computed, ref, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { useAnswer, type Answer } from '../api/queries'
import type { Schemas } from '../api/client'
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

type Table = `/api/projects/{project_id}/${'extremes' | 'states' | 'sways' | 'decks' | 'slabs' | 'modes' | 'versions'}`
/** The older revision that “#12” stands for, null for a state. */
const revisionOf = (beside: string) => (beside.startsWith('#') ? Number(beside.slice(1)) : null)

/** What is drawn of the response, what is drawn beside it, and its tables, asked for once a revision. */
export function useResponse({ project, chain, diagram, stage, plane, selected, message, working }: Ground) {
  /** The internal force that is drawn, the size of it and of movements beside that which fits, and whether these swing. */
  const quantity = ref<Quantity>('My')
  const forceSize = ref(1)
  const movementSize = ref(1)
  const swinging = ref(false)
  /** A question about the revision whose numbers are shown. */
  const about = <More extends object>(more?: More) =>
    project.value && chain.value && working.value
      ? { path: { project_id: project.value.id }, query: { ...(more as More), revision: chain.value.revision } }
      : null
  /** A table of the stage, asked for once the one before it is there, or cannot be had: the server is not asked for all at once. */
  const table = <P extends Table>(route: P, before?: { answered: { value: boolean } }) => {
    const asked = () => (stage.value === 'response' && (!before || before.answered.value) ? about() : null)
    const { data, problem } = useAnswer<Table>(route, asked)
    const rows = computed(() => (data.value ?? []) as Answer<P>)
    return { rows, answered: computed(() => !!data.value || !!problem.value) }
  }
  /** Envelopes of members, checks of combinations, sways, forces of decks, extremes of slabs, versions to draw beside, natural modes. */
  const ofMembers = table('/api/projects/{project_id}/extremes')
  const ofCombinations = table('/api/projects/{project_id}/states', ofMembers)
  const ofColumns = table('/api/projects/{project_id}/sways', ofCombinations)
  const ofDecks = table('/api/projects/{project_id}/decks', ofColumns)
  const ofSlabs = table('/api/projects/{project_id}/slabs', ofDecks)
  const named = table('/api/projects/{project_id}/versions', ofSlabs)
  const ofMasses = table('/api/projects/{project_id}/modes', named)
  /** Buckling modes of the combination that they were asked for. */
  const bucklingOf = ref('')
  const { data: bucklingModes } = useAnswer('/api/projects/{project_id}/modes', () =>
    bucklingOf.value ? about({ combination: bucklingOf.value }) : null,
  )
  const buckling = computed(() => ({
    of: bucklingModes.value ? bucklingOf.value : '',
    modes: bucklingModes.value ?? [],
  }))
  const loadModes = (combination: string) => {
    bucklingOf.value = combination
  }
  watch([() => project.value?.id, () => chain.value?.revision], () => (bucklingOf.value = ''))
  /** The factor at which the selected member buckles sideways in the state that is shown. */
  const { data: lateral } = useAnswer('/api/projects/{project_id}/lateral', () => {
    const shown = diagram.value
    if (stage.value !== 'response' || !shown || !selected.value || !['case', 'combination'].includes(shown.kind))
      return null
    return about({ member: selected.value, state: shown.state })
  })
  /** The envelope of strength of what is looked at, behind the diagrams of the selected member. */
  const { data: envelope } = useAnswer('/api/projects/{project_id}/diagrams', () =>
    selected.value && stage.value === 'response' ? about({ plane: plane.value, state: 'envelope' }) : null,
  )
  /** What is drawn beside, on the same scale: a state by its name, or an older revision as “#12”; and its diagrams. */
  const beside = ref('')
  /** What is drawn beside has a view of its own instead of dashed lines. */
  const split = ref(false)
  const { data: besideDiagram, problem: besideProblem } = useAnswer('/api/projects/{project_id}/diagrams', () => {
    const shown = diagram.value
    if (!shown || !beside.value || !project.value) return null
    const older = revisionOf(beside.value)
    const query = {
      plane: plane.value,
      state: older === null ? beside.value : shown.state,
      revision: older ?? shown.revision,
    }
    return { path: { project_id: project.value.id }, query }
  })
  const paired = computed(() => split.value && !!besideDiagram.value && stage.value === 'response')
  // after an undo the older revision may be the one that is shown
  watch(
    () => diagram.value?.revision,
    (revision) => {
      if (beside.value === `#${revision}`) beside.value = ''
    },
  )
  watch(besideProblem, (problem) => {
    const older = revisionOf(beside.value)
    const what = older === null ? `there is no ${beside.value}` : `revision ${older} has no ${diagram.value?.state}`
    if (problem && beside.value) message.value = `There is nothing to draw beside: ${what}.`
  })
  function putBeside(what: string): void {
    beside.value = what
  }
  function clearBeside(): void {
    beside.value = ''
  }

  return {
    quantity,
    forceSize,
    movementSize,
    swinging,
    states: ofCombinations.rows,
    extremes: ofMembers.rows,
    sways: ofColumns.rows,
    decks: ofDecks.rows,
    slabs: ofSlabs.rows,
    natural: ofMasses.rows,
    buckling,
    lateral,
    envelope,
    beside,
    besideDiagram,
    split,
    paired,
    versions: named.rows,
    loadModes,
    putBeside,
    clearBeside,
  }
}
