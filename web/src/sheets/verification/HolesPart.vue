<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import NumberField from '../../components/NumberField.vue'
import { useWorkbench } from '../../stores/workbench'

/** Bolt holes at the ends of the chosen members, for their net section in tension. */
type Holes = Schemas['Holes']
type Key = Exclude<keyof Holes, 'd0'>
const bench = useWorkbench()
const own = computed<Partial<Holes>>(() => bench.member?.own?.holes ?? {})
const angle = computed(() => /^L /.test(bench.member?.section ?? ''))
interface Field {
  key: Key
  label: string
  unit: string
  hint: string
  usual: string
  whole?: boolean
}
const FIELDS: Field[] = [
  { key: 'across', label: 'Holes in a section', unit: '', hint: 'At right angles to it', usual: '1', whole: true },
  { key: 'thickness', label: 'Through', unit: 'mm', hint: 'Thickness that they go through', usual: 'its part' },
  { key: 'zigzag', label: 'On a staggered line', unit: '', hint: 'Holes on it; 0: none', usual: '0', whole: true },
  { key: 's', label: 's, along', unit: 'mm', hint: 'From each to the next, along the member', usual: '0' },
  { key: 'p', label: 'p, across', unit: 'mm', hint: 'From each to the next, across the member', usual: '0' },
]
const BY_LEG: Field[] = [
  { key: 'rows', label: 'Bolts along one leg', unit: '', hint: '0: not by one leg', usual: '0', whole: true },
  { key: 'p1', label: 'p_1, between them', unit: 'mm', hint: 'EN 1993-1-8 table 3.8', usual: '0' },
  { key: 'e2', label: 'e_2, to the edge', unit: 'mm', hint: 'Of one bolt alone', usual: '0' },
]
const fields = computed(() => {
  if (!own.value.d0) return []
  const staggered = (own.value.zigzag ?? 0) > 0
  return [...FIELDS.filter((f) => !['s', 'p'].includes(f.key) || staggered), ...(angle.value ? BY_LEG : [])]
})

async function save(change: Partial<Holes> | null, words: string): Promise<string> {
  const members = bench.picked.length ? bench.picked : bench.member ? [bench.member] : []
  const done = await bench.operate(
    `${members.length > 1 ? `${members.length} members` : bench.member?.label}: ${words}`,
    ...members.map((m) => ({
      do: 'change' as const,
      members: [m.name],
      change: {
        // what is not given stays as it is
        checks: { holes: change && ({ d0: m.own?.holes?.d0 ?? own.value.d0, ...change } as Holes) },
      },
    })),
  )
  return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
}
const saveHole = (d0: number | null) =>
  save(d0 === null ? null : { d0 }, d0 === null ? 'no holes' : `holes of ${d0} mm`)
const saveField = (f: Field) => (value: number | null) => {
  if (f.whole && value !== null && !Number.isInteger(value)) return Promise.resolve('A whole number is needed.')
  const empty = f.key === 'thickness' ? null : f.key === 'across' ? 1 : 0
  return save({ [f.key]: value ?? empty }, `${f.label.toLowerCase()} ${value ?? f.usual}`)
}
</script>

<template>
  <h4>Bolt holes at its ends <span>net section in tension</span></h4>
  <NumberField
    label="Diameter of the holes"
    :path="`${bench.member?.name}.d0`"
    kind="factor"
    unit="mm"
    :value="own.d0"
    optional="none"
    hint="d_0; empty: no holes, and its net section is not checked"
    :save="saveHole"
  />
  <NumberField
    v-for="f in fields"
    :key="f.key"
    :label="f.label"
    :path="`${bench.member?.name}.${f.key}`"
    kind="factor"
    :unit="f.unit"
    :value="own[f.key] || undefined"
    :optional="f.usual"
    :hint="f.hint"
    :save="saveField(f)"
  />
</template>
