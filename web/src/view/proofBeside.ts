import { computed, ref, shallowRef, watch, type ComputedRef } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { useAnswer } from '../api/queries'
import { figures } from '../lib/temper'
import { useSingle } from '../stores/single'
import { useWorkbench } from '../stores/workbench'

type Asked = Pick<Schemas['OtherwiseIn'], 'operations' | 'methods'>
/** What may stand beside a proof: another combination, or the member otherwise. names: heads of both columns, where they are not the
 * combinations; takes: whether it can be done to the member alone. */
export interface Beside {
  key: string
  group: 'Combinations' | 'Sections' | 'Methods' | 'Effective lengths'
  label: string
  combination?: string
  asked?: Asked
  names?: [string, string]
  takes?: boolean
}

/** Uses of the combinations that a criterion looks at. */
const USES: Record<string, readonly string[]> = {
  variable: ['variable'],
  frequency: ['quasi-permanent'],
  floor: ['quasi-permanent'],
  deflection: ['deflection'],
  sway: ['deflection'],
  apart: ['deflection'],
}
const STRONG = ['strength', 'accidental']
/** Methods that the standard leaves to choose: what they are of, their criteria, and their values. */
const METHODS: {
  key: 'interaction' | 'lateral' | 'modification'
  of: string
  criteria: readonly string[]
  values: readonly string[]
}[] = [
  { key: 'interaction', of: 'k_ij', criteria: ['interaction', 'twist'], values: ['annex A', 'annex B'] },
  { key: 'lateral', of: 'χ_LT', criteria: ['lateral', 'interaction', 'twist'], values: ['6.3.2.3', '6.3.2.2'] },
  { key: 'modification', of: 'f', criteria: ['lateral', 'interaction', 'twist'], values: ['1', '(6.58)'] },
]
const squashed = (words: string) => words.toLowerCase().replace(/\s/g, '')
/** Sections that are offered at once. */
const MOST = 60
const STABLE = ['flexural', 'interaction', 'twist', 'general', 'single', 'chord', 'axial']

