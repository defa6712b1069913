<script setup lang="ts">
/** Distances along the foot and the side of a panel laid flat. */
import type { Point } from '../../lib/drawing'
import type { usePanelSheet } from '../../view/panelSheet'

defineProps<{
  scales: ReturnType<typeof usePanelSheet>['scales']['value']
  at: (p: readonly number[]) => Point
  bottom: number
  side: number
}>()
</script>

<template>
  <g class="scale">
    <template v-for="s in scales.across" :key="s.from">
      <path
        :d="`M${at([s.from, 0])[0]} ${bottom - 5}v10M${at([s.to, 0])[0]} ${bottom - 5}v10M${at([s.from, 0])[0]} ${bottom}H${at([s.to, 0])[0]}`"
      />
      <text
        v-if="at([s.to, 0])[0] - at([s.from, 0])[0] > 30"
        :x="(at([s.from, 0])[0] + at([s.to, 0])[0]) / 2"
        :y="bottom + 16"
      >
        {{ s.words }}
      </text>
    </template>
    <template v-for="s in scales.up" :key="`up ${s.from}`">
      <path
        :d="`M${side - 5} ${at([0, s.from])[1]}h10M${side - 5} ${at([0, s.to])[1]}h10M${side} ${at([0, s.from])[1]}V${at([0, s.to])[1]}`"
      />
      <text
        v-if="at([0, s.from])[1] - at([0, s.to])[1] > 12"
        :x="side + 9"
        :y="(at([0, s.from])[1] + at([0, s.to])[1]) / 2 + 4"
        class="start"
      >
        {{ s.words }}
      </text>
    </template>
  </g>
</template>

<style scoped>
path {
  stroke: var(--ink-2);
  stroke-width: 0.8;
  fill: none;
}
text {
  font: 400 11px var(--mono);
  fill: var(--ink-2);
  text-anchor: middle;
}
.start {
  text-anchor: start;
}
</style>
