import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, csrfToken, typed, type Schemas } from '../api/client'
import type { Link } from '../lib/stages'

export type Overlay = 'actions' | 'utilisation' | 'moment' | 'sway' | 'names'
export interface Refusal {
  place: string
  message: string
}

/** One open project: its head, its computed chain, and what is looked at. */
export const useWorkbench = defineStore('workbench', () => {
  const project = shallowRef<Schemas['ProjectOut'] | null>(null)
  const chain = shallowRef<Schemas['ChainOut'] | null>(null)
  const diagram = shallowRef<Schemas['DiagramOut'] | null>(null)
  const catalogue = shallowRef<Schemas['FamilyOut'][]>([])
  const refreshing = ref(false)
  const message = ref('')
  const conflict = shallowRef<Schemas['ConflictOut'] | null>(null)
  const refusal = ref<Refusal | null>(null)
  const stage = ref<Link>('verification')
  const frame = ref(0)
  const selected = ref('')
  const state = ref('')
  const hidden = ref(new Set<string>())
  const overlays = ref(new Set<Overlay>(['utilisation', 'moment']))

  const document = computed(() => project.value?.document ?? null)
  const hall = computed(() => document.value?.hall ?? null)
  const member = computed(() => chain.value?.members?.find((m) => m.name === selected.value) ?? null)
  const stale = computed(() => !!chain.value && chain.value.revision !== project.value?.revision.number)
  const rounds = shallowRef<Schemas['RoundOut'][]>([])
  const sizing = shallowRef<Schemas['SizingOut'] | null>(null)
  const sizingBase = ref(0)

  /** Members by falling utilisation, those of one role if it is named. */
  function worstFirst(role = ''): Schemas['MemberOut'][] {
    const members = (chain.value?.members ?? []).filter((m) => !role || m.role === role)
    return [...members].sort((a, b) => (b.utilisation ?? 0) - (a.utilisation ?? 0))
  }

  async function open(id: string): Promise<void> {
    project.value = chain.value = diagram.value = null
    rounds.value = []
    sizing.value = null
    selected.value = state.value = ''
    hidden.value = new Set()
    overlays.value = new Set(['utilisation', 'moment'])
    const [found, families] = await Promise.all([
      api.GET('/api/projects/{project_id}', { params: { path: { project_id: id } } }),
      catalogue.value.length ? null : api.GET('/api/catalogue'),
    ])
    if (families?.data) catalogue.value = families.data
    if (!found.data) {
      message.value = 'There is no such project among yours.'
      return
    }
    project.value = typed('ProjectOut', found.data)
    frame.value = Math.ceil((hall.value?.frames ?? 0) / 2)
    await refresh()
    const first = worstFirst()[0]
    if (first) select(first.name, true)
    await draw()
  }

  /** Bring the chain to the head. A newer edit supersedes an answer under way. */
  async function refresh(): Promise<void> {
    const wanted = project.value
    if (!wanted) return
    refreshing.value = true
    const { data, error } = await api.GET('/api/projects/{project_id}/chain', {
      params: { path: { project_id: wanted.id }, query: { revision: wanted.revision.number } },
    })
    if (project.value?.revision.number !== wanted.revision.number || project.value.id !== wanted.id) return
    refreshing.value = false
    if (data) chain.value = typed('ChainOut', data)
    else if (error) message.value = 'The chain could not be refreshed; the numbers shown are of an older revision.'
    const frames = hall.value?.frames ?? 0
    if (frame.value > frames) frame.value = frames
    if (selected.value && !data?.members?.some((m) => m.name === selected.value)) selected.value = ''
    await draw()
  }

  /** Fetch the diagrams of what is looked at. */
  async function draw(): Promise<void> {
    const now = project.value
    if (!now || !chain.value || chain.value.problem) {
      diagram.value = null
      return
    }
    const asked = state.value || member.value?.checks?.[0]?.combination || 'envelope'
    const { data, error } = await api.GET('/api/projects/{project_id}/diagrams', {
      params: {
        path: { project_id: now.id },
        query: { frame: frame.value, state: asked, revision: chain.value.revision },
      },
    })
    if (data) diagram.value = typed('DiagramOut', data)
    else if (error && state.value) {
      state.value = ''
      await draw()
    }
  }

  function select(name: string, showFrame = false): void {
    selected.value = name
    const found = member.value
    if (found && found.frame && (showFrame || frame.value) && frame.value !== 0) frame.value = found.frame
    void draw()
  }

  function look(at: number): void {
    frame.value = at
    void draw()
  }

  function show(next: string): void {
    state.value = next
    void draw()
  }

  type Answer = { data?: unknown; error?: unknown; response: Response }

  /** Take the answer to an edit: the new head, a conflict, or a refusal that changed nothing. */
  async function take(answer: Answer, place = ''): Promise<boolean> {
    refusal.value = null
    if (answer.data) {
      project.value = typed('ProjectOut', answer.data)
      await refresh()
      return true
    }
    const error = answer.error as Partial<Schemas['Problem'] & Schemas['ConflictOut']> | undefined
    if (answer.response.status === 409) conflict.value = error as Schemas['ConflictOut']
    else if (answer.response.status === 422)
      refusal.value = { place: error?.place || place, message: error?.message ?? 'That was refused.' }
    else message.value = `The server answered ${answer.response.status}; nothing was changed.`
    return false
  }

  /** Post an edit of values at dotted paths against the head. */
  async function edit(label: string, changes: { path: string; value: unknown }[]): Promise<boolean> {
    const now = project.value
    if (!now) return false
    try {
      const answer = await api.POST('/api/projects/{project_id}/edits', {
        params: { path: { project_id: now.id } },
        body: { base: now.revision.number, label, changes: changes as Schemas['Change'][] },
      })
      return await take(answer, changes[0]?.path)
    } catch {
      message.value = 'The server cannot be reached; nothing was changed.'
      return false
    }
  }

  async function step(direction: 'undo' | 'redo'): Promise<void> {
    const now = project.value
    if (!now || (direction === 'undo' ? !now.can_undo : !now.can_redo)) return
    const request = { params: { path: { project_id: now.id } }, body: { base: now.revision.number } }
    await take(
      direction === 'undo'
        ? await api.POST('/api/projects/{project_id}/undo', request)
        : await api.POST('/api/projects/{project_id}/redo', request),
    )
  }

  /** After a conflict: show the head as it is now. */
  async function catchUp(): Promise<void> {
    const now = project.value
    conflict.value = null
    if (!now) return
    const { data } = await api.GET('/api/projects/{project_id}', { params: { path: { project_id: now.id } } })
    if (data) {
      project.value = typed('ProjectOut', data)
      await refresh()
    }
  }

  let stopper: AbortController | null = null
  const sizingRuns = ref(false)

  /** Size every role; rounds arrive while they are found. */
  async function size(): Promise<void> {
    const now = project.value
    if (!now || sizingRuns.value) return
    rounds.value = []
    sizing.value = null
    sizingBase.value = now.revision.number
    sizingRuns.value = true
    stopper = new AbortController()
    try {
      const response = await fetch(`/api/projects/${now.id}/sizing`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
        body: JSON.stringify({ base: now.revision.number }),
        signal: stopper.signal,
      })
      const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
      let rest = ''
      for (;;) {
        const { value, done } = await reader.read()
        if (done) break
        const lines = (rest + value).split('\n')
        rest = lines.pop() ?? ''
        for (const line of lines.filter(Boolean)) {
          const found = JSON.parse(line) as Schemas['SizingLine']
          if (found.round) rounds.value = [...rounds.value, found.round]
          if (found.sizing) sizing.value = found.sizing
          if (found.problem) refusal.value = { place: found.problem.place ?? '', message: found.problem.message }
        }
      }
    } catch (error) {
      if ((error as Error).name !== 'AbortError') message.value = 'The sizing was interrupted; nothing was changed.'
    } finally {
      sizingRuns.value = false
      stopper = null
    }
  }

  function stopSizing(): void {
    stopper?.abort()
  }

  return {
    project,
    chain,
    diagram,
    catalogue,
    refreshing,
    message,
    conflict,
    refusal,
    stage,
    frame,
    selected,
    state,
    hidden,
    overlays,
    document,
    hall,
    member,
    stale,
    rounds,
    sizing,
    sizingBase,
    sizingRuns,
    worstFirst,
    open,
    refresh,
    draw,
    select,
    look,
    show,
    edit,
    step,
    catchUp,
    size,
    stopSizing,
  }
})
