<script setup lang="ts">
/** The verdict as it stands and as it would be. */
import { computed } from 'vue'
import type { Schemas } from '../../../api/client'
import { standing } from '../../../lib/standing'
import { figures } from '../../../lib/temper'

type Effect = Schemas['EffectOut']
const props = defineProps<{ now: Effect | null; then: Effect; words: string }>()
const fails = computed(() => !!props.then.problem || props.then.failing > 0)
const tonnes = computed(() => (props.now ? props.then.tonnage - props.now.tonnage : 0))
</script>

<template>
  <p class="effect mono" :class="{ fails }">
    <b>{{ words }}</b>
    <span v-if="then.problem">{{ then.problem }}</span>
    <template v-else>
      <span v-if="then.worst !== null"
        ><template v-if="now?.worst">{{ figures(now.worst) }} → </template>{{ figures(then.worst) }}</span
      >
      <span>{{ standing(then) }}</span>
      <span v-if="Math.abs(tonnes) >= 0.005">{{ tonnes > 0 ? '+' : '−' }}{{ Math.abs(tonnes).toFixed(2) }} t</span>
      <small v-if="then.governs">{{ then.governs }} governs</small>
    </template>
  </p>
</template>

<style scoped>
.effect {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  margin: 2px 12px 6px;
  padding: 3px 8px;
  font-size: 12px;
  border-left: 3px solid var(--current);
  background: var(--line-soft);
}
.effect.fails {
  border-left-color: var(--oxide);
  color: var(--oxide);
}
b {
  font: 500 12px var(--condensed);
}
small {
  font: 400 12px var(--condensed);
  color: var(--ink-2);
}
</style>
