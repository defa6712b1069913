<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { useWorkbench } from '../stores/workbench'

/** A part of the document that is there or not; or a yes or no. */
const props = defineProps<{ label: string; path: string; value: unknown; on?: unknown; off?: unknown; hint?: string }>()
const bench = useWorkbench()
function change(checked: unknown) {
  void bench.edit(`${props.label} ${checked ? 'on' : 'off'}`, [
    {
      path: props.path,
      value: checked ? (props.on === undefined ? true : props.on) : props.off === undefined ? false : props.off,
    },
  ])
}
</script>

<template>
  <ElCheckbox
    class="toggle"
    size="small"
    :title="hint"
    :model-value="!!value"
    :disabled="!bench.mayChange"
    @change="change"
  >
    {{ label }}
  </ElCheckbox>
</template>

<style scoped>
.toggle {
  display: flex;
  margin: 0 12px;
}
</style>
