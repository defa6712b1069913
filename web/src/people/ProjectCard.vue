<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

/** A small picture of a building and the word on the whole of it. */
const props = defineProps<{ project: Schemas['ProjectSummary'] }>()
const card = computed(() => props.project.card)
const verdict = computed(() => {
  const c = card.value
  if (!c) return { kind: 'none', words: 'not computed yet' }
  if (c.problem) return { kind: 'fails', words: 'cannot be computed' }
  if (!c.members) return { kind: 'none', words: 'nothing stands yet' }
  const parts = [
    c.failing ? `${c.failing} of ${c.members} fail${c.failing === 1 ? 's' : ''}` : '',
    c.not_covered ? `${c.not_covered} not covered` : '',
  ].filter(Boolean)
  if (parts.length) return { kind: c.failing ? 'fails' : 'uncovered', words: parts.join(', ') }
  return { kind: 'passes', words: c.left_out ? 'all pass, of what is checked' : 'all pass' }
})
const older = computed(() => (card.value && card.value.revision !== props.project.revision ? card.value.revision : 0))
</script>

<template>
  <svg viewBox="-2 -2 124 64" :class="{ older }" aria-hidden="true">
    <path v-if="card?.lines || card?.failing_lines" :d="card.lines" />
    <path v-if="card?.failing_lines" class="failing" :d="card.failing_lines" />
    <path v-if="!card?.lines && !card?.failing_lines" class="ground" d="M10 58H110" />
  </svg>
  <div
    class="verdict"
    :title="card?.problem || (card?.left_out ? 'What no check looks at is said in the project' : undefined)"
  >
    <b :class="verdict.kind">{{ verdict.words }}</b>
    <span v-if="card?.members"
      ><span class="mono">{{ card.tonnage.toFixed(1) }} t</span> steel · worst
      <span class="mono">{{ card.worst.toFixed(2) }}</span></span
    >
    <span v-if="older">of revision {{ older }}</span>
  </div>
</template>

<style scoped>
svg {
  width: 104px;
  display: block;
}
svg.older {
  opacity: 0.55;
}
path {
  fill: none;
  stroke: var(--ink-2);
  stroke-width: 0.8;
}
.failing {
  stroke: var(--oxide);
  stroke-width: 1.2;
}
.ground {
  stroke: var(--line);
  stroke-width: 2;
}
.verdict {
  display: flex;
  flex-direction: column;
  gap: 2px;
  width: 168px;
  font-size: 12px;
  color: var(--ink-2);
}
b {
  font: 600 13px var(--condensed);
  color: var(--ink);
  padding-left: 8px;
  border-left: 4px solid var(--line);
}
b.passes {
  border-color: var(--current);
}
b.fails {
  border-color: var(--oxide);
  color: var(--oxide);
}
b.uncovered {
  border-left-style: dashed;
  border-color: var(--ink-2);
}
.verdict > span {
  padding-left: 12px;
}
</style>
