import { ref, shallowRef, watch, onBeforeUnmount, type Ref } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { useWorkbench } from './workbench'

/** What a pressure on many surfaces would put on members, asked of the server while it is written, and drawn by the views. */
export function useTrialLoad(load: Ref<Schemas['AreaLoad'] | null>) {
  const bench = useWorkbench()
  const told = shallowRef<Schemas['LaidOut'] | null>(null)
  const problem = ref('')
  let asked = 0
  let pause = 0
  const ask = async () => {
    const mine = ++asked
    const [now, wanted] = [bench.project, load.value]
    if (!now || !wanted) return
    const { data, error } = await api.POST('/api/projects/{project_id}/lay', {
      params: { path: { project_id: now.id } },
      body: { load: wanted },
    })
    if (mine !== asked || !load.value) return
    told.value = data ? typed('LaidOut', data) : null
    problem.value = error ? ((error as Partial<Schemas['Problem']>).message ?? 'This load was refused.') : ''
    bench.trial = told.value?.loads ?? null
  }
  function clear() {
    window.clearTimeout(pause)
    asked++
    told.value = null
    problem.value = ''
    bench.trial = null
  }
  watch(
    load,
    (now) => {
      if (!now) return clear()
      window.clearTimeout(pause)
      pause = window.setTimeout(() => void ask(), 250)
    },
    { deep: true, immediate: true },
  )
  onBeforeUnmount(clear)
  return { told, problem, clear }
}
