import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { useFollowing } from '../lib/following'
import { useWorkbench } from './workbench'

export type Point = Schemas['SetOut']
export type Quantity = Schemas['QuantityOut']
type Value = number | string

const ACTIVE = ['waiting', 'running']

/** Set-outs of the hall beside one another, each sized by a worker. */
export const useStudy = defineStore('study', () => {
  const bench = useWorkbench()
  const state = shallowRef<Schemas['StudyOut'] | null>(null)
  const chosen = ref(0)
  const following = useFollowing(() => bench.project?.id)
  const points = computed(() => state.value?.points ?? [])
  const runs = computed(() => points.value.some((p) => ACTIVE.includes(p.state)))
  const solved = computed(() => points.value.filter((p) => p.state === 'done' && p.tonnage !== null))
  const point = computed(() => points.value.find((p) => p.number === chosen.value) ?? null)
  const weight = (p: Point) => {
    const sizing = bench.document?.sizing as { objective?: string } | undefined
    return (sizing?.objective === 'cost' ? p.cost : p.tonnage) ?? Infinity
  }
  /** The least of those that pass. */
  const best = computed(() =>
    solved.value.filter((p) => p.passes).reduce<Point | null>((a, b) => (!a || weight(b) < weight(a) ? b : a), null),
  )
  /** As it stands, sized too: what the others are compared with. */
  const base = computed(() => points.value.find((p) => !Object.keys(p.values).length) ?? null)

  /** Show the study until every set-out has ended. */
  const follow = () =>
    following.follow(
      (id) =>
        api.GET('/api/projects/{project_id}/study', {
          params: { path: { project_id: id }, query: { done: state.value?.done ?? -1, wait: 1.5 } },
        }),
      (data) => {
        state.value = typed('StudyOut', data)
        return runs.value
      },
    )

  /** Have set-outs sized: every combination of values, or one thing changed at a time where none are given. */
  async function start(ranges: Record<string, Value[]> = {}): Promise<void> {
    const now = bench.project
    if (!now) return
    following.leave()
    try {
      const { data, error } = await api.POST('/api/projects/{project_id}/study', {
        params: { path: { project_id: now.id } },
        body: { base: now.revision.number, ranges },
      })
      if (bench.project?.id !== now.id) return
      if (data) {
        state.value = typed('StudyOut', data)
        await follow()
      } else bench.message = error?.message ?? 'The study could not be started.'
    } catch {
      bench.message = 'The server cannot be reached; the study was not started.'
    }
  }

  async function stop(): Promise<void> {
    const now = bench.project
    if (!now) return
    following.leave()
    const { data } = await api.DELETE('/api/projects/{project_id}/study', { params: { path: { project_id: now.id } } })
    if (data && bench.project?.id === now.id) state.value = typed('StudyOut', data)
  }

  /** Make a set-out what stands, as one revision. */
  const take = (p: Point) =>
    bench.post('study', (now) =>
      api.POST('/api/projects/{project_id}/study/take', {
        params: { path: { project_id: now.id } },
        body: { base: now.revision.number, number: p.number },
      }),
    )

  watch(
    () => [bench.stage, bench.project?.id, bench.project?.revision.number] as const,
    ([stage, id], before) => {
      if (id !== before?.[1]) {
        following.leave()
        state.value = null
        chosen.value = 0
      }
      if (stage === 'sizing' && id) void follow()
    },
    { immediate: true },
  )

  return { state, points, point, chosen, runs, solved, best, base, start, stop, take }
})
