<script setup lang="ts">
import { ElInputNumber } from 'element-plus'
import { computed } from 'vue'
import { useSizing } from '../../stores/sizing'

/** How far a group may be used: of all its criteria, and of each kind of them. */
const props = defineProps<{ group: string; off: boolean }>()
const sizing = useSizing()
const plan = computed(() => sizing.planOf(props.group))
const percent = (share: number | null | undefined) => (share == null ? undefined : Math.round(share * 100))
const all = computed(() => percent(plan.value.target ?? 1 - (sizing.plan?.reserve ?? 0)))
const KINDS = [
  ['section', 'Cross-sections'],
  ['stability', 'Stability'],
  ['service', 'Deflection and sway'],
] as const
const whole = (value: number | null | undefined) =>
  sizing.may(
    props.group,
    'target',
    value == null ? null : value / 100,
    value == null ? 'used as all' : `used up to ${value} %`,
  )
function one(kind: (typeof KINDS)[number][0], label: string, value: number | null | undefined) {
  const rest = Object.fromEntries(Object.entries(plan.value.targets ?? {}).filter(([k]) => k !== kind))
  const words = `${label.toLowerCase()} ${value == null ? 'as the others' : `up to ${value} %`}`
  void sizing.may(props.group, 'targets', value == null ? rest : { ...rest, [kind]: value / 100 }, words)
}
</script>

<template>
  <div class="field-grid">
    <span>All criteria, %</span>
    <ElInputNumber
      size="small"
      controls-position="right"
      :model-value="percent(plan.target)"
      :min="20"
      :max="100"
      :step="5"
      :placeholder="`${percent(1 - (sizing.plan?.reserve ?? 0))}`"
      :disabled="off"
      aria-label="Used at most in all criteria, %"
      @change="whole"
    />
    <template v-for="[kind, label] in KINDS" :key="kind">
      <span>{{ label }}, %</span>
      <ElInputNumber
        size="small"
        controls-position="right"
        :model-value="percent(plan.targets?.[kind])"
        :min="20"
        :max="100"
        :step="5"
        :placeholder="`${all}`"
        :disabled="off"
        :aria-label="`${label} used at most, %`"
        @change="one(kind, label, $event)"
      />
    </template>
  </div>
</template>
