<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { INNER, OUTER, type useRibbonPlan } from '../../view/ribbonPlan'

/** How a member buckles sideways where an eigenvalue governs: both flanges seen from above, about the middle of its web. */
const props = defineProps<{ plan: ReturnType<typeof useRibbonPlan>; buckled: Schemas['BuckledOut'] }>()
const MIDDLE = (OUTER + INNER) / 2
const AMPLITUDE = 10
const { X } = props.plan
const path = (sideways: readonly number[]) =>
  props.buckled.x
    .map((x, i) => `${i ? 'L' : 'M'}${X(x).toFixed(1)} ${(MIDDLE - AMPLITUDE * sideways[i]!).toFixed(1)}`)
    .join('')
const ends = computed(() => [props.buckled.x[0]!, props.buckled.x.at(-1)!])
const words = computed(
  () =>
    `Sideways in ${props.buckled.combination}, at ${props.buckled.factor.toFixed(2)} times its forces: outer flange drawn through, inner flange dashed`,
)
</script>

<template>
  <g class="buckled" role="img" :aria-label="words">
    <title>{{ words }}</title>
    <text class="side" x="8" :y="MIDDLE - 1">buckles at</text>
    <text class="side" x="8" :y="MIDDLE + 11">{{ buckled.factor.toFixed(2) }} × {{ buckled.combination }}</text>
    <line class="axis" :x1="X(ends[0]!)" :x2="X(ends[1]!)" :y1="MIDDLE" :y2="MIDDLE" />
    <path :d="path(buckled.outer)" />
    <path class="inner" :d="path(buckled.inner)" />
  </g>
</template>

<style scoped>
.side {
  font: 400 11.5px var(--condensed);
  fill: var(--ink-2);
}
.axis {
  stroke: var(--ink-3);
  stroke-width: 0.6;
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.3;
  pointer-events: none;
}
path.inner {
  stroke-dasharray: 4 2.5;
}
</style>
