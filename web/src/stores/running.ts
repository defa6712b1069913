import { computed, shallowRef, type ShallowRef } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { follow, isActive, laidUnder, type Running } from '../lib/live'

/** What computing rests on: the open project, its chain, and what is done after another chain has come. */
interface Ground {
  project: ShallowRef<Schemas['ProjectOut'] | null>
  chain: ShallowRef<Schemas['ChainOut'] | null>
  settle: () => Promise<void>
}

/** The chain of the open project brought to its head, by runs that are followed, stopped and paused. */
export function useRunning({ project, chain, settle }: Ground) {
  /** How the numbers of the present revision are being computed; null when they are there. */
  const running = shallowRef<Running | null>(null)
  const refreshing = computed(() => isActive(running.value))

  /** Bring the chain to the head. A newer edit supersedes an answer under way. */
  async function refresh(): Promise<void> {
    const wanted = project.value
    if (!wanted) return
    const number = wanted.revision.number
    const current = () => project.value?.revision.number === number && project.value.id === wanted.id
    const path = { project_id: wanted.id }
    let slow = false
    running.value = {
      revision: number,
      state: 'waiting',
      stage: '',
      done: 0,
      of: 0,
      attempts: 1,
      message: '',
      since: Date.now(),
    }
    const found = await follow(
      number,
      async () => {
        const answer = await api.GET('/api/projects/{project_id}/chain', {
          params: { path, query: { revision: number, wait: !slow ? 0.8 : running.value?.state === 'waiting' ? 2 : 1 } },
        })
        const status = answer.response.status
        if (status === 200) return { status, chain: typed('ChainOut', answer.data) }
        if (status === 202) return { status, running: typed('RunningOut', answer.data) }
        return { status, message: answer.error?.message }
      },
      (told) => {
        running.value = told
        // what takes longer shows at least what stands now
        if (!slow) void lay(number, current)
        slow = true
      },
      current,
    )
    if (!current()) return
    if (!found) return
    running.value = null
    chain.value = found
    await settle()
  }

  /** Show the structure of a revision whose numbers are not there, under the older numbers. */
  async function lay(number: number, current: () => boolean): Promise<void> {
    const now = project.value
    if (!now) return
    try {
      const { data } = await api.GET('/api/projects/{project_id}/structure', {
        params: { path: { project_id: now.id }, query: { revision: number } },
      })
      if (!data || !current() || !running.value) return
      chain.value = laidUnder(typed('ChainOut', data), chain.value)
      await settle()
    } catch {
      // the run itself tells that the server does not answer
    }
  }

  /** Stop what is being computed. */
  async function stop(): Promise<void> {
    const now = project.value
    if (now) await api.DELETE('/api/projects/{project_id}/runs', { params: { path: { project_id: now.id } } })
  }

  /** Compute the numbers of the head now, though paused or stopped. */
  async function start(): Promise<void> {
    const now = project.value
    if (!now) return
    await api.POST('/api/projects/{project_id}/runs', { params: { path: { project_id: now.id } } })
    await refresh()
  }

  /** Refresh only when asked to, or by itself again. */
  async function pause(paused: boolean): Promise<void> {
    const now = project.value
    if (!now) return
    const { data } = await api.PATCH('/api/projects/{project_id}', {
      params: { path: { project_id: now.id } },
      body: { paused },
    })
    if (!data) return
    project.value = typed('ProjectOut', data)
    if (!paused) await refresh()
  }

  return { running, refreshing, refresh, stop, start, pause }
}
