import { defineStore } from 'pinia'
import { shallowRef, watch } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { useWorkbench } from './workbench'

/** The building in its surroundings, of the numbers that are shown: for the drawing and for the sheet of the site. */
export const useSite = defineStore('site', () => {
  const bench = useWorkbench()
  const site = shallowRef<Schemas['SiteOut'] | null>(null)
  const why = shallowRef('')
  const there = () => !!bench.chain && !bench.chain.problem && bench.chain.status !== 'bare'

  async function load() {
    const [id, revision] = [bench.project?.id, bench.chain?.revision]
    if (bench.stage !== 'site') return
    if (!id || revision === undefined || !there()) {
      site.value = null
      return
    }
    if (site.value?.revision === revision && loaded === id) return
    const { data, error } = await api.GET('/api/projects/{project_id}/site', {
      params: { path: { project_id: id }, query: { revision } },
    })
    if (revision !== bench.chain?.revision || id !== bench.project?.id) return
    loaded = id
    site.value = data ? typed('SiteOut', data) : null
    const none = 'No building with a roof stands yet, on which snow and wind would act.'
    why.value = (error as Partial<Schemas['Problem']> | undefined)?.message ?? (data ? '' : none)
  }
  let loaded = ''
  watch(() => [bench.project?.id, bench.chain?.revision, there(), bench.stage], load, { immediate: true })
  return { site, why }
})
