import { defineStore } from 'pinia'
import { computed } from 'vue'
import { useAnswer } from '../api/queries'
import { useWorkbench } from './workbench'

/** The building in its surroundings, of the numbers that are shown: for the drawing and for the sheet of the site. */
export const useSite = defineStore('site', () => {
  const bench = useWorkbench()
  const { data: site, problem } = useAnswer(
    '/api/projects/{project_id}/site',
    () =>
      bench.stage === 'site' && bench.project && bench.chain && !bench.chain.problem && bench.chain.status !== 'bare'
        ? { path: { project_id: bench.project.id }, query: { revision: bench.chain.revision } }
        : null,
    (before, now) => before.path.project_id === now.path.project_id,
  )
  const why = computed(() => problem.value || 'No building with a roof stands yet, on which snow and wind would act.')
  return { site, why }
})
