<script setup lang="ts">
/** What is drawn is how wide and how high. */
import type { usePlane } from '../../view/plane'
import type { useSteel } from '../../view/steel'

const props = defineProps<{
  plane: ReturnType<typeof usePlane>
  steel: ReturnType<typeof useSteel>
  loaded: boolean
  width: number
}>()
const { bounds, sheet, upright, basis } = props.plane
const { frameKey, eaves, top } = props.steel
</script>

<template>
  <g class="dimension">
    <line :x1="frameKey.ax" :x2="frameKey.bx" :y1="frameKey.ay + 30" :y2="frameKey.ay + 30" />
    <path :d="`M${frameKey.ax - 4} ${frameKey.ay + 34}l8 -8M${frameKey.bx - 4} ${frameKey.ay + 34}l8 -8`" />
    <text class="mono" :x="(frameKey.ax + frameKey.bx) / 2" :y="frameKey.ay + 25" text-anchor="middle">
      {{ (bounds.most[0] - bounds.least[0]).toFixed(2) }} m
    </text>
    <g v-if="eaves - bounds.least[1] > 0.005">
      <line :x1="width - 14" :x2="width - 14" :y1="frameKey.ay" :y2="sheet.at(0, eaves)[1]" />
      <path :d="`M${width - 18} ${frameKey.ay + 4}l8 -8M${width - 18} ${sheet.at(0, eaves)[1] + 4}l8 -8`" />
      <text
        class="mono"
        :transform="`translate(${width - 19} ${(frameKey.ay + sheet.at(0, eaves)[1]) / 2}) rotate(-90)`"
        text-anchor="middle"
      >
        {{ (eaves - bounds.least[1]).toFixed(2) }} m
      </text>
    </g>
    <text
      v-if="upright && basis.kind === 'frame'"
      class="mono"
      :x="sheet.at(top.at, 0)[0]"
      :y="sheet.at(0, top.height)[1] - (loaded ? 58 : 34)"
      text-anchor="middle"
    >
      +{{ (top.height + basis.origin[2]).toFixed(2) }}{{ top.pitch }}
    </text>
  </g>
</template>

<style scoped>
.dimension line,
.dimension path {
  stroke: var(--ink-3);
  fill: none;
}
.dimension text {
  font-size: 11.5px;
  fill: var(--ink-2);
}
</style>
