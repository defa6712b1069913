<script setup lang="ts">
import { computed } from 'vue'
import { useWorkbench } from '../stores/workbench'

const bench = useWorkbench()
const LEFT = 34
const WIDTH = 168
const TOP = 40
const DEPTH = 70

const frames = computed(() => {
  const count = bench.hall?.frames ?? 0
  const every = Math.ceil(count / 10)
  return Array.from({ length: count }, (_, i) => ({
    number: i + 1,
    x: LEFT + (count > 1 ? (WIDTH * i) / (count - 1) : 0),
    named: i % every === 0 || i === count - 1 || i + 1 === bench.frame,
  })).map((f, _, all) => ({
    ...f,
    // the chosen frame's bubble always shows; its neighbours give way
    named:
      f.number === bench.frame ||
      (f.named && !all.some((o) => o.number === bench.frame && o !== f && Math.abs(o.x - f.x) < 15)),
  }))
})
const braced = computed(() => {
  const f = frames.value
  return f.length < 2 ? [] : [...new Set([0, f.length - 2])].map((i) => [f[i]!.x, f[i + 1]!.x] as const)
})
const rise = computed(() => {
  const hall = bench.hall
  if (!hall || !bench.chain?.hall) return { wall: 0, roof: 0, half: 0 }
  const scale = Math.min(116 / hall.span, 46 / bench.chain.hall.ridge_height)
  return {
    wall: hall.eaves_height * scale,
    roof: (bench.chain.hall.ridge_height - hall.eaves_height) * scale,
    half: (hall.span / 2) * scale,
  }
})
</script>

<template>
  <h4>
    Key plan
    <button class="quiet whole" :class="{ on: bench.frame === 0 }" @click="bench.look(0)">whole · 3D</button>
  </h4>
  <svg v-if="bench.hall" viewBox="0 4 236 186" role="group" aria-label="Key plan: choose a grid line">
    <path
      v-for="([a, b], i) in braced"
      :key="i"
      class="brace"
      :d="`M${a} ${TOP}L${b} ${TOP + DEPTH / 2}M${b} ${TOP}L${a} ${TOP + DEPTH / 2}M${a} ${TOP + DEPTH / 2}L${b} ${TOP + DEPTH}M${b} ${TOP + DEPTH / 2}L${a} ${TOP + DEPTH}`"
    />
    <g
      v-for="f in frames"
      :key="f.number"
      class="grid"
      :class="{ on: f.number === bench.frame }"
      role="button"
      tabindex="0"
      :aria-label="`Frame on grid ${f.number}`"
      @click="bench.look(f.number)"
      @keydown.enter="bench.look(f.number)"
    >
      <rect
        :x="f.x - Math.min(8, WIDTH / frames.length / 2)"
        y="14"
        :width="Math.min(16, WIDTH / frames.length)"
        :height="TOP + DEPTH - 8"
        fill="transparent"
      />
      <line :x1="f.x" :x2="f.x" y1="32" :y2="TOP + DEPTH + 6" />
      <template v-if="f.named">
        <circle :cx="f.x" cy="23" r="8.5" />
        <text :x="f.x" y="26.8">{{ f.number }}</text>
      </template>
    </g>
    <rect class="outline" :x="LEFT" :y="TOP" :width="WIDTH" :height="DEPTH" />
    <line class="ridge" :x1="LEFT" :x2="LEFT + WIDTH" :y1="TOP + DEPTH / 2" :y2="TOP + DEPTH / 2" />
    <g v-for="(name, i) in ['A', 'B']" :key="name" class="bubble">
      <circle cx="16" :cy="TOP + i * DEPTH" r="8.5" />
      <text x="16" :y="TOP + i * DEPTH + 3.8">{{ name }}</text>
    </g>
    <path
      class="outline"
      :d="`M${118 - rise.half} 184v${-rise.wall}l${rise.half} ${-rise.roof}l${rise.half} ${rise.roof}v${rise.wall}`"
    />
    <line class="ground" :x1="118 - rise.half - 16" :x2="118 + rise.half + 16" y1="184" y2="184" />
    <text class="small" :x="118" y="181">{{ bench.hall.span }} m</text>
  </svg>
  <p v-else class="note">This document states its nodes and members directly; it has no hall to key.</p>
</template>

<style scoped>
h4 {
  padding-right: 22px;
}
svg {
  display: block;
  width: 100%;
  max-height: 34vh;
}
.whole.on {
  font-weight: 600;
  text-decoration: underline;
}
.grid {
  cursor: pointer;
}
.grid line {
  stroke: #b8b09f;
}
.grid circle,
.bubble circle {
  fill: var(--sheet);
  stroke: var(--ink-3);
}
.grid text,
.bubble text {
  font: 500 10.5px var(--condensed);
  text-anchor: middle;
  fill: var(--ink-2);
}
.grid.on line {
  stroke: var(--chalk);
  stroke-width: 2.4;
}
.grid.on circle {
  fill: var(--chalk);
  stroke: var(--chalk);
}
.grid.on text {
  fill: #fff;
}
.outline {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.3;
  pointer-events: none;
}
.brace {
  fill: none;
  stroke: #cdc6b6;
}
.ridge {
  stroke: var(--ink);
  stroke-dasharray: 6 3 1 3;
  pointer-events: none;
}
.ground {
  stroke: var(--ink-3);
}
.small {
  font: 400 11px var(--mono);
  text-anchor: middle;
  fill: var(--ink-2);
}
</style>
