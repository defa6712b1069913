<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { progress } from '../lib/live'
import { freshness, LINKS } from '../lib/stages'
import { useWorkbench } from '../stores/workbench'

defineEmits<{ find: [] }>()
const bench = useWorkbench()
const WORDS = {
  current: 'current',
  refreshing: 'refreshing',
  behind: 'behind the present revision',
  broken: 'broken',
}
function state(link: (typeof LINKS)[number]) {
  return bench.project ? freshness(link, bench.project, bench.chain, bench.refreshing) : 'behind'
}
/** Time that passes while something is computed; the bar speaks up only when it takes a while. */
const now = ref(Date.now())
const ticker = setInterval(() => (now.value = Date.now()), 200)
const watcher = setInterval(() => void bench.watchHead(), 4000)
onMounted(() => void bench.watchHead())
onBeforeUnmount(() => {
  clearInterval(ticker)
  clearInterval(watcher)
})
const elapsed = computed(() => (bench.running ? Math.max(0, (now.value - bench.running.since) / 1000) : 0))
const taken = computed(() => Object.values(bench.chain?.seconds ?? {}).reduce((sum, s) => sum + s, 0))
const share = computed(() => (bench.running?.of ? (bench.running.done ?? 0) / bench.running.of : undefined))
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
    <span class="run" aria-live="polite">
      <template v-if="bench.running && bench.refreshing">
        <template v-if="elapsed > 0.7 || bench.running.state === 'unreachable'">
          <progress v-if="bench.running.state === 'running'" :value="share" max="1" aria-label="Progress of the run" />
          <span class="told" :title="progress(bench.running)">{{ progress(bench.running) }}</span>
          <span class="mono">{{ elapsed.toFixed(1) }} s</span>
          <ElButton
            v-if="bench.running.state !== 'unreachable' && bench.mayChange"
            link
            type="primary"
            size="small"
            title="Stop computing"
            @click="bench.stop()"
          >
            Stop
          </ElButton>
        </template>
      </template>
      <template v-else-if="bench.running">
        <span class="told" :title="bench.running.message">{{
          bench.running.state === 'paused'
            ? 'Paused'
            : bench.running.state === 'cancelled'
              ? 'Stopped'
              : bench.running.message
        }}</span>
        <ElButton
          v-if="bench.mayChange"
          link
          type="primary"
          size="small"
          title="Compute the numbers of this revision"
          @click="bench.start()"
        >
          Refresh now
        </ElButton>
      </template>
      <span v-else-if="taken" class="mono took" :title="`The chain took ${taken.toFixed(2)} s to compute`"
        >{{ taken.toFixed(2) }} s</span
      >
      <ElButton
        v-if="bench.project && bench.mayChange"
        link
        type="primary"
        size="small"
        :aria-pressed="bench.project.paused"
        :title="
          bench.project.paused
            ? 'Numbers are refreshed only when asked for: refresh them by themselves again'
            : 'Pause: refresh numbers only when asked for'
        "
        @click="bench.pause(!bench.project.paused)"
      >
        {{ bench.project.paused ? 'Go live' : 'Pause' }}
      </ElButton>
    </span>
    <nav aria-label="The chain">
      <ElButton
        v-for="(link, i) in LINKS"
        :key="link.key"
        class="bare"
        :class="['link', state(link).replace(' ', '-'), { on: bench.stage === link.key }]"
        :aria-current="bench.stage === link.key ? 'step' : undefined"
        :title="`${link.label}: ${WORDS[state(link)]}${state(link) === 'broken' ? ` – ${bench.chain?.problem?.message}` : ''} (Alt+${i + 1})`"
        @click="bench.stage = link.key"
      >
        <i />{{ link.label }}
      </ElButton>
    </nav>
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
.run {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
}
.run progress {
  width: 56px;
  height: 6px;
  accent-color: var(--behind);
}
.told {
  max-width: 190px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.took {
  font-size: 11px;
}
.steps {
  white-space: nowrap;
}
.steps .el-button {
  font-size: 17px;
  line-height: 1;
}
nav {
  display: flex;
  margin-left: auto;
}
.link {
  position: relative;
  display: flex;
  align-items: center;
  gap: 6px;
  height: 26px;
  padding: 0 9px;
  margin-left: 10px;
  border: 1px solid var(--line);
  border-radius: 13px;
  background: var(--paper);
  color: var(--ink-2);
  font: 500 12px var(--condensed);
  cursor: pointer;
  white-space: nowrap;
}
.link + .link::before {
  content: '';
  position: absolute;
  left: -11px;
  width: 10px;
  height: 6px;
  border: 1px solid #bdb6a6;
  border-width: 1px 0;
}
.link i {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  background: var(--current);
}
.link.behind i,
.link.refreshing i {
  background: none;
  border: 2px solid var(--behind);
}
.link.refreshing i {
  border-right-color: transparent;
  animation: turn 0.8s linear infinite;
}
.link.broken i {
  background: var(--hatch);
  border-radius: 0;
}
.link.not-yet i {
  background: none;
  border: 1px dashed var(--ink-3);
}
.link.on {
  background: var(--ink);
  border-color: var(--ink);
  color: #fff;
}
@keyframes turn {
  to {
    transform: rotate(360deg);
  }
}
@media (prefers-reduced-motion: reduce) {
  .link.refreshing i {
    animation: none;
  }
}
</style>
