import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { useWorkbench } from './workbench'

type Operations = Schemas['Operate']['operations']

/** The selected member looked at closely: its restraint ribbon, why what governs it does, and what a change would do to it. */
export const useSingle = defineStore('single', () => {
  const bench = useWorkbench()
  const ribbon = shallowRef<Schemas['RibbonOut'] | null>(null)
  const why = shallowRef<Schemas['WhyOut'] | null>(null)
  const wanted = computed(() =>
    bench.stage === 'verification' && bench.member?.checks?.length && !bench.chain?.problem
      ? { project: bench.project?.id ?? '', member: bench.selected, revision: bench.chain?.revision }
      : null,
  )
  const same = (a: typeof wanted.value, b: typeof wanted.value) =>
    a?.member === b?.member && a?.revision === b?.revision && a?.project === b?.project

  watch(
    wanted,
    async (now, before) => {
      if (same(now, before ?? null)) return
      if (now?.member !== before?.member) ribbon.value = null
      why.value = null
      if (!now) return
      const params = { path: { project_id: now.project }, query: { member: now.member, revision: now.revision } }
      const drawn = await api.GET('/api/projects/{project_id}/ribbon', { params })
      if (!same(wanted.value, now)) return
      ribbon.value = drawn.data ? typed('RibbonOut', drawn.data) : null
      const told = await api.GET('/api/projects/{project_id}/why', { params })
      if (same(wanted.value, now)) why.value = told.data ? typed('WhyOut', told.data) : null
    },
    { immediate: true },
  )

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
        params: { path: { project_id: now.project } },
        body: { member: now.member, operations, revision: now.revision },
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
