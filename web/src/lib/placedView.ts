import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { useWorkbench } from '../stores/workbench'
import { seenFrom } from '../view/stand'
import type { Tab } from './ledger'
import { named, unnamed } from './changes'

export type PlacedView = Required<Schemas['PlacedView']>
export type PlacedTable = Required<Schemas['PlacedTable']>
type Bench = ReturnType<typeof useWorkbench>
type Chapter = 'actions' | 'analysis' | 'building' | 'combinations' | 'response' | 'restraints' | 'verification'
export type Placed = { chapter: Chapter; view: PlacedView }
type Plan = { views?: PlacedView[]; tables?: PlacedTable[] }

const plan = (bench: Bench, chapter: string): Plan =>
  (bench.document?.dossier?.chapters as Record<string, Plan> | undefined)?.[chapter] ?? {}
const path = (chapter: string, kind: keyof Plan) => `dossier.chapters.${chapter}.${kind}`

/** Views of a chapter that are drawn in the dossier, and tables that stand in it besides. */
export const viewsOf = (bench: Bench, chapter: string): readonly PlacedView[] => plan(bench, chapter).views ?? []
export const tablesOf = (bench: Bench, chapter: string): readonly PlacedTable[] => plan(bench, chapter).tables ?? []
export const dropView = (bench: Bench, chapter: string, name: string) =>
  bench.edit(`Dossier: without ${name}`, unnamed(path(chapter, 'views'), viewsOf(bench, chapter), name))
export const dropTable = (bench: Bench, chapter: string, name: string) =>
  bench.edit(`Dossier: without ${name}`, unnamed(path(chapter, 'tables'), tablesOf(bench, chapter), name))

export const placeView = (bench: Bench, { chapter, view }: Placed) =>
  bench.edit(`Dossier: ${view.name}`, named(path(chapter, 'views'), viewsOf(bench, chapter), view))

/** A view of the building as a whole that nothing else is said of. */
const PLAIN = { plane: 'whole', quantity: 'My', state: '', means: '', bearing: 225, tilt: 25, member: '' } as const
/** The building in its surroundings, and a member laid flat, as the dossier draws them. */
export const siteView = (): Placed => ({
  chapter: 'actions',
  view: { ...PLAIN, name: 'The building in its surroundings', shows: 'site' },
})
export const ribbonView = (member: string, label: string): Placed => ({
  chapter: 'restraints',
  view: { ...PLAIN, name: `Restraints of ${label}`.slice(0, 80), shows: 'restraints', member },
})

const SHOWN: Record<PlacedView['shows'], Chapter> = {
  steel: 'building',
  utilisation: 'verification',
  loads: 'actions',
  moments: 'response',
  forces: 'response',
  movement: 'response',
  site: 'actions',
  restraints: 'restraints',
}

/** What is looked at, as the dossier draws it anew in each revision. */
export function usePlacedView() {
  const bench = useWorkbench()
  // combinations are numbered anew as cases come and go: what is meant goes along
  const meaning = (state: string) => {
    const own = /^(?:mode|free):([^:]+)/.exec(state)?.[1] ?? state
    return (
      bench.lists.combinations.find((c) => c.name === own)?.formula ??
      bench.lists.cases.find((c) => c.symbol === own)?.name ??
      ''
    )
  }
  const shows = computed<{ shows: PlacedView['shows']; state: string } | null>(() => {
    const d = bench.diagram
    const on = (overlay: 'actions' | 'moment' | 'sway') => bench.overlays.has(overlay)
    if (bench.stage === 'verification' && bench.colouring === 'utilisation') return { shows: 'utilisation', state: '' }
    if (on('actions'))
      return d?.kind === 'case' || d?.kind === 'combination' ? { shows: 'loads', state: d.state } : null
    if (on('sway') || d?.kind === 'mode')
      return d && d.kind !== 'envelope' ? { shows: 'movement', state: d.state } : null
    if (on('moment')) return d ? { shows: 'forces', state: d.state } : null
    return { shows: 'steel', state: '' }
  })
  return computed<Placed | null>(() => {
    const { looking } = bench
    const found = shows.value
    if (!found || !bench.lists.members.length || (looking && !looking.members.length)) return null
    const words = found.shows === 'forces' ? bench.quantity : found.shows
    const label = looking ? looking.label : 'The whole building'
    const name = [label, words, found.state].filter(Boolean).join(' · ').slice(0, 80)
    const chapter = found.shows === 'movement' && bench.diagram?.kind === 'mode' ? 'analysis' : SHOWN[found.shows]
    const means = meaning(found.state)
    const from = looking ? { bearing: 225, tilt: 25 } : seenFrom()
    const plane = looking?.key ?? 'whole'
    return { chapter, view: { ...PLAIN, name, plane, ...found, quantity: bench.quantity, means, ...from } }
  })
}

/** Tables of the ledger that the dossier makes anew, with the chapter in which each stands. */
const TABLES: Record<Tab, { table: PlacedTable['table']; chapter: Chapter }> = {
  Groups: { table: 'groups', chapter: 'verification' },
  Steelwork: { table: 'steelwork', chapter: 'building' },
  Nodes: { table: 'nodes', chapter: 'building' },
  Supports: { table: 'supports', chapter: 'building' },
  Sections: { table: 'sections', chapter: 'building' },
  Members: { table: 'members', chapter: 'verification' },
  'Design members': { table: 'design members', chapter: 'verification' },
  Deflection: { table: 'deflections', chapter: 'response' },
  Reactions: { table: 'reactions', chapter: 'response' },
  Footings: { table: 'footings', chapter: 'response' },
  Balance: { table: 'cases', chapter: 'actions' },
  Combinations: { table: 'combinations', chapter: 'combinations' },
  Forces: { table: 'forces', chapter: 'response' },
  'Group forces': { table: 'group forces', chapter: 'response' },
  Sway: { table: 'sways', chapter: 'response' },
  Decks: { table: 'decks', chapter: 'response' },
  Slabs: { table: 'slabs', chapter: 'response' },
  Loads: { table: 'loads', chapter: 'actions' },
  States: { table: 'states', chapter: 'analysis' },
}

/** A table of the ledger, with what it is filtered by, as the dossier makes it anew. */
export function usePlacedTable(tab: () => Tab, words: () => string) {
  const bench = useWorkbench()
  const now = computed(() => {
    const found = TABLES[tab()]
    const name = [tab(), words().trim()].filter(Boolean).join(' · ').slice(0, 80)
    return { chapter: found.chapter, placed: { name, table: found.table, words: words().trim().slice(0, 200) } }
  })
  const there = computed(() => tablesOf(bench, now.value.chapter).some((t) => t.name === now.value.placed.name))
  const toggle = () => {
    const { chapter, placed } = now.value
    if (there.value) void dropTable(bench, chapter, placed.name)
    else void bench.edit(`Dossier: ${placed.name}`, named(path(chapter, 'tables'), tablesOf(bench, chapter), placed))
  }
  return { now, there, toggle }
}
