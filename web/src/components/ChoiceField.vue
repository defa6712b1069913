<script setup lang="ts">
import { computed } from 'vue'
import { useWorkbench } from '../stores/workbench'

const props = defineProps<{
  label: string
  path: string
  value: string
  options: { value: string; label: string; group?: string }[]
  hint?: string
}>()
const bench = useWorkbench()
const groups = computed(() => [...new Set(props.options.map((o) => o.group ?? ''))])
const wrong = computed(() => (bench.refusal?.place === props.path ? bench.refusal.message : ''))
async function commit(event: Event) {
  const input = event.target as HTMLSelectElement
  const option = props.options.find((o) => o.value === input.value)
  const done = await bench.edit(`${props.label} ${option?.label ?? input.value}`, [
    { path: props.path, value: input.value },
  ])
  if (!done) input.value = props.value
}
</script>

<template>
  <label class="field" :title="hint">
    <span>{{ label }}</span>
    <select :value="value" :disabled="!bench.mayChange" @change="commit">
      <template v-for="g in groups" :key="g">
        <optgroup v-if="g" :label="g">
          <option v-for="o in options.filter((x) => x.group === g)" :key="o.value" :value="o.value">
            {{ o.label }}
          </option>
        </optgroup>
        <template v-else>
          <option v-for="o in options" :key="o.value" :value="o.value">{{ o.label }}</option>
        </template>
      </template>
    </select>
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </label>
</template>
