import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { useAnswer } from '../api/queries'
import { useWorkbench } from './workbench'

type Operations = Schemas['Operate']['operations']

/** The selected member looked at closely: its restraint ribbon, why what governs it does, and what a change would do to it. */
export const useSingle = defineStore('single', () => {
  const bench = useWorkbench()
  const wanted = computed(() =>
    bench.stage === 'verification' &&
    bench.project &&
    bench.chain &&
    !bench.chain.problem &&
    bench.member?.checks?.length
      ? { path: { project_id: bench.project.id }, query: { member: bench.selected, revision: bench.chain.revision } }
      : null,
  )
  const { data: ribbon } = useAnswer(
    '/api/projects/{project_id}/ribbon',
    () => wanted.value,
    (before, now) => before.query.member === now.query.member,
  )
  const { data: why } = useAnswer('/api/projects/{project_id}/why', () => (ribbon.value ? wanted.value : null))

  /** What operations would do to the member with the present forces; the last question alone is answered. */
  const attempt = shallowRef<{ told: Schemas['TriedOut'] | null; problem: string } | null>(null)
  const trying = ref(false)
  let asked = 0
  let pause = 0
  function ask(...operations: Operations): void {
    const now = wanted.value
    const mine = ++asked
    window.clearTimeout(pause)
    attempt.value = null
    trying.value = false
    if (!now || !operations.length || why.value?.large) return
    trying.value = true
    // whoever moves over a flange asks once it rests
    pause = window.setTimeout(async () => {
      const { data, error } = await api.POST('/api/projects/{project_id}/try', {
        params: { path: now.path },
        body: { ...now.query, operations },
      })
      if (mine !== asked) return
      trying.value = false
      attempt.value = {
        told: data ? typed('TriedOut', data) : null,
        problem: (error as Partial<Schemas['Problem']> | undefined)?.message ?? '',
      }
    }, 90)
  }

  return { ribbon, why, attempt, trying, ask }
})
