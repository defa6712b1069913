<script setup lang="ts">
/** Loads to point at, and the handles of the one that is chosen. */
import { computed } from 'vue'
import type { Borne, useLoadHands } from '../../view/loadHands'
import type { useResults } from '../../view/results'
import LoadHandles from './LoadHandles.vue'

const props = defineProps<{ hold: ReturnType<typeof useLoadHands>; results: ReturnType<typeof useResults> }>()
const { may, choose, seize, drag, drop } = props.hold
/** What can be pointed at: blocks of line loads, and arrows of forces. */
const borne = computed(() => [
  ...props.results.arrows.value.blocks
    .filter((b) => b.d && b.member)
    .map((b) => ({ ...b, node: undefined, closed: true })),
  ...props.results.pointLoads.value.filter((p) => p.d).map((p) => ({ ...p, from: p.foot, to: p.foot, closed: false })),
])
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
    <LoadHandles :hold="hold" />
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
</style>
