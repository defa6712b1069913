<script setup lang="ts">
/** Grid lines with their bubbles, and the ground. */
import type { usePlane } from '../../view/plane'
import type { useSteel } from '../../view/steel'

const props = defineProps<{ plane: ReturnType<typeof usePlane>; steel: ReturnType<typeof useSteel> }>()
const { grid, sheet, upright, basis } = props.plane
const { frameKey } = props.steel
</script>

<template>
  <g v-for="g in grid" :key="`${g.name}${g.upwards}`" class="bubble">
    <template v-if="!g.upwards">
      <line :x1="sheet.at(g.at, 0)[0]" :x2="sheet.at(g.at, 0)[0]" :y1="frameKey.ry - 26" :y2="frameKey.ay + 36" />
      <circle :cx="sheet.at(g.at, 0)[0]" :cy="frameKey.ry - 38" r="11" />
      <text :x="sheet.at(g.at, 0)[0]" :y="frameKey.ry - 34">{{ g.name }}</text>
    </template>
    <template v-else>
      <line :x1="frameKey.ax - 26" :x2="frameKey.bx + 26" :y1="sheet.at(0, g.at)[1]" :y2="sheet.at(0, g.at)[1]" />
      <circle :cx="frameKey.ax - 38" :cy="sheet.at(0, g.at)[1]" r="11" />
      <text :x="frameKey.ax - 38" :y="sheet.at(0, g.at)[1] + 4">{{ g.name }}</text>
    </template>
  </g>
  <line
    v-if="upright && basis.kind !== 'slope'"
    class="ground"
    :x1="frameKey.ax - 40"
    :x2="frameKey.bx + 40"
    :y1="frameKey.ay"
    :y2="frameKey.ay"
  />
</template>

<style scoped>
.bubble line {
  stroke: #d2ccbd;
  stroke-dasharray: 10 3 2 3;
}
.bubble circle {
  fill: #faf9f6;
  stroke: var(--ink-3);
}
.bubble text {
  font: 500 12px var(--condensed);
  text-anchor: middle;
  fill: var(--ink-2);
}
.ground {
  stroke: #b8b09f;
}
</style>
