import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { useFollowing } from '../lib/following'
import { useWorkbench } from './workbench'

type State = Schemas['DossierState']
export type Chapter = Schemas['ChapterOut']
export type Section = Schemas['DossierSectionOut']
export type Level = Chapter['level']
const ACTIVE = ['waiting', 'running']

/** The dossier of the open project: made by a worker for what stands while its stage is looked at. */
export const useDossier = defineStore('dossier', () => {
  const bench = useWorkbench()
  const state = shallowRef<State | null>(null)
  const message = ref('')
  /** The page that is looked at, from 1, and the chapter or section that is chosen. */
  const page = ref(1)
  const chosen = ref('')
  const pages = ref<1 | 2>(2)
  const making = computed(() => ACTIVE.includes(state.value?.state ?? ''))
  const chapters = computed(() => state.value?.chapters ?? [])
  const sections = computed(() => state.value?.file?.sections ?? [])
  const section = computed(() => sections.value.find((s) => s.anchor === chosen.value) ?? null)
  const open = computed(() => (state.value?.questions ?? []).filter((q) => q.state === 'open').length)
  /** The last section up to a place that is such a one. */
  const before = (at: number, is: (s: Section) => boolean) =>
    sections.value
      .slice(0, at + 1)
      .reverse()
      .find(is)?.anchor
  /** The inputs that stand in the chosen section. */
  const rows = computed(() => {
    const at = sections.value.findIndex((s) => s.anchor === chosen.value)
    const end = sections.value.findIndex((s, k) => k > at && !s.row)
    return at < 0 ? [] : sections.value.slice(at + 1, end < 0 ? undefined : end)
  })
  /** The chapter that is chosen, or that the chosen section is in. */
  const chapter = computed(() => {
    const at = sections.value.findIndex((s) => s.anchor === chosen.value)
    const own = before(at, (s) => s.depth === 1) ?? chosen.value
    return chapters.value.find((c) => c.key === own) ?? null
  })
  const following = useFollowing(() => bench.project?.id)
  const path = () => ({ project_id: bench.project!.id })

  /** Show how the dossier stands until nothing is being made any more. */
  const follow = () =>
    following.follow(
      (id) =>
        api.GET('/api/projects/{project_id}/dossier', { params: { path: { project_id: id }, query: { wait: 1.5 } } }),
      (data) => {
        state.value = typed('DossierState', data)
        return making.value
      },
    )

  type Answer = { data?: unknown; error?: unknown }
  /** Take an answer, or say why there is none; then follow what it set going. */
  async function take(send: () => Promise<Answer>): Promise<boolean> {
    const id = bench.project?.id
    following.leave()
    message.value = ''
    try {
      const { data, error } = await send()
      if (bench.project?.id !== id) return false
      if (data) {
        state.value = typed('DossierState', data)
        if (making.value) await follow()
        return true
      }
      message.value = (error as Partial<Schemas['Problem']> | undefined)?.message ?? 'It could not be done.'
    } catch {
      message.value = 'The server cannot be reached.'
    }
    return false
  }

  const look = (make: boolean, again = false) =>
    take(() => api.GET('/api/projects/{project_id}/dossier', { params: { path: path(), query: { make, again } } }))
  const make = () => look(true, true)
  const stop = () => take(() => api.DELETE('/api/projects/{project_id}/dossier', { params: { path: path() } }))
  const issue = (purpose: Schemas['IssueIn']['purpose']) =>
    take(() =>
      api.POST('/api/projects/{project_id}/issues', {
        params: { path: path() },
        body: { base: bench.project!.revision.number, purpose },
      }),
    )
  const ask = (anchor: string, text: string) =>
    take(() => api.POST('/api/projects/{project_id}/questions', { params: { path: path() }, body: { anchor, text } }))
  const answer = (number: number, body: { answer?: string; close?: boolean }) =>
    take(() =>
      api.PATCH('/api/projects/{project_id}/questions/{number}', {
        params: { path: { ...path(), number } },
        body: { answer: body.answer ?? '', close: body.close ?? false },
      }),
    )
  const tick = (anchor: string, seen: boolean) =>
    take(() => api.PUT('/api/projects/{project_id}/ticks', { params: { path: path() }, body: { anchor, seen } }))

  /** Choose a chapter or section, of an input the one that it stands in, and go to its page. */
  function go(anchor: string): void {
    const at = sections.value.findIndex((s) => s.anchor === anchor)
    chosen.value = before(at, (s) => !s.row) ?? anchor
    if (at >= 0) page.value = sections.value[at]!.page
  }

  /** Change how a chapter is told, as an edit of the document. */
  const plan = (of: Chapter, what: 'level' | 'left_out' | 'remark' | 'place', value: unknown) =>
    bench.edit(`Dossier, ${of.title}: ${words(what, value)}`, [{ path: `dossier.chapters.${of.key}.${what}`, value }])

  /** Move a chapter before or behind its neighbour. */
  function move(of: Chapter, by: -1 | 1): Promise<boolean> {
    const all = chapters.value
    const at = all.findIndex((c) => c.key === of.key)
    const next = all[at + by]
    if (!next) return Promise.resolve(false)
    const beyond = all[at + 2 * by]
    return plan(of, 'place', beyond ? (next.place + beyond.place) / 2 : next.place + by * 0.5)
  }

  // made anew for each revision while it is looked at, once the numbers are there
  watch(
    () => [bench.stage, bench.project?.id, bench.project?.revision.number, bench.refreshing] as const,
    ([stage, id, , refreshing], before) => {
      if (id !== before?.[1]) {
        state.value = null
        page.value = 1
        chosen.value = ''
      }
      if (stage === 'dossier' && id && !refreshing) void look(!bench.chain?.problem && !!bench.chain?.members?.length)
    },
    { immediate: true },
  )

  return {
    state,
    message,
    page,
    pages,
    chosen,
    making,
    chapters,
    sections,
    section,
    rows,
    chapter,
    open,
    make,
    stop,
    issue,
    ask,
    answer,
    tick,
    go,
    plan,
    move,
  }
})

function words(what: string, value: unknown): string {
  if (what === 'left_out') return value ? 'left out' : 'taken in'
  if (what === 'level') return `${value}`
  return what === 'remark' ? (value ? 'remark' : 'remark taken away') : 'moved'
}
