<script setup lang="ts">
/** A row of a list that is pressed: what it is on the left, a figure of it on the right. */
import { ElButton } from 'element-plus'
</script>

<template>
  <ElButton text class="press"
    ><span><slot /></span><b v-if="$slots.figure" class="mono"><slot name="figure" /></b
  ></ElButton>
</template>

<style scoped>
.press {
  flex: 1;
  height: auto;
  padding: 2px 4px;
  font: 400 12.5px var(--condensed);
  --el-button-text-color: var(--ink);
  --el-button-hover-text-color: var(--ink);
  --el-fill-color-light: var(--chalk-soft);
}
.press :deep(> span) {
  flex: 1;
  justify-content: space-between;
  display: flex;
  text-align: left;
  white-space: normal;
}
b {
  font-weight: 400;
  color: var(--ink-2);
}
</style>
