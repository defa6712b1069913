import { defineStore } from 'pinia'
import { computed } from 'vue'
import { useAnswer } from '../api/queries'
import { keyed } from '../lib/changes'
import { useWorkbench } from './workbench'

/** The building in its surroundings, of the numbers that are shown: for the drawing and for the sheet of the site. */
export const useSite = defineStore('site', () => {
  const bench = useWorkbench()
  const {
    data: site,
    problem,
    waiting,
  } = useAnswer(
    '/api/projects/{project_id}/site',
    () =>
      bench.stage === 'site' && bench.project && bench.chain && !bench.chain.problem && bench.chain.status !== 'bare'
        ? { path: { project_id: bench.project.id }, query: { revision: bench.chain.revision } }
        : null,
    (before, now) => before.path.project_id === now.path.project_id,
  )
  /** Why there is no drawing; nothing while its numbers are on their way. */
  const why = computed(() => {
    const coming = waiting.value || !bench.chain || (bench.chain.status === 'bare' && !bench.chain.problem)
    return problem.value || (coming ? '' : 'No building with a roof stands yet, on which snow and wind would act.')
  })
  /** Set a value of the wind from one direction; null takes it back to that of all of them. */
  const byDirection = (
    key: 'terrains' | 'directional' | 'orography',
    direction: string,
    value: string | number | null,
  ): Promise<boolean> => bench.edit(`Wind from the ${direction}`, [keyed(`wind.${key}`, direction, value ?? undefined)])
  return { site, why, byDirection }
})
