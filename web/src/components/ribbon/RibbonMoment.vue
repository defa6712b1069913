<script setup lang="ts">
/** The moment along a member laid flat, on its tension side. */
import type { useRibbonPlan } from '../../view/ribbonPlan'

const props = defineProps<{ plan: ReturnType<typeof useRibbonPlan>; combination: string }>()
const { length, X, BASE, curve } = props.plan
</script>

<template>
  <text class="side" x="8" :y="BASE - 8">M in {{ combination }}</text>
  <text class="side" x="8" :y="BASE + 6">kNm</text>
  <line class="axis" :x1="X(0)" :x2="X(length)" :y1="BASE" :y2="BASE" />
  <path class="moment" :d="curve.d" />
  <text v-for="(w, i) in curve.words" :key="i" class="word" :x="w.x" :y="w.y" :text-anchor="w.anchor">
    {{ w.text }}
  </text>
</template>

<style scoped>
.side {
  font: 400 11.5px var(--condensed);
  fill: var(--ink-2);
}
.axis {
  stroke: var(--ink-3);
}
.moment {
  fill: #5f7382;
  fill-opacity: 0.14;
  stroke: #5f7382;
}
.word {
  font: 400 11px var(--mono);
  fill: var(--ink);
}
</style>
