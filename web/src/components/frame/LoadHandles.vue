<script setup lang="ts">
/** What is chosen of loads by hand, with the handles of the last of them. */
import { path, type Point } from '../../lib/drawing'
import type { useLoadHands } from '../../view/loadHands'

/** whole: what is chosen is dragged by its band too, where nothing else of it can be pressed */
const props = defineProps<{ hold: ReturnType<typeof useLoadHands>; whole?: boolean }>()
const { may, hands, others, onNode, grab, lift, drag, drop, nudge } = props.hold
const diamond = ([x, y]: Point) => `M${x - 6} ${y}L${x} ${y - 6}L${x + 6} ${y}L${x} ${y + 6}Z`
const GRIPS = { start: 'Start of the load', end: 'End of the load', whole: 'The load' }
</script>

<template>
  <g v-if="may">
    <circle
      v-if="onNode"
      class="along"
      :class="{ whole }"
      :cx="onNode[0]"
      :cy="onNode[1]"
      r="9"
      @mousedown.stop.prevent
      @click.stop
      @pointerdown.stop="lift"
      @pointermove="drag"
      @pointerup="drop"
    />
    <path v-for="(line, i) in others" :key="`beside ${i}`" class="along" :d="path(line)" />
    <g v-if="hands" class="hands">
      <path
        class="along"
        :class="{ whole }"
        :d="path(hands.shown)"
        @mousedown.stop.prevent
        @click.stop
        @pointerdown.stop="grab($event, 'whole')"
        @pointermove="drag"
        @pointerup="drop"
      />
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
.along {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 3;
  pointer-events: none;
}
.along.whole {
  stroke-width: 5;
  pointer-events: stroke;
  cursor: grab;
}
circle.along.whole {
  stroke-width: 3;
  pointer-events: all;
}
.hand {
  fill: #fff;
  stroke: var(--chalk);
  stroke-width: 2;
  cursor: grab;
  outline-offset: 2px;
  pointer-events: all;
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
