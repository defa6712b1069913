<script setup lang="ts">
/** The handles of the pressure by hand that is chosen, on its panel. */
import { computed } from 'vue'
import { path } from '../../lib/drawing'
import type { usePanelLoadHands } from '../../view/panelLoadHands'

/** edge: all of it is dragged by its edge, so that what lies below can be pointed at */
const props = defineProps<{ hold: ReturnType<typeof usePanelLoadHands>; edge?: boolean }>()
const { corners, line, words, grab, drag, drop, nudge } = props.hold
const head = computed(() => ({
  x: (Math.min(...corners.value.map((p) => p[0])) + Math.max(...corners.value.map((p) => p[0]))) / 2,
  y: Math.min(...corners.value.map((p) => p[1])) - 10,
}))
</script>

<template>
  <g v-if="corners.length">
    <path
      class="all"
      :class="{ open: line || corners.length < 3, edge }"
      :d="path(corners, !line)"
      @click.stop
      @pointerdown.stop="grab($event, null)"
      @pointermove="drag"
      @pointerup="drop().then((done) => done || hold.choose($event))"
    >
      <title>The chosen pressure: drag it, or its corners</title>
    </path>
    <rect
      v-for="(p, k) in corners"
      :key="k"
      class="corner"
      :x="p[0] - 5"
      :y="p[1] - 5"
      width="10"
      height="10"
      role="button"
      tabindex="0"
      :aria-label="`Corner ${k + 1} of the pressure, moved by arrow keys`"
      @click.stop
      @pointerdown.stop="grab($event, k)"
      @pointermove="drag"
      @pointerup="drop"
      @keydown="nudge($event, k)"
    />
    <text class="mono" :x="head.x" :y="head.y">{{ words }}</text>
  </g>
</template>

<style scoped>
.all {
  fill: var(--chalk);
  fill-opacity: 0.06;
  stroke: var(--chalk);
  stroke-width: 2;
  cursor: move;
}
.all.edge {
  stroke-width: 4;
  pointer-events: stroke;
}
.all.open {
  stroke-width: 6;
  stroke-linecap: round;
  fill: none;
}
.corner {
  pointer-events: all;
  fill: #fff;
  stroke: var(--chalk);
  stroke-width: 2;
  cursor: grab;
}
text {
  font-size: 11.5px;
  text-anchor: middle;
  fill: var(--chalk);
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 3px;
  pointer-events: none;
}
</style>
