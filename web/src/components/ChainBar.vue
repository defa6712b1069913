<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { useWorkbench } from '../stores/workbench'
import ChainLinks from './ChainLinks.vue'
import RunState from './RunState.vue'

defineEmits<{ find: [] }>()
const bench = useWorkbench()
/** What others did is looked for every four seconds. */
useIntervalFn(() => void bench.watchHead(), 4000, { immediateCallback: true })
</script>

<template>
  <header>
    <router-link to="/" class="mark" title="All projects">LORICA</router-link>
    <span v-if="bench.project" class="project">
      <b :title="bench.project.name">{{ bench.project.name }}</b>
      <router-link
        class="mono rev"
        :to="`/projects/${bench.project.id}/history`"
        :title="`${bench.project.revision.label} – history of the project`"
        >rev {{ bench.project.revision.number }}</router-link
      >
      <span v-if="bench.readOnly" class="read" :title="bench.readOnly">Read only</span>
    </span>
    <ElButton
      link
      type="primary"
      size="small"
      class="find"
      title="Find a member, case, combination, view or command (Ctrl+K)"
      aria-label="Find"
      @click="$emit('find')"
    >
      <svg viewBox="0 0 16 16" aria-hidden="true">
        <circle cx="7" cy="7" r="4.5" />
        <path d="M10.5 10.5L14 14" />
      </svg>
    </ElButton>
    <span v-if="bench.queued > 1" class="mono waits" role="status">{{ bench.queued }} changes are being stored</span>
    <span class="steps">
      <ElButton
        link
        type="primary"
        size="small"
        :disabled="!bench.project?.can_undo || !bench.mayChange"
        title="Undo (Ctrl+Z)"
        aria-label="Undo"
        @click="bench.step('undo')"
      >
        ↶
      </ElButton>
      <ElButton
        link
        type="primary"
        size="small"
        :disabled="!bench.project?.can_redo || !bench.mayChange"
        title="Redo (Ctrl+Shift+Z)"
        aria-label="Redo"
        @click="bench.step('redo')"
      >
        ↷
      </ElButton>
    </span>
    <RunState />
    <ChainLinks />
  </header>
</template>

<style scoped>
.waits {
  font-size: 11.5px;
  color: var(--ink-2);
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 12px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}
.mark {
  font: 600 15px var(--condensed);
  letter-spacing: 0.14em;
  color: var(--ink);
  text-decoration: none;
}
.project {
  display: flex;
  align-items: baseline;
  gap: 8px;
  min-width: 0;
  padding-left: 12px;
  border-left: 1px solid var(--line);
}
.rev {
  color: var(--ink-2);
  font-size: 11px;
  text-decoration: none;
  white-space: nowrap;
}
.rev:hover {
  color: var(--chalk);
}
.find svg {
  width: 15px;
  display: block;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
}
.read {
  font: 500 11.5px var(--condensed);
  padding: 1px 7px;
  border: 1px solid var(--behind);
  border-radius: 3px;
  white-space: nowrap;
}
.project b {
  font-weight: 600;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.project small {
  color: var(--ink-2);
  white-space: nowrap;
}
.steps {
  white-space: nowrap;
}
.steps .el-button {
  font-size: 17px;
  line-height: 1;
}
</style>
