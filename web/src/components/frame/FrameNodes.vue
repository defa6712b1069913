<script setup lang="ts">
/** What holds the frame: purlins, rails and stays, what crosses the plane, supports. */
import type { usePlane } from '../../view/plane'
import type { useSteel } from '../../view/steel'

const props = defineProps<{ plane: ReturnType<typeof usePlane>; steel: ReturnType<typeof useSteel> }>()
const { upright } = props.plane
const { purlins, cross, supports, hinges, rails } = props.steel
</script>

<template>
  <g v-for="p in purlins" :key="p.key">
    <path v-if="p.stay" class="stay" :d="p.stay" />
    <rect v-if="p.outer" class="purlin" :x="p.x - 2.5" :y="p.y - 2.5" width="5" height="5" />
  </g>
  <rect v-for="([x, y], i) in cross" :key="i" class="cut" :x="x - 4" :y="y - 4" width="8" height="8" />
  <circle v-for="h in hinges" :key="h.key" class="hinge" :cx="h.x" :cy="h.y" r="3.6">
    <title>{{ h.words }}</title>
  </circle>
  <path v-for="r in rails" :key="r.key" class="rail" :d="r.d">
    <title>Rail of {{ r.name }}</title>
  </path>
  <template v-if="upright">
    <g v-for="p in supports" :key="p.key" class="support">
      <title>Support {{ p.node }}: {{ p.words }}</title>
      <path v-if="p.pad" class="pad" :d="p.pad" />
      <path v-else-if="!p.fixed" :d="`M${p.x - 9} ${p.y + 13}h18l-9 -12z`" />
      <path v-else :d="`M${p.x - 11} ${p.y}h22v7h-22zM${p.x - 11} ${p.y + 12}l5 -5m3 5l5 -5m3 5l5 -5`" />
    </g>
  </template>
</template>

<style scoped>
.purlin {
  fill: var(--ink);
}
.cut {
  fill: var(--ink);
}
.hinge {
  fill: #faf9f6;
  stroke: var(--ink);
  stroke-width: 1.3;
}
.rail {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
.stay {
  stroke: var(--ink-2);
  stroke-width: 1.2;
}
.support path.pad {
  fill: #e4dfd2;
}
.support path {
  fill: #faf9f6;
  stroke: var(--ink);
  stroke-width: 1.3;
}
</style>
