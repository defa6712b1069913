<script setup lang="ts">
/** The pen where it draws, and the window that chooses. */
import { path } from '../../lib/drawing'
import type { usePen } from '../../view/pen'
import type { usePlane } from '../../view/plane'

const props = defineProps<{ plane: ReturnType<typeof usePlane>; pen: ReturnType<typeof usePen>; drawing: boolean }>()
const { sheet } = props.plane
const { pen: tip, trail, window_ } = props.pen
</script>

<template>
  <g v-if="drawing" class="pen">
    <path :d="path(tip ? [...trail, sheet.at(...tip.at)] : trail)" />
    <circle v-for="([x, y], i) in trail" :key="i" :cx="x" :cy="y" r="3.5" />
    <template v-if="tip">
      <circle :cx="sheet.at(...tip.at)[0]" :cy="sheet.at(...tip.at)[1]" r="7" class="aim" />
      <text :x="sheet.at(...tip.at)[0] + 12" :y="sheet.at(...tip.at)[1] - 8">{{ tip.words }}</text>
    </template>
  </g>
  <rect
    v-if="window_"
    class="window"
    :class="{ crossing: window_.to[0] < window_.from[0] }"
    :x="Math.min(window_.from[0], window_.to[0])"
    :y="Math.min(window_.from[1], window_.to[1])"
    :width="Math.abs(window_.to[0] - window_.from[0])"
    :height="Math.abs(window_.to[1] - window_.from[1])"
  />
</template>

<style scoped>
.pen path {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}
.pen circle {
  fill: var(--chalk);
}
.pen .aim {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 1.6;
}
.pen text {
  font: 500 11.5px var(--condensed);
  fill: var(--chalk);
}
.window {
  fill: var(--chalk);
  fill-opacity: 0.07;
  stroke: var(--chalk);
}
.window.crossing {
  stroke-dasharray: 5 4;
}
</style>