/** What may stand beside the proof of a criterion of the selected member in a combination ("": that which governs), and what does. */
export function useBeside(criterion: () => string, combination: ComputedRef<string>) {
  const bench = useWorkbench()
  const single = useSingle()
  void bench.loadCatalogue()

  const combinations = computed<Beside[]>(() => {
    const told = single.why?.criteria.find((c) => c.criterion === criterion())
    const near = new Map((told ? [told, ...told.next] : []).map((c) => [c.combination, c.utilisation]))
    const uses = USES[criterion()] ?? STRONG
    return bench.lists.combinations
      .filter((c) => uses.includes(c.use))
      .map((c) => ({ c, near: near.get(c.name) }))
      .sort((a, b) => (b.near ?? -1) - (a.near ?? -1))
      .map(({ c, near: u }) => ({
        key: c.name,
        group: 'Combinations' as const,
        label: `${c.name}${u === undefined ? '' : ` · ${figures(u)}`} · ${c.formula}`,
        combination: c.name,
      }))
  })

  const key = ref('')
  /** What is typed to find something: sections of all families then. */
  const query = ref('')
  const found = (b: Beside) => b.key === key.value || squashed(b.label).includes(squashed(query.value))
  const family = computed(
    () => bench.catalogue.find((f) => f.sections.some((s) => s.name === bench.member?.section))?.name,
  )
  const sections = computed<Beside[]>(() => {
    const member = bench.member
    if (!member) return []
    const words = query.value.trim()
    const families = words.length > 1 ? bench.catalogue : bench.catalogue.filter((f) => f.name === family.value)
    const own = [...bench.stated.sections, ...bench.stated.built_sections].map((s) => ({ name: s.name, mass: null }))
    return [...families.flatMap((f) => f.sections), ...own]
      .filter((s) => s.name !== member.section)
      .map((s) => of(s.name, s.mass === null ? s.name : `${s.name} · ${s.mass.toFixed(1)} kg/m`))
      .filter(found)
      .slice(0, MOST)
  })
  const of = (section: string, label: string): Beside => ({
    key: section,
    group: 'Sections',
    label,
    asked: { operations: [{ do: 'change', members: [bench.selected], change: { section } }], methods: {} },
    names: [bench.member?.section ?? '', section],
    takes: true,
  })

  const methods = computed<Beside[]>(() => {
    const steel = bench.document?.national?.steel
    if (!steel) return []
    return METHODS.filter((m) => m.criteria.includes(criterion())).flatMap((m) =>
      m.values
        .filter((value) => value !== steel[m.key])
        .map((value) => ({
          key: `${m.key} ${value}`,
          group: 'Methods' as const,
          label: `${m.of} by ${value}`,
          asked: { operations: [], methods: { [m.key]: value } },
          names: [String(steel[m.key]), value] as [string, string],
        })),
    )
  })

  const stable = computed(() => STABLE.includes(criterion()))
  const { data: ways } = useAnswer('/api/projects/{project_id}/lengths', () =>
    stable.value && bench.project && bench.chain && bench.member
      ? { path: { project_id: bench.project.id }, query: { member: bench.selected, revision: bench.chain.revision } }
      : null,
  )
  const lengths = computed<Beside[]>(() =>
    (ways.value?.axes ?? []).flatMap((a) =>
      a.methods
        .filter((m) => m.factor !== null && m.factor >= 0.1 && Math.abs(m.factor - a.factor) > 5e-4)
        .map((m, i) => ({
          key: `${a.axis}${i} ${m.key}`,
          group: 'Effective lengths' as const,
          label: `L_cr,${a.axis} ${m.name} · ${m.factor!.toFixed(3)}`,
          asked: {
            operations: [
              {
                do: 'change' as const,
                members: [bench.selected],
                change: { checks: { [`buckling_${a.axis}`]: m.factor, [`from_${a.axis}`]: m.words.slice(0, 120) } },
              },
            ],
            methods: {},
          },
          names: [`${a.length.toFixed(2)} m`, `${m.length!.toFixed(2)} m`] as [string, string],
          takes: true,
        })),
    ),
  )

  const groups = computed(() =>
    [methods.value.filter(found), lengths.value.filter(found), sections.value, combinations.value.filter(found)]
      .filter((list) => list.length)
      .map((list) => ({ name: list[0]!.group, list })),
  )
  const chosen = computed(() => groups.value.flatMap((g) => g.list).find((b) => b.key === key.value) ?? null)
  watch([criterion, () => bench.selected], () => (key.value = ''))

  const { data: other, problem: refused } = useAnswer('/api/projects/{project_id}/proof', () => {
    const named = chosen.value?.combination
    if (!named || !bench.project || !bench.member || !bench.chain) return null
    const query = { member: bench.member.name, criterion: criterion(), combination: named }
    return { path: { project_id: bench.project.id }, query: { ...query, revision: bench.chain.revision } }
  })

  const answer = shallowRef<Schemas['OtherwiseOut'] | null>(null)
  const wrong = ref('')
  let asked = 0
  watch(
    [chosen, combination, () => bench.chain?.revision],
    async () => {
      const [mine, now] = [++asked, chosen.value]
      answer.value = null
      wrong.value = ''
      if (!now?.asked || !combination.value || !bench.project || !bench.member || !bench.chain) return
      const { data, error } = await api.POST('/api/projects/{project_id}/otherwise', {
        params: { path: { project_id: bench.project.id } },
        body: {
          member: bench.member.name,
          criterion: criterion(),
          combination: combination.value,
          revision: bench.chain.revision,
          ...now.asked,
        },
      })
      if (mine !== asked) return
      if (data) answer.value = typed('OtherwiseOut', data)
      else wrong.value = (error as Partial<Schemas['Problem']> | undefined)?.message ?? 'It could not be found.'
    },
    { immediate: true },
  )

  return {
    combinations,
    groups,
    key,
    chosen,
    query,
    told: answer,
    steps: computed(() => (answer.value ? answer.value.proof.steps : (other.value?.steps ?? null))),
    problem: computed(() => wrong.value || refused.value),
  }
}
