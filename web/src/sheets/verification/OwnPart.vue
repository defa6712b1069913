<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import NumberField from '../../components/NumberField.vue'
import { useWorkbench } from '../../stores/workbench'

type Own = Schemas['OwnChecks']

/** Effective lengths and the limit of deflection of the chosen members alone, in place of what their role gives. */
const bench = useWorkbench()
const own = computed<Own>(() => bench.member?.own ?? {})
const chosen = computed(() => (bench.chosen.size > 1 ? `${bench.chosen.size} members` : (bench.member?.label ?? '')))

const FIELDS: {
  key: 'buckling_y' | 'buckling_z' | 'buckling_T' | 'deflection' | 'deflection_variable' | 'camber' | 'slenderness'
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
    key: 'deflection',
    label: 'Length over deflection',
    unit: '',
    hint: 'Height over drift, of columns. Empty: by the role; 0: not checked, and said so.',
    from: 0,
    to: 5000,
  },
  {
    key: 'deflection_variable',
    label: 'Under variable actions',
    unit: '',
    hint: 'Length over deflection under variable actions alone. Empty: by the role; 0: none.',
    from: 0,
    to: 5000,
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

/** Where words say how a value was found: what is typed was found by hand. */
const FROM: Partial<Record<keyof Own, keyof Own>> = { buckling_y: 'from_y', buckling_z: 'from_z' }
function save({ key, label, from, to }: (typeof FIELDS)[number]): (value: number | null) => Promise<string> {
  return async (value) => {
    if (value !== null && (value < from || value > to)) return `Between ${from} and ${to}.`
    const words = value === null ? 'by its role' : `${value}`
    const members = bench.picked.length ? bench.picked : bench.member ? [bench.member] : []
    const done = await bench.operate(
      `${chosen.value}: ${label} ${words}`,
      ...members.map((m) => ({
        do: 'change' as const,
        members: [m.name],
        change: { checks: { [key]: value, ...(FROM[key] ? { [FROM[key]]: null } : {}) } },
      })),
    )
    return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
  }
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
</template>
