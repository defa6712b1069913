<script setup lang="ts">
import { computed } from 'vue'
import ChoiceField from '../../components/ChoiceField.vue'
import NumberField from '../../components/NumberField.vue'
import { PLACES } from '../../lib/panelPlaces'
import type { LoadKey } from '../../stores/chosenLoad'
import { useWorkbench } from '../../stores/workbench'

/** The chosen load on a node, on a panel or on many, or the movement of a support, to type. */
const props = defineProps<{ of: Exclude<LoadKey, 'member_loads'>; number: number }>()
const bench = useWorkbench()
const path = computed(() => `${props.of}.${props.number}`)
const NONE = [0, 0, 0]
const WAYS = [
  { value: 'normal', label: 'onto the surface' },
  { value: 'down', label: 'down, per surface' },
  { value: 'plan', label: 'down, per plan' },
]
const pressed = computed(() =>
  props.of === 'panel_loads' || props.of === 'area_loads' ? bench.document?.[props.of]?.[props.number] : undefined,
)
const kind = computed(() => (pressed.value && 'kind' in pressed.value ? pressed.value.kind : undefined) ?? 'area')
const ways = computed(() => WAYS.filter((way) => kind.value === 'area' || way.value !== 'plan'))
/** Components along or about X, Y and Z, each set by itself; scale: of what is shown beside what is stated. */
const components = computed(() => {
  const load = props.of === 'node_loads' ? bench.document?.node_loads?.[props.number] : undefined
  const move = props.of === 'settlements' ? bench.document?.settlements?.[props.number] : undefined
  const found = [
    { key: 'force', way: 'along', unit: 'kN', scale: 1, now: load && (load.force ?? NONE) },
    { key: 'moment', way: 'about', unit: 'kNm', scale: 1, now: load && (load.moment ?? NONE) },
    { key: 'movement', way: 'along', unit: 'mm', scale: 1000, now: move?.movement },
  ]
  return found.flatMap(({ key, way, unit, scale, now }) =>
    (now ?? []).map((value, axis) => {
      const at = `${path.value}.${key}.${axis}`
      const label = `${way} ${'XYZ'[axis]}`
      return { at, label, unit, scale, value: Number((value * scale).toPrecision(12)) }
    }),
  )
})
type Component = (typeof components.value)[number]
const setting = (c: Component) => async (typed: number | null) => {
  const value = Number(((typed ?? 0) / c.scale).toPrecision(12))
  const done = await bench.edit(`Load: ${c.label} ${typed ?? 0} ${c.unit}`, [{ path: c.at, value }])
  return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
}
</script>

<template>
  <div class="load-change">
    <NumberField
      v-for="c in components"
      :key="c.at"
      :label="c.label"
      :path="c.at"
      kind="factor"
      :unit="c.unit"
      :value="c.value"
      :save="setting(c)"
    />
    <template v-if="pressed">
      <NumberField
        :label="kind === 'area' ? 'pressure' : 'size'"
        :path="`${path}.pressure`"
        kind="factor"
        :unit="PLACES[kind].unit"
        :value="pressed.pressure"
      />
      <ChoiceField label="acts" :path="`${path}.axes`" :value="pressed.axes ?? 'down'" :options="ways" />
    </template>
  </div>
</template>
