import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { named, unnamed } from './changes'
import { useWorkbench } from '../stores/workbench'

export type PlacedView = Schemas['PlacedView']
type Chapter = 'actions' | 'building' | 'response'

/** Views of a chapter that are drawn in the dossier. */
export function viewsOf(bench: ReturnType<typeof useWorkbench>, chapter: string): readonly PlacedView[] {
  const plans = bench.document?.dossier?.chapters as Record<string, { views?: PlacedView[] }> | undefined
  return plans?.[chapter]?.views ?? []
}
const path = (chapter: string) => `dossier.chapters.${chapter}.views`
export const dropView = (bench: ReturnType<typeof useWorkbench>, chapter: string, name: string) =>
  bench.edit(`Dossier: without ${name}`, unnamed(path(chapter), viewsOf(bench, chapter), name))

/** What is looked at, as the dossier draws it anew in each revision: the steel of a plane, the loads of a case, moments. */
export function usePlacedView() {
  const bench = useWorkbench()
  const now = computed<{ chapter: Chapter; view: PlacedView } | null>(() => {
    const looking = bench.looking
    if (!looking?.members.length) return null
    // combinations are numbered anew as cases come and go: what is meant goes along
    const meaning = (state: string) =>
      bench.lists.combinations.find((c) => c.name === state)?.formula ??
      bench.lists.cases.find((c) => c.symbol === state)?.name ??
      ''
    const of = (chapter: Chapter, shows: PlacedView['shows'], state: string) => {
      const words = [looking.label, shows, state].filter(Boolean).join(' · ')
      return { chapter, view: { name: words.slice(0, 80), plane: looking.key, shows, state, means: meaning(state) } }
    }
    const d = bench.diagram
    if (bench.overlays.has('actions')) return d?.kind === 'case' ? of('actions', 'loads', d.state) : null
    if (bench.overlays.has('moment')) {
      const drawn = d && bench.quantity === 'My' && (d.kind !== 'envelope' || d.state === 'envelope')
      return drawn && d.kind !== 'mode' ? of('response', 'moments', d.state) : null
    }
    return bench.overlays.has('sway') ? null : of('building', 'steel', '')
  })
  const there = computed(() => {
    const found = now.value
    return !!found && viewsOf(bench, found.chapter).some((v) => v.name === found.view.name)
  })
  /** Put it into the dossier, or take it out. */
  const toggle = () => {
    const found = now.value
    if (!found) return
    const { chapter, view } = found
    if (there.value) void dropView(bench, chapter, view.name)
    else void bench.edit(`Dossier: ${view.name}`, named(path(chapter), viewsOf(bench, chapter), view))
  }
  return { now, there, toggle }
}
