<script setup lang="ts">
import { useWorkbench } from '../stores/workbench'

/** A part of the document that is there or not; or a yes or no. */
const props = defineProps<{ label: string; path: string; value: unknown; on?: unknown; off?: unknown; hint?: string }>()
const bench = useWorkbench()
function change(event: Event) {
  const checked = (event.target as HTMLInputElement).checked
  void bench.edit(`${props.label} ${checked ? 'on' : 'off'}`, [
    {
      path: props.path,
      value: checked ? (props.on === undefined ? true : props.on) : props.off === undefined ? false : props.off,
    },
  ])
}
</script>

<template>
  <label class="toggle" :title="hint">
    <input type="checkbox" :checked="!!value" :disabled="!bench.mayChange" @change="change" />
    <span>{{ label }}</span>
  </label>
</template>

<style scoped>
.toggle {
  display: flex;
  gap: 7px;
  align-items: center;
  padding: 3px 12px;
  font: 400 12.5px var(--condensed);
  cursor: pointer;
}
input {
  accent-color: var(--chalk);
  margin: 0;
}
</style>
