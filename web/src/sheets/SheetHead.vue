<script setup lang="ts">
import { ElButton, ElPopover } from 'element-plus'
import { computed } from 'vue'
import { HELP } from '../lib/help'
import { LINKS } from '../lib/stages'
import { useWorkbench } from '../stores/workbench'

defineProps<{ title: string; aside?: string }>()
const bench = useWorkbench()
const lines = computed(() => HELP[bench.stage])
const stage = computed(() => LINKS.find((l) => l.key === bench.stage)!.label)
</script>

<template>
  <div class="head">
    <b>{{ title }}</b><em class="mono">{{ aside }}</em>
    <ElPopover trigger="click" placement="left-start" :width="340" :title="`${stage}: what it is for`">
      <template #reference>
        <ElButton class="bare help" :aria-label="`What ${stage} is for`">?</ElButton>
      </template>
      <p v-for="line in lines" :key="line" class="line">{{ line }}</p>
    </ElPopover>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 10px 12px 2px 22px;
}
b {
  font: 600 19px var(--condensed);
}
em {
  font-style: normal;
  font-size: 12px;
  color: var(--ink-2);
}
.help {
  margin-left: auto;
  width: 22px;
  height: 22px;
  border: 1px solid var(--line);
  border-radius: 50%;
  background: var(--sheet);
  color: var(--ink-2);
  font: 600 12px var(--condensed);
  cursor: pointer;
}
.help:hover,
.help:focus-visible {
  border-color: var(--ink);
  color: var(--ink);
}
.line {
  margin: 0 0 6px;
  font: 400 13px/1.4 var(--el-font-family);
}
</style>
