import { ref, shallowRef, type Ref, type ShallowRef } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import type { Refusal } from './workbench'

interface Needs {
  project: ShallowRef<Schemas['ProjectOut'] | null>
  message: Ref<string>
  refusal: Ref<Refusal | null>
}

const ACTIVE = ['waiting', 'running']

/** The project's last sizing, done by a worker: a reload or another page finds it again. */
export function useSizing({ project, message, refusal }: Needs) {
  const rounds = shallowRef<Schemas['RoundOut'][]>([])
  const sizing = shallowRef<Schemas['SizingOut'] | null>(null)
  const sizingBase = ref(0)
  const sizingRuns = ref(false)
  let following = 0

  function show(state: Pick<Schemas['SizingState'], 'state'> & Partial<Schemas['SizingState']>): void {
    rounds.value = state.rounds ?? []
    sizing.value = state.sizing ?? null
    sizingBase.value = state.revision ?? 0
    sizingRuns.value = ACTIVE.includes(state.state)
  }

  /** Forget what another project showed, and look for what this one has. */
  async function findSizing(): Promise<void> {
    show({ state: 'none' })
    await follow()
  }

  /** Show the rounds as they are found, until the sizing ends or another project is opened. */
  async function follow(): Promise<void> {
    const mine = ++following
    const id = project.value?.id
    let patience = 250
    while (id && project.value?.id === id && mine === following) {
      try {
        const { data, response } = await api.GET('/api/projects/{project_id}/sizing', {
          params: { path: { project_id: id }, query: { rounds: rounds.value.length, wait: 1.5 } },
        })
        if (mine !== following || project.value?.id !== id) return
        if (data) {
          const state = typed('SizingState', data)
          const worked = sizingRuns.value
          show(state)
          patience = 250
          if (sizingRuns.value) continue
          if (worked && state.problem)
            refusal.value = { place: state.problem.place ?? '', message: state.problem.message }
          else if (worked && state.state === 'failed') message.value = `${state.message} Nothing was changed.`
          return
        }
        if (response.status < 500) return
      } catch {
        // the server is away: the sizing goes on without it
      }
      await new Promise((done) => setTimeout(done, patience))
      patience = Math.min(patience * 2, 4000)
    }
  }

  /** Have every role sized. */
  async function size(): Promise<void> {
    const now = project.value
    if (!now || sizingRuns.value) return
    show({ state: 'waiting', revision: now.revision.number })
    try {
      const { data, error } = await api.POST('/api/projects/{project_id}/sizing', {
        params: { path: { project_id: now.id } },
        body: { base: now.revision.number },
      })
      if (project.value?.id !== now.id) return
      if (data) {
        show(typed('SizingState', data))
        await follow()
        return
      }
      refusal.value = { place: error?.place ?? '', message: error?.message ?? 'The sizing could not be started.' }
    } catch {
      message.value = 'The server cannot be reached; the sizing was not started.'
    }
    show({ state: 'none' })
  }

  async function stopSizing(): Promise<void> {
    const now = project.value
    if (!now) return
    const { data } = await api.DELETE('/api/projects/{project_id}/sizing', {
      params: { path: { project_id: now.id } },
    })
    if (data && project.value?.id === now.id) {
      following++
      show(typed('SizingState', data))
    }
  }

  return { rounds, sizing, sizingBase, sizingRuns, findSizing, size, stopSizing }
}
