import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { answer } from '../api/queries'
import { useFollowing } from '../lib/following'
import { refused } from '../lib/refused'
import { useWorkbench } from './workbench'

export type Group = Schemas['GroupOut']
export type Sized = Schemas['SizedOut']
export type Candidate = Schemas['CandidateOut']
export type Round = Schemas['RoundOut']
export type Choice = Schemas['Choice']
type State = Schemas['SizingState']
type Plan = Schemas['GroupPlan']

const ACTIVE = ['waiting', 'running']
export const same = (a: Choice, b: Choice) =>
  a.section === b.section && a.grade === b.grade && String(a.haunch ?? '') === String(b.haunch ?? '')
/** “haunch 2.4 × 0.30 m”, nothing where it is as it is. */
export const haunchOf = (c: Choice) => (c.haunch ? `haunch ${c.haunch[0]} × ${c.haunch[1].toFixed(2)} m` : '')

/** The project's last sizing, done by a worker: a reload or another page finds it again. */
export const useSizing = defineStore('sizing', () => {
  const bench = useWorkbench()
  const state = shallowRef<State>({
    state: 'none',
    revision: 0,
    attempts: 1,
    message: '',
    stands: true,
    rounds: [],
    problem: null,
    sizing: null,
  })
  const proposed = shallowRef<Schemas['GroupsOut'] | null>(null)
  /** Whether groups are looked at, or set-outs beside one another. */
  const shows = ref<'groups' | 'set-outs'>('groups')
  /** The group that is looked at. */
  const chosen = ref('')
  /** The revision that was made by accepting. */
  const accepted = ref(0)
  const following = useFollowing(() => bench.project?.id)

  const runs = computed(() => ACTIVE.includes(state.value.state))
  const rounds = computed(() => state.value.rounds)
  const found = computed(() => state.value.sizing ?? null)
  /** What was found is of another model than what stands; changes of what may be chosen, and what was accepted, do not count. */
  const behind = computed(
    () => !!rounds.value.length && !state.value.stands && accepted.value !== bench.project?.revision.number,
  )
  const groups = computed(() => proposed.value?.groups ?? [])
  const plan = computed(() => bench.document?.sizing)
  /** The plan of a group; a part that has none of its own has that of the group it was split from. */
  const planOf = (name: string): Partial<Plan> => {
    const of = groups.value.find((g) => g.name === name)?.of ?? name
    return plan.value?.groups?.[name] ?? plan.value?.groups?.[of] ?? {}
  }
  /** The best that passed, also where the search was stopped. */
  const best = computed<Round | null>(() => {
    const passing = rounds.value.filter((r) => r.passes)
    const weight = (r: Round) => (plan.value?.objective === 'cost' ? r.cost : r.tonnage)
    return passing.reduce<Round | null>((least, r) => (!least || weight(r) < weight(least) ? r : least), null)
  })
  /** What may be accepted: by group what it is to be, where that differs from what it has. */
  const changes = computed(() => {
    const now = new Map(groups.value.map((g) => [g.name, g]))
    const choices: Record<string, Choice> = found.value
      ? Object.fromEntries(found.value.groups.map((g) => [g.name, g.after]))
      : (best.value?.choices ?? {})
    return Object.entries(choices).flatMap(([name, after]) => {
      const group = now.get(name)
      return group && (!same(group.now, after) || (group.mixed && !group.kept)) ? [{ group, after }] : []
    })
  })

  function show(next: State): void {
    state.value = next
    const names = (next.sizing?.groups ?? []).map((g) => g.name)
    if (names.length && !names.includes(chosen.value)) chosen.value = names[0]!
  }
  const none: State = {
    state: 'none',
    revision: 0,
    attempts: 1,
    message: '',
    stands: true,
    rounds: [],
    problem: null,
    sizing: null,
  }

  /** Show the rounds as they are found, until the sizing ends or another project is opened. */
  const follow = () =>
    following.follow(
      (id) =>
        api.GET('/api/projects/{project_id}/sizing', {
          params: { path: { project_id: id }, query: { rounds: rounds.value.length, wait: 1.5 } },
        }),
      (data) => {
        const next = typed('SizingState', data)
        const worked = runs.value
        show(next)
        if (runs.value) return true
        if (worked && next.problem) bench.refusal = refused(next.problem.place, next.problem.message)
        else if (worked && next.state === 'failed') bench.message = `${next.message} Nothing was changed.`
        return false
      },
    )

  /** Ask which groups there are. */
  async function propose(): Promise<void> {
    const id = bench.project?.id
    if (!id) return
    try {
      const found = await answer('/api/projects/{project_id}/groups', { path: { project_id: id } })
      if (bench.project?.id === id) {
        proposed.value = found
        if (!groups.value.some((g) => g.name === chosen.value)) chosen.value = groups.value[0]?.name ?? ''
      }
    } catch {
      // the page says that the server is away
    }
  }

  /** Have every group sized. */
  async function size(): Promise<void> {
    const now = bench.project
    if (!now || runs.value) return
    accepted.value = 0
    show({ ...none, state: 'waiting', revision: now.revision.number })
    try {
      const { data, error } = await api.POST('/api/projects/{project_id}/sizing', {
        params: { path: { project_id: now.id } },
        body: { base: now.revision.number },
      })
      if (bench.project?.id !== now.id) return
      if (data) {
        show(typed('SizingState', data))
        await follow()
        return
      }
      bench.refusal = refused(error?.place ?? '', error?.message ?? 'The sizing could not be started.')
      bench.message = error?.message ?? 'The sizing could not be started.'
    } catch {
      bench.message = 'The server cannot be reached; the sizing was not started.'
    }
    show(none)
  }

  async function stop(): Promise<void> {
    const now = bench.project
    if (!now) return
    const { data } = await api.DELETE('/api/projects/{project_id}/sizing', {
      params: { path: { project_id: now.id } },
    })
    if (data && bench.project?.id === now.id) {
      following.leave()
      show(typed('SizingState', data))
    }
  }

  /** Give groups what was found, as one revision. */
  async function accept(names: string[]): Promise<boolean> {
    const taken = changes.value.filter((c) => names.includes(c.group.name))
    if (!taken.length) return false
    const said = (c: Choice) => [c.section, haunchOf(c)].filter(Boolean).join(', ')
    const words = taken.map((c) => `${c.group.name} ${said(c.after)}`).join(', ')
    const done = await bench.operate(
      `Sizing accepted: ${words}`,
      ...taken.map(({ group, after }) => ({
        do: 'resize' as const,
        members: group.members,
        section: after.section,
        ...(after.grade === group.now.grade && !group.mixed ? {} : { material: after.grade }),
        ...(after.haunch ? { haunch: { length: after.haunch[0], depth: after.haunch[1] } } : {}),
      })),
    )
    if (done) accepted.value = bench.project?.revision.number ?? 0
    return done
  }

  /** Change what a group may have, or how everything is sized, as an edit of the document. */
  const may = (group: string, what: keyof Plan, value: unknown, words: string) => {
    const whole = plan.value?.groups?.[group] ? {} : planOf(group)
    const own = Object.keys(whole).length
      ? { path: `sizing.groups.${group}`, value: { ...whole, apart: [], [what]: value } }
      : { path: `sizing.groups.${group}.${what}`, value }
    return bench.edit(`Sizing, ${group}: ${words}`, [own])
  }
  const set = (path: string, value: unknown, words: string) =>
    bench.edit(`Sizing: ${words}`, [{ path: `sizing.${path}`, value }])

  watch(
    () => bench.project?.id,
    () => {
      following.leave()
      proposed.value = null
      chosen.value = ''
      accepted.value = 0
      show(none)
      if (bench.project) void follow()
    },
    { immediate: true },
  )
  watch(
    () => [bench.stage, bench.project?.id, bench.project?.revision.number] as const,
    ([stage], before) => {
      if (stage !== 'sizing') return
      void propose()
      // whether what was found is still of what stands
      if (before && !runs.value && rounds.value.length) void follow()
    },
    { immediate: true },
  )

  return {
    state,
    runs,
    rounds,
    found,
    behind,
    accepted,
    groups,
    proposed,
    plan,
    planOf,
    best,
    changes,
    shows,
    chosen,
    size,
    stop,
    accept,
    may,
    set,
  }
})
