/** The panel of the pressure that is chosen, in three dimensions: laid out where it is seen. */

import { computed } from 'vue'
import { useAnswer } from '../api/queries'
import type { Point } from '../lib/drawing'
import type { Seen } from '../lib/loadTracks'
import { seenPlane } from '../lib/seenPlane'
import { useChosenLoad } from '../stores/chosenLoad'
import type { Bench } from './plane'

export function usePanelInSpace(bench: Bench, eye: (place: readonly number[]) => Seen | null) {
  const chosen = useChosenLoad()
  const name = computed(() =>
    chosen.at?.key === 'panel_loads' ? (bench.stated.panel_loads[chosen.at.number]?.panel ?? '') : '',
  )
  const { data: found } = useAnswer(
    '/api/projects/{project_id}/panel',
    () =>
      name.value && bench.project && bench.chain
        ? { path: { project_id: bench.project.id }, query: { name: name.value, revision: bench.chain.revision } }
        : null,
    (before, now) => before.query.name === now.query.name,
  )
  const seen = computed(() => {
    const panel = found.value?.name === name.value ? found.value : null
    const middle = (k: 0 | 1) => panel!.outline.reduce((sum, p) => sum + p[k], 0) / panel!.outline.length
    return panel && seenPlane(panel, [middle(0), middle(1)] as Point, eye)
  })
  const nowhere = { scale: 1, at: (): Point => [0, 0], back: (): Point => [0, 0] }
  return { panel: computed(() => (seen.value ? found.value : null)), sheet: computed(() => seen.value ?? nowhere) }
}
