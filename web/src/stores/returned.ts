import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { LARGEST, posted } from '../lib/takingIn'
import { useFollowing } from '../lib/following'
import { useWorkbench } from './workbench'

export type Alike = Schemas['AlikeOut']
const ACTIVE = ['waiting', 'running']

/** A model that was sent to be detailed and came back: its differences from what stands. */
export const useReturned = defineStore('returned', () => {
  const bench = useWorkbench()
  const state = shallowRef<Schemas['ReturnedState'] | null>(null)
  const problem = ref('')
  /** Since when an office or a file is waited for, in words. */
  /** What is under way. */
  const busy = ref<'' | 'sending' | 'reading' | 'refusing' | 'solving'>('')
  const chosen = ref('')
  const following = useFollowing(() => bench.project?.id)
  const model = computed(() => state.value?.model ?? null)
  const groups = computed<readonly Alike[]>(() => model.value?.groups ?? [])
  const runs = computed(() => ACTIVE.includes(model.value?.state ?? ''))
  const open = computed(() => groups.value.filter((g) => g.takes && !g.refused))
  const group = computed(() => groups.value.find((g) => g.key === chosen.value) ?? null)

  /** Show how it stands, until what is solved has ended. */
  const follow = () =>
    following.follow(
      (id) =>
        api.GET('/api/projects/{project_id}/returned', {
          params: {
            path: { project_id: id },
            query: { done: state.value?.model?.done_of[0] ?? -1, wait: runs.value ? 1.5 : 0 },
          },
        }),
      (data) => {
        state.value = typed('ReturnedState', data)
        return runs.value
      },
    )

  /** Ask for something that answers with how it stands; what is said against it is kept. */
  async function ask(
    what: 'sending' | 'reading' | 'refusing' | 'solving',
    work: (id: string) => Promise<{ data?: unknown; problem: string }>,
  ): Promise<void> {
    const id = bench.project?.id
    if (!id || busy.value) return
    following.leave()
    busy.value = what
    problem.value = ''
    const found = await work(id)
    busy.value = ''
    if (bench.project?.id !== id) return
    problem.value = found.problem
    if (found.data) state.value = typed('ReturnedState', found.data)
    await follow()
  }
  const at = (id: string, rest = '') => `/api/projects/${id}/returned${rest}`
  /** Send what stands to the office that details steel. */
  const send = () => {
    chosen.value = ''
    return ask('sending', (id) => posted(at(id, '/order'), '{}'))
  }
  /** Take a file back. */
  async function receive(file: File): Promise<void> {
    if (file.size > LARGEST) {
      problem.value = `${file.name} is larger than 8 MB.`
      return
    }
    const form = new FormData()
    form.append('file', file, file.name)
    chosen.value = ''
    await ask('reading', (id) => posted(at(id), form))
  }
  const refuse = (of: readonly Alike[], refused: boolean) =>
    ask('refusing', (id) =>
      posted(at(id, '/refuse'), JSON.stringify({ keys: of.flatMap((g) => g.items.map((d) => d.key)), refused })),
    )
  const solve = () =>
    ask('solving', (id) => posted(at(id, '/effects'), JSON.stringify({ base: bench.project!.revision.number })))
  /** Stop solving, or put the model away. */
  async function end(what: 'effects' | 'model'): Promise<void> {
    const id = bench.project?.id
    if (!id) return
    following.leave()
    const params = { path: { project_id: id } }
    const { data } =
      what === 'effects'
        ? await api.DELETE('/api/projects/{project_id}/returned/effects', { params })
        : await api.DELETE('/api/projects/{project_id}/returned', { params })
    if (data && bench.project?.id === id) state.value = typed('ReturnedState', data)
  }
  /** Make differences what stands, as one revision. */
  const take = (of: readonly Alike[]) =>
    bench.post('returned', (now) =>
      api.POST('/api/projects/{project_id}/returned/take', {
        params: { path: { project_id: now.id } },
        body: { base: now.revision.number, keys: of.flatMap((g) => g.items.map((d) => d.key)) },
      }),
    )

  /** Choose what is alike: its members are chosen in the view, its axes as they came are drawn there. */
  function choose(key: string): void {
    chosen.value = chosen.value === key ? '' : key
    const there = new Set(bench.lists.members.map((m) => m.name))
    if (!group.value) return
    bench.choose(group.value.items.flatMap((d) => d.members).filter((name) => there.has(name)))
    // what lies elsewhere than the frame shown is seen in the whole
    const seen = new Set(bench.looking?.members.map((i) => bench.chain!.members[i]!.name))
    if (bench.looking && ![...bench.chosen].every((name) => seen.has(name))) bench.look('whole')
  }
  watch(group, (now) => (bench.proposed = now ? now.items.flatMap((d) => d.lines) : []))
  watch(
    () => [bench.stage, bench.project?.id, bench.project?.revision.number] as const,
    ([stage, id], before) => {
      if (id !== before?.[1]) {
        following.leave()
        state.value = null
        problem.value = chosen.value = ''
      }
      if (stage !== 'frame') chosen.value = ''
      else if (id) void follow()
    },
    { immediate: true },
  )

  return {
    state,
    model,
    groups,
    group,
    open,
    runs,
    problem,
    busy,
    chosen,
    choose,
    send,
    receive,
    refuse,
    solve,
    end,
    take,
  }
})
