<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import LimitField from '../../components/LimitField.vue'
import NumberField from '../../components/NumberField.vue'
import type { Limit } from '../../lib/limit'
import { useWorkbench } from '../../stores/workbench'

type Own = Schemas['OwnChecks']

/** Effective lengths and the limit of deflection of the chosen members alone, in place of what their role gives. */
const bench = useWorkbench()
const own = computed<Own>(() => bench.member?.own ?? {})
const chosen = computed(() => (bench.chosen.size > 1 ? `${bench.chosen.size} members` : (bench.member?.label ?? '')))

const FIELDS: {
  key: 'buckling_y' | 'buckling_z' | 'buckling_T' | 'camber' | 'slenderness'
  label: string
  unit: string
  hint: string
  from: number
  to: number
}[] = [
  {
    key: 'buckling_y',
    label: 'Buckling about y',
    unit: '×',
    hint: 'Effective length for buckling about the strong axis over the own length. Empty: by the role.',
    from: 0.1,
    to: 1000,
  },
  {
    key: 'buckling_z',
    label: 'Buckling about z',
    unit: '×',
    hint: 'Effective length for buckling about the weak axis over the own length. Empty: by the role.',
    from: 0.1,
    to: 1000,
  },
  {
    key: 'buckling_T',
    label: 'Buckling in torsion',
    unit: '×',
    hint: 'Effective length for torsional and flexural-torsional buckling over the own length. Empty: between what keeps it from twisting.',
    from: 0.1,
    to: 1000,
  },
  {
    key: 'camber',
    label: 'Camber in its middle',
    unit: 'mm',
    hint: 'How far it is made to rise; the total deflection between its supports takes it off, that under variable actions does not.',
    from: 0,
    to: 1000,
  },
  {
    key: 'slenderness',
    label: 'Slenderness at most',
    unit: '',
    hint: 'L_cr/i. Empty: by the role; 0: no limit.',
    from: 0,
    to: 5000,
  },
]

const LIMITS: {
  ratio: 'deflection' | 'deflection_variable' | 'deflection_imposed' | 'deflection_lasting'
  mm: 'deflection_mm' | 'variable_mm' | 'imposed_mm' | 'lasting_mm'
  label: string
  hint: string
}[] = [
  {
    ratio: 'deflection',
    mm: 'deflection_mm',
    label: 'Deflection',
    hint: 'Height over drift, of columns. Empty: by the role; 0: not checked, and said so.',
  },
  {
    ratio: 'deflection_variable',
    mm: 'variable_mm',
    label: 'Under variable actions',
    hint: 'Under variable actions alone. Empty: by the role; 0: none.',
  },
  {
    ratio: 'deflection_imposed',
    mm: 'imposed_mm',
    label: 'Under imposed loads',
    hint: 'Under imposed loads alone. Empty: by the role; 0: none.',
  },
  {
    ratio: 'deflection_lasting',
    mm: 'lasting_mm',
    label: 'Under quasi-permanent ones',
    hint: 'What lasts, less the camber. Empty: by the role; 0: none.',
  },
]

/** Where words say how a value was found: what is typed was found by hand. */
const FROM: Partial<Record<keyof Own, keyof Own>> = { buckling_y: 'from_y', buckling_z: 'from_z' }
function save({ key, label, from, to }: (typeof FIELDS)[number]): (value: number | null) => Promise<string> {
  return async (value) => {
    if (value !== null && (value < from || value > to)) return `Between ${from} and ${to}.`
    const words = value === null ? 'by its role' : `${value}`
    return put(`${label} ${words}`, { [key]: value, ...(FROM[key] ? { [FROM[key]]: null } : {}) })
  }
}
const saveLimit = ({ ratio, mm }: (typeof LIMITS)[number]) => {
  return (limit: Limit, words: string) => put(words, { [ratio]: limit.ratio, [mm]: limit.mm })
}
async function put(words: string, checks: Own): Promise<string> {
  const members = bench.picked.length ? bench.picked : bench.member ? [bench.member] : []
  const done = await bench.operate(
    `${chosen.value}: ${words}`,
    ...members.map((m) => ({ do: 'change' as const, members: [m.name], change: { checks } })),
  )
  return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
}
</script>

<template>
  <h4>
    {{ bench.chosen.size > 1 ? `These ${bench.chosen.size} members` : 'This member' }} alone
    <span>in place of its role</span>
  </h4>
  <NumberField
    v-for="f in FIELDS"
    :key="f.key"
    :label="f.label"
    :path="`${bench.member?.name}.${f.key}`"
    kind="factor"
    :unit="f.unit"
    :value="own[f.key]"
    optional="by role"
    :hint="f.hint"
    :save="save(f)"
  />
  <LimitField
    v-for="l in LIMITS"
    :key="l.ratio"
    :label="l.label"
    :path="`${bench.member?.name}.${l.ratio}`"
    :ratio="own[l.ratio]"
    :mm="own[l.mm]"
    optional="by role"
    :hint="l.hint"
    :save="saveLimit(l)"
  />
</template>
