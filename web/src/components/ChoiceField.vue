<script setup lang="ts">
import { computed } from 'vue'
import { useWorkbench } from '../stores/workbench'
import PickList from './PickList.vue'

const props = defineProps<{
  label: string
  path: string
  value: string
  options: { value: string; label: string; group?: string }[]
  hint?: string
}>()
const bench = useWorkbench()
const wrong = computed(() => (bench.refusal?.place === props.path ? bench.refusal.reason : ''))
async function commit(value: string) {
  const option = props.options.find((o) => o.value === value)
  await bench.edit(`${props.label} ${option?.label ?? value}`, [{ path: props.path, value }])
}
</script>

<template>
  <label class="field" :title="hint">
    <span>{{ label }}</span>
    <PickList
      :model-value="value"
      :options="options"
      :label="label"
      :disabled="!bench.mayChange"
      @update:model-value="commit"
    />
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </label>
</template>
