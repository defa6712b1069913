<script setup lang="ts">
import { computed } from 'vue'
import ChoiceField from '../../components/ChoiceField.vue'
import NumberField from '../../components/NumberField.vue'
import type { LoadKey } from '../../stores/chosenLoad'
import { useWorkbench } from '../../stores/workbench'

/** The chosen load on a node, on a panel or on many, or the movement of a support, to type. */
const props = defineProps<{ of: Exclude<LoadKey, 'member_loads'>; number: number }>()
const bench = useWorkbench()
const path = computed(() => `${props.of}.${props.number}`)
const onNode = computed(() => (props.of === 'node_loads' ? bench.document?.node_loads?.[props.number] : undefined))
const moved = computed(() => (props.of === 'settlements' ? bench.document?.settlements?.[props.number] : undefined))
const pressed = computed(() =>
  props.of === 'panel_loads' || props.of === 'area_loads' ? bench.document?.[props.of]?.[props.number] : undefined,
)
const AXES = ['X', 'Y', 'Z']
const WAYS = [
  { value: 'normal', label: 'onto the surface' },
  { value: 'down', label: 'down, per surface' },
  { value: 'plan', label: 'down, per plan' },
]
/** Lists of three are set as a whole: one component in place of another. */
function component(key: 'force' | 'moment' | 'movement', now: readonly number[], axis: number, unit: number) {
  return async (typed: number | null) => {
    const value = [...now]
    value[axis] = (typed ?? 0) * unit
    const done = await bench.edit(`Load: ${key} ${value.join(', ')}`, [{ path: `${path.value}.${key}`, value }])
    return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
  }
}
</script>

<template>
  <div class="load-change">
    <template v-if="onNode">
      <NumberField
        v-for="(name, axis) in AXES"
        :key="`force ${name}`"
        :label="`along ${name}`"
        :path="`${path}.force.${axis}`"
        kind="factor"
        unit="kN"
        :value="onNode.force?.[axis] ?? 0"
        :save="component('force', onNode.force ?? [0, 0, 0], axis, 1)"
      />
      <NumberField
        v-for="(name, axis) in AXES"
        :key="`moment ${name}`"
        :label="`about ${name}`"
        :path="`${path}.moment.${axis}`"
        kind="factor"
        unit="kNm"
        :value="onNode.moment?.[axis] ?? 0"
        :save="component('moment', onNode.moment ?? [0, 0, 0], axis, 1)"
      />
    </template>
    <template v-else-if="moved">
      <NumberField
        v-for="(name, axis) in AXES"
        :key="name"
        :label="`along ${name}`"
        :path="`${path}.movement.${axis}`"
        kind="factor"
        unit="mm"
        :value="(moved.movement[axis] ?? 0) * 1000"
        :save="component('movement', moved.movement, axis, 1e-3)"
      />
    </template>
    <template v-else-if="pressed">
      <NumberField label="pressure" :path="`${path}.pressure`" kind="factor" unit="kN/m²" :value="pressed.pressure" />
      <ChoiceField label="acts" :path="`${path}.axes`" :value="pressed.axes ?? 'down'" :options="WAYS" />
    </template>
  </div>
</template>
