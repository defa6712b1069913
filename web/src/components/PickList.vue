<script setup lang="ts" generic="T extends string">
import { ElSelectV2 } from 'element-plus'
import { computed } from 'vue'

/** One of several values; a list that is long can be searched, and draws only what is in sight. */
interface Option {
  value: T
  label: string
  group?: string
}
const props = defineProps<{
  modelValue: T
  options: readonly Option[]
  label: string
  disabled?: boolean
  placeholder?: string
}>()
defineEmits<{ 'update:modelValue': [value: T] }>()

/** Options beyond this many are searched; labels beyond this many letters widen the list. */
const MANY = 12
const LONG = 22
const grouped = computed(() => {
  const groups = [...new Set(props.options.map((o) => o.group ?? ''))]
  if (groups.length < 2) return [...props.options]
  return groups.map((g) => ({ value: g, label: g, options: props.options.filter((o) => (o.group ?? '') === g) }))
})
/** Nothing where no option has the value: then the placeholder stands. */
const taken = computed(() => (props.options.some((o) => o.value === props.modelValue) ? props.modelValue : undefined))
const shown = computed(() => props.options.find((o) => o.value === props.modelValue)?.label ?? '')
const width = computed(() => {
  const longest = Math.max(0, ...props.options.map((o) => o.label.length))
  return longest > LONG ? Math.min(6.4 * longest + 40, 460) : true
})
</script>

<template>
  <ElSelectV2
    :model-value="taken"
    :options="grouped"
    :aria-label="label"
    :disabled="disabled"
    :placeholder="placeholder ?? ''"
    :filterable="options.length > MANY"
    :fit-input-width="width"
    :empty-values="[null, undefined]"
    :item-height="28"
    size="small"
    @update:model-value="(value: T) => $emit('update:modelValue', value)"
  >
    <!-- the list looks its label up among what was left of the last search -->
    <template #label>{{ shown }}</template>
  </ElSelectV2>
</template>
