<script setup lang="ts">
/** Loads as arrows with their figures, and reactions. */
import type { useResults } from '../../view/results'

const props = defineProps<{ results: ReturnType<typeof useResults>; trial: boolean }>()
const { on, arrows, pointLoads, pushes, natureColour } = props.results
</script>

<template>
  <g v-if="on('actions') || trial" :stroke="natureColour" fill="none">
    <g v-for="block in arrows.blocks" :key="block.key">
      <path :d="block.d" stroke-width="1.2" />
      <path :d="block.ticks" stroke-width="0.9" />
      <text v-if="block.word" class="load mono" :x="block.at[0]" :y="block.at[1]" :fill="natureColour" stroke="none">
        {{ block.word }}
      </text>
    </g>
  </g>
  <g v-for="p in pointLoads" :key="`point${p.key}`" :stroke="natureColour" fill="none">
    <path :d="p.d" stroke-width="1.5" />
    <text class="load mono" :x="p.at[0]" :y="p.at[1]" :fill="natureColour" stroke="none">{{ p.word }}</text>
  </g>
  <g v-for="p in pushes" :key="p.key" class="push">
    <path :d="p.d" />
    <text class="mono" :x="p.x" :y="p.y" :text-anchor="p.anchor">{{ p.word }}</text>
  </g>
</template>

<style scoped>
.push path {
  stroke: #1d6480;
  stroke-width: 1.6;
  fill: none;
}
.push text {
  fill: #1d6480;
  font-size: 11px;
}
.load {
  font-size: 11px;
  text-anchor: middle;
}
</style>
