<script setup lang="ts">
/** What a restraint would do, where it is pointed at. */
import { figures } from '../../lib/temper'
import { useSingle } from '../../stores/single'

defineProps<{ words: string; hint: string }>()
const single = useSingle()
</script>

<template>
  <p class="tip" role="status">
    <b>{{ words }}</b>
    <span v-if="single.attempt?.told">
      {{ figures(single.attempt.told.before) }} → {{ figures(single.attempt.told.utilisation) }}
      <em>{{ single.attempt.told.governs.toLowerCase() }} governs, present forces</em>
    </span>
    <span v-else-if="single.attempt?.problem">{{ single.attempt.problem }}</span>
    <span v-else-if="single.trying">solving…</span>
    <em>{{ hint }}</em>
  </p>
</template>

<style scoped>
.tip {
  position: absolute;
  top: 150px;
  margin: 0;
  padding: 6px 10px;
  background: var(--ink);
  color: #fff;
  border-radius: 3px;
  font: 400 12px var(--condensed);
  display: grid;
  gap: 1px;
  pointer-events: none;
  z-index: 3;
  max-width: 240px;
}
.tip span {
  font-family: var(--mono);
}
.tip em {
  font: 400 11.5px var(--condensed);
  color: #c9d2d8;
}
</style>
