<script setup lang="ts">
import { ElButton, ElDrawer } from 'element-plus'

/** A drawer of what is printed alone, over as many pages as it takes: a proof, a derivation. */
defineProps<{ title: string; width: number }>()
const emit = defineEmits<{ close: [] }>()
const print = () => window.print()
</script>

<template>
  <ElDrawer
    :model-value="true"
    :size="`min(${width}px, 94vw)`"
    :title="title"
    class="proof"
    append-to-body
    @close="emit('close')"
  >
    <template #header>
      <div class="head">
        <b>{{ title }}</b>
        <span class="mono"><slot name="aside" /></span>
        <ElButton size="small" class="print" @click="print">Print</ElButton>
      </div>
    </template>
    <slot />
  </ElDrawer>
</template>

<style scoped>
.head {
  display: flex;
  gap: 12px;
  align-items: baseline;
  color: var(--ink-2);
}
.head b {
  font: 600 19px var(--condensed);
  color: var(--ink);
}
.print {
  margin-left: auto;
}
</style>
<style>
.proof .el-drawer__header {
  margin-bottom: 0;
}
@media print {
  /* a proof alone, over as many pages as it takes */
  body:has(.proof) #app {
    display: none;
  }
  body:has(.proof) .el-overlay,
  body:has(.proof) .el-drawer,
  body:has(.proof) .el-drawer__body {
    position: static !important;
    width: 100% !important;
    height: auto !important;
    overflow: visible !important;
    background: #fff;
  }
  .proof nav,
  .proof .choose,
  .proof .print,
  .proof .el-drawer__close-btn {
    display: none;
  }
}
</style>
