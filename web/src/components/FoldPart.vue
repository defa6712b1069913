<script setup lang="ts">
/** A part of a sheet that folds away under its title. */
import { ElCollapse, ElCollapseItem } from 'element-plus'
import { ref, watch } from 'vue'

const props = defineProps<{ title?: string; open?: boolean }>()
const opened = ref(props.open ? ['part'] : [])
// what is to be seen may come after the sheet does
watch(
  () => props.open,
  (open) => {
    if (open) opened.value = ['part']
  },
)
</script>

<template>
  <ElCollapse v-model="opened" class="fold" expand-icon-position="left">
    <ElCollapseItem name="part">
      <template #title
        ><slot name="title">{{ title }}</slot></template
      >
      <slot />
    </ElCollapseItem>
  </ElCollapse>
</template>

<style scoped>
.fold {
  border-top: 1px solid var(--line-soft);
  border-bottom: 0;
  padding: 3px 0;
  --el-collapse-header-height: 26px;
  --el-collapse-header-bg-color: transparent;
  --el-collapse-content-bg-color: transparent;
  --el-collapse-border-color: transparent;
}
.fold :deep(.el-collapse-item__header) {
  padding: 0 12px;
  font: 500 12.5px var(--condensed);
  color: var(--ink);
}
.fold :deep(.el-collapse-item__content) {
  padding: 0;
}
</style>
