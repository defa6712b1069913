<script setup lang="ts">
/** Values that stand on a drawing and are typed there: fields of sheets, in one line and without their margins. */
defineProps<{ x: number; y: number; width: number; height?: number }>()
</script>

<template>
  <foreignObject :x="x" :y="y" :width="width" :height="height ?? 26">
    <div class="on"><slot /></div>
  </foreignObject>
</template>

<style scoped>
foreignObject {
  overflow: visible;
}
.on {
  display: flex;
  gap: 6px;
  align-items: center;
  height: 100%;
}
.on :deep(.el-select) {
  flex: 0 0 92px;
}
.on :deep(.field) {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0 5px;
  padding: 0;
  font-size: 12px;
}
.on :deep(.field .el-input) {
  width: auto;
  flex: 1;
  min-width: 0;
}
.on :deep(.el-input__suffix:has(em:empty)) {
  display: none;
}
.on :deep(.field > small) {
  flex-basis: 100%;
  background: var(--sheet);
  padding: 1px 4px;
}
.on :deep(.el-input__wrapper),
.on :deep(.el-select__wrapper) {
  padding: 0 6px;
  background: var(--sheet);
}
</style>
