<script setup lang="ts">
/** The stages of the chain, each with how fresh its numbers are. */
import { ElButton } from 'element-plus'
import { freshness, LINKS } from '../lib/stages'
import { useWorkbench } from '../stores/workbench'

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
</script>

<template>
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
</template>

<style scoped>
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
