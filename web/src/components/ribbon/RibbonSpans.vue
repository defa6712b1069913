<script setup lang="ts">
/** What buckles sideways between the restraints of a flange. */
import type { Schemas } from '../../api/client'
import type { Flange } from '../../lib/ribbon'
import { figures, temper } from '../../lib/temper'
import type { useRibbonPlan } from '../../view/ribbonPlan'

const props = defineProps<{
  plan: ReturnType<typeof useRibbonPlan>
  flange: Flange
  spans: Schemas['SpanOut'][]
}>()
const { X, Y, line } = props.plan
</script>

<template>
  <g v-for="s in spans" :key="s.start">
    <path
      :d="`${line(flange, s.start, s.end)}`"
      :transform="`translate(0 ${flange === 'outer' ? 8 : -8})`"
      :stroke="s.utilisation > 1 ? 'url(#over)' : temper(s.utilisation)"
      class="span"
    >
      <title>{{ s.start.toFixed(2) }} to {{ s.end.toFixed(2) }} m: sideways {{ figures(s.utilisation) }}</title>
    </path>
    <text
      v-if="X(s.end) - X(s.start) > 30 && s.utilisation > 0.005"
      class="figure"
      :class="{ light: s.utilisation > 0.95 }"
      :x="(X(s.start) + X(s.end)) / 2"
      :y="(Y(flange, s.start) + Y(flange, s.end)) / 2 + (flange === 'outer' ? 11.5 : -4.5)"
    >
      {{ figures(s.utilisation) }}
    </text>
  </g>
</template>

<style scoped>
.span {
  fill: none;
  stroke-width: 13;
}
.figure {
  font: 400 10.5px var(--mono);
  text-anchor: middle;
  fill: var(--ink);
  pointer-events: none;
}
.figure.light {
  fill: #fff;
}
</style>
