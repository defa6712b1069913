<script setup lang="ts">
/** Loads to point at, and the handles of the one that is chosen. */
import { computed } from 'vue'
import { path, type Point } from '../../lib/drawing'
import type { Borne, useLoadHands } from '../../view/loadHands'
import type { useResults } from '../../view/results'

const props = defineProps<{ hold: ReturnType<typeof useLoadHands>; results: ReturnType<typeof useResults> }>()
const { may, hands, others, onNode, choose, grab, seize, drag, drop, nudge } = props.hold
/** What can be pointed at: blocks of line loads, and arrows of forces. */
const borne = computed(() => [
  ...props.results.arrows.value.blocks
    .filter((b) => b.d && b.member)
    .map((b) => ({ ...b, node: undefined, closed: true })),
  ...props.results.pointLoads.value.filter((p) => p.d).map((p) => ({ ...p, from: p.foot, to: p.foot, closed: false })),
])
const diamond = ([x, y]: Point) => `M${x - 6} ${y}L${x} ${y - 6}L${x + 6} ${y}L${x} ${y + 6}Z`
const GRIPS = { start: 'Start of the load', end: 'End of the load', whole: 'The load' }
/** One that is chosen already is dragged as a whole; what was only pressed chooses the next. */
async function released(b: Borne, event: PointerEvent) {
  if (!(await drop())) choose(b, event.shiftKey)
}
</script>

<template>
  <g v-if="may">
    <path
      v-for="b in borne"
      :key="`${b.closed}${b.key}`"
      class="hit"
      :class="{ closed: b.closed }"
      :d="b.d"
      @mousedown.stop.prevent
      @click.stop
      @pointerdown.stop="seize($event, b)"
      @pointermove="drag"
      @pointerup="released(b, $event)"
    >
      <title>A load on {{ b.member || 'a node' }}: click to choose it</title>
    </path>
    <circle v-if="onNode" class="along" :cx="onNode[0]" :cy="onNode[1]" r="9" />
    <path v-for="(line, i) in others" :key="`beside ${i}`" class="along" :d="path(line)" />
    <g v-if="hands" class="hands">
      <path class="along" :d="path(hands.shown)" />
      <path
        v-for="g in hands.grips"
        :key="g.grip"
        class="hand"
        :d="diamond(g.at)"
        role="slider"
        tabindex="0"
        :aria-label="GRIPS[g.grip]"
        :aria-valuenow="Number(g.x.toFixed(2))"
        :aria-valuetext="`${g.x.toFixed(2)} m`"
        aria-valuemin="0"
        :aria-valuemax="hands.track.length"
        @mousedown.stop.prevent
        @click.stop
        @pointerdown.stop="grab($event, g.grip)"
        @pointermove="drag"
        @pointerup="drop"
        @keydown="nudge($event, g.grip)"
      />
      <text class="mono" :x="hands.middle[0]" :y="hands.middle[1] + 48">
        {{ hands.words }}
      </text>
    </g>
  </g>
</template>

<style scoped>
.hit {
  fill: none;
  stroke: transparent;
  stroke-width: 10;
  pointer-events: stroke;
  cursor: pointer;
}
.hit.closed {
  fill: transparent;
  pointer-events: all;
}
.along {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 3;
  pointer-events: none;
}
.hand {
  fill: #fff;
  stroke: var(--chalk);
  stroke-width: 2;
  cursor: grab;
  outline-offset: 2px;
}
.hands text {
  font-size: 11.5px;
  text-anchor: middle;
  fill: var(--chalk);
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 3px;
}
</style>
