import { ref, shallowRef, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import type { Change } from '../lib/changes'
import { refused, type Refusal } from '../lib/refused'

/** What posts need of the open project. */
interface Ground {
  project: ShallowRef<Schemas['ProjectOut'] | null>
  readOnly: ComputedRef<string>
  message: Ref<string>
  refresh: () => Promise<void>
}

/** The head of the open project: changes posted against it one after another, and what others did to it. */
export function useHead({ project, readOnly, message, refresh }: Ground) {
  /** A revision that somebody made elsewhere, or that this page does not know yet; and the last that was taken over by itself. */
  const elsewhere = shallowRef<Schemas['RevisionOut'] | null>(null)
  const arrived = shallowRef<Schemas['RevisionOut'] | null>(null)
  const conflict = shallowRef<Schemas['ConflictOut'] | null>(null)
  const refusal = ref<Refusal | null>(null)

  type Answer = { data?: unknown; error?: unknown; response: Response }

  /** Take the answer to a post: the new head, a conflict, or a refusal that changed nothing. What comes when another project is
   * open is told with its project's name. */
  function take(answer: Answer, place: string, of: Schemas['ProjectOut']): boolean {
    if (project.value?.id !== of.id) {
      if (answer.data) heads.set(of.id, typed('ProjectOut', answer.data))
      else
        message.value = `“${of.name}”: the last change was refused. ${(answer.error as Partial<Schemas['Problem']>)?.message ?? ''}`
      return false
    }
    refusal.value = null
    if (answer.data) {
      project.value = typed('ProjectOut', answer.data)
      // the head that was seen meanwhile may have been this very change
      elsewhere.value = null
      return true
    }
    const error = answer.error as Partial<Schemas['Problem'] & Schemas['ConflictOut']> | undefined
    if (answer.response.status === 409) conflict.value = error as Schemas['ConflictOut']
    else if (answer.response.status === 422)
      refusal.value = refused(error?.place || place, error?.message ?? 'That was refused.', of.document)
    else message.value = `${error?.message ?? `The server answered ${answer.response.status}.`} Nothing was changed.`
    return false
  }

  /** A post was cut off: whether it was done is known once the server answers again. */
  async function reach(): Promise<void> {
    const before = project.value
    if (!before || reaching) return
    reaching = true
    message.value = 'The server cannot be reached. Whether the last change was stored is not known yet; trying again…'
    for (let pause = 500; project.value?.id === before.id; pause = Math.min(pause * 2, 4000)) {
      await new Promise((done) => setTimeout(done, pause))
      try {
        const { data } = await api.GET('/api/projects/{project_id}', { params: { path: { project_id: before.id } } })
        if (!data) continue
        const now = typed('ProjectOut', data)
        message.value =
          now.revision.number === before.revision.number
            ? 'The server is back. The last change was not stored; please make it again.'
            : `The server is back. The project stands at revision ${now.revision.number}: ${now.revision.label}.`
        project.value = now
        break
      } catch {
        // not yet
      }
    }
    reaching = false
    await refresh()
  }
  let reaching = false

  /** See whether somebody else moved the project on, and show where it stands now. */
  async function watchHead(): Promise<void> {
    const now = project.value
    if (!now || reaching || globalThis.document.hidden) return
    try {
      const { data } = await api.GET('/api/projects/{project_id}/head', { params: { path: { project_id: now.id } } })
      if (!data || project.value !== now) return
      elsewhere.value = data.number === now.revision.number ? null : data
      // what is typed stays in its field; changes on their way have the base that they were made on
      if (elsewhere.value && !queued.value && !conflict.value) {
        await catchUp()
        arrived.value = data
      }
    } catch {
      // said by whatever is asked for next
    }
  }

  /** Changes that wait for the server to take them. */
  const queued = ref(0)
  /** What stands in projects that were left while changes of theirs still waited. */
  const heads = new Map<string, Schemas['ProjectOut']>()
  let turn: Promise<unknown> = Promise.resolve()
  /** Post against the head. Posts wait for one another, so that quick work never stands in its own way as a conflict. */
  async function post(place: string, send: (now: Schemas['ProjectOut']) => Promise<Answer> | null): Promise<boolean> {
    const id = project.value?.id
    if (!id) return false
    if (readOnly.value) {
      refusal.value = refused(place, readOnly.value)
      message.value = readOnly.value
      return false
    }
    queued.value++
    const mine = turn.then(async () => {
      const now = project.value?.id === id ? project.value : heads.get(id)
      try {
        const answer = now ? await send(now) : null
        return !!now && !!answer && take(answer, place, now)
      } catch {
        if (project.value?.id === id) void reach()
        else
          message.value = `“${now?.name}”: the server cannot be reached; whether the last change was stored is not known.`
        return false
      } finally {
        queued.value--
        if (!queued.value) heads.clear()
      }
    })
    turn = mine
    const taken = await mine
    if (taken) await refresh()
    return taken
  }
  const at = (now: Schemas['ProjectOut']) => ({ params: { path: { project_id: now.id } } })

  /** Edit values at dotted paths. */
  const edit = (label: string, changes: Change[]): Promise<boolean> =>
    post(changes[0]?.path ?? '', (now) =>
      api.POST('/api/projects/{project_id}/edits', {
        ...at(now),
        body: { base: now.revision.number, label, changes: changes as Schemas['Change'][] },
      }),
    )

  /** Do operations by hand, as one revision. */
  const operate = (label: string, ...operations: Schemas['Operate']['operations']): Promise<boolean> =>
    post('operation', (now) =>
      api.POST('/api/projects/{project_id}/operate', {
        ...at(now),
        body: { base: now.revision.number, label, operations },
      }),
    )

  /** Put what the office keeps into the project. */
  const putKept = (kept: number): Promise<boolean> =>
    post('kept', (now) =>
      api.POST('/api/projects/{project_id}/kept', { ...at(now), body: { base: now.revision.number, kept } }),
    )

  /** Make an older revision stand again. */
  const restore = (number: number): Promise<boolean> =>
    post('', (now) =>
      api.POST('/api/projects/{project_id}/restore', { ...at(now), body: { base: now.revision.number, number } }),
    )

  const step = (direction: 'undo' | 'redo'): Promise<boolean> =>
    post('', (now) => {
      const request = { ...at(now), body: { base: now.revision.number } }
      if (direction === 'undo') return now.can_undo ? api.POST('/api/projects/{project_id}/undo', request) : null
      return now.can_redo ? api.POST('/api/projects/{project_id}/redo', request) : null
    })

  /** After a conflict: show the head as it is now. */
  async function catchUp(): Promise<void> {
    const now = project.value
    conflict.value = null
    elsewhere.value = null
    arrived.value = null
    if (!now) return
    const { data } = await api.GET('/api/projects/{project_id}', { params: { path: { project_id: now.id } } })
    if (data) {
      project.value = typed('ProjectOut', data)
      await refresh()
    }
  }

  /** Before another project is opened: what stands in this one, while changes of its wait. */
  function leave(): void {
    if (project.value && queued.value) heads.set(project.value.id, project.value)
    elsewhere.value = arrived.value = null
  }

  return {
    elsewhere,
    arrived,
    conflict,
    refusal,
    queued,
    leave,
    watchHead,
    post,
    edit,
    operate,
    putKept,
    restore,
    step,
    catchUp,
  }
}
