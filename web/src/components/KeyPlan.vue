<script setup lang="ts">
import { ElButton } from 'element-plus'
import type { Point } from '../lib/drawing'
import { SITE } from '../stores/looks'
import { useWorkbench } from '../stores/workbench'
import { useKeyPlan } from '../view/keyPlan'

const bench = useWorkbench()
const { LEFT, WIDTH, TOP, DEPTH, frames, rows, braced, section, rest, d } = useKeyPlan()
</script>

<template>
  <h4>
    Key plan
    <ElButton
      v-if="bench.stage === 'site'"
      link
      type="primary"
      size="small"
      class="whole"
      :class="{ on: bench.plane === SITE }"
      @click="bench.look(SITE)"
    >
      surroundings
    </ElButton>
    <ElButton
      link
      type="primary"
      size="small"
      class="whole"
      :class="{ on: bench.plane === 'whole' }"
      @click="bench.look('whole')"
    >
      whole · 3D
    </ElButton>
  </h4>
  <svg
    v-if="frames.length || rows.length"
    viewBox="0 4 236 190"
    role="group"
    aria-label="Key plan: choose what to look at"
  >
    <path
      v-for="([a, b], i) in braced"
      :key="i"
      class="brace"
      :d="`M${a} ${TOP}L${b} ${TOP + DEPTH / 2}M${b} ${TOP}L${a} ${TOP + DEPTH / 2}M${a} ${TOP + DEPTH / 2}L${b} ${TOP + DEPTH}M${b} ${TOP + DEPTH / 2}L${a} ${TOP + DEPTH}`"
    />
    <rect class="outline" :x="LEFT" :y="TOP" :width="WIDTH" :height="DEPTH" />
    <g
      v-for="f in frames"
      :key="f.key"
      class="grid"
      :class="{ on: f.key === bench.plane }"
      role="button"
      tabindex="0"
      :aria-label="`Frame on grid ${f.name}`"
      @click="bench.look(f.key)"
      @keydown.enter="bench.look(f.key)"
    >
      <rect
        :x="f.at - Math.min(8, WIDTH / frames.length / 2)"
        y="14"
        :width="Math.min(16, WIDTH / frames.length)"
        :height="TOP + DEPTH - 8"
        fill="transparent"
      />
      <line :x1="f.at" :x2="f.at" y1="32" :y2="TOP + DEPTH + 6" />
      <template v-if="f.named">
        <circle :cx="f.at" cy="23" r="8.5" />
        <text :x="f.at" y="26.8">{{ f.name }}</text>
      </template>
    </g>
    <g
      v-for="r in rows"
      :key="r.key"
      class="grid row"
      :class="{ on: r.key === bench.plane }"
      role="button"
      tabindex="0"
      :aria-label="`Row on grid ${r.name}`"
      @click="bench.look(r.key)"
      @keydown.enter="bench.look(r.key)"
    >
      <rect x="26" :y="r.at - 4" :width="LEFT + WIDTH - 26" height="8" fill="transparent" />
      <line x1="26" :x2="LEFT + WIDTH" :y1="r.at" :y2="r.at" />
      <circle cx="16" :cy="r.at" r="8.5" />
      <text x="16" :y="r.at + 3.8">{{ r.name }}</text>
    </g>
    <template v-if="section">
      <g
        v-for="v in section.levels"
        :key="v.key"
        class="level"
        :class="{ on: v.key === bench.plane }"
        role="button"
        tabindex="0"
        :aria-label="`Level ${v.name}`"
        @click="bench.look(v.key)"
        @keydown.enter="bench.look(v.key)"
      >
        <title>Level {{ v.name }}, {{ v.z.toFixed(2) }} m</title>
        <rect
          :x="section.left - 14"
          :y="v.y - 4"
          :width="section.right - section.left + 28"
          height="8"
          fill="transparent"
        />
        <line :x1="section.left - 12" :x2="section.right + 8" :y1="v.y" :y2="v.y" />
        <text v-if="v.named" :x="section.right + 10" :y="v.y + 3.4">
          {{ v.name.length > 9 ? `+${v.z.toFixed(2)}` : v.name }}
        </text>
      </g>
      <path v-for="(l, i) in section.lines" :key="i" class="outline" :d="d(l)" />
      <g
        v-for="p in section.slopes"
        :key="p.key"
        class="slope"
        :class="{ on: p.key === bench.plane }"
        role="button"
        tabindex="0"
        :aria-label="p.label"
        @click="bench.look(p.key)"
        @keydown.enter="bench.look(p.key)"
      >
        <title>{{ p.label }}</title>
        <path :d="d(p.ends as Point[])" />
      </g>
      <text class="small" :x="(section.left + section.right) / 2" y="193" text-anchor="middle">
        {{ Number(section.span.toFixed(3)) }} m
      </text>
    </template>
  </svg>
  <p v-else class="note">There is no grid yet. Set out a hall or another jig, or give grid lines by hand.</p>
  <p v-if="rest.length" class="note levels">
    <ElButton v-for="p in rest" :key="p.key" link type="primary" size="small" @click="bench.look(p.key)">{{
      p.label
    }}</ElButton>
  </p>
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
.grid:focus,
.level:focus,
.slope:focus {
  outline: none;
}
.grid:focus-visible line,
.level:focus-visible line,
.slope:focus-visible path {
  stroke: var(--chalk);
  stroke-width: 3;
}
.grid line {
  stroke: #b8b09f;
}
.grid circle {
  fill: var(--sheet);
  stroke: var(--ink-3);
}
.grid text {
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
.row line {
  stroke-dasharray: 7 3 1 3;
}
.level,
.slope {
  cursor: pointer;
}
.level line {
  stroke: #cdc6b6;
}
.level text {
  font: 400 9.5px var(--condensed);
  fill: var(--ink-2);
}
.level.on line {
  stroke: var(--chalk);
  stroke-width: 2.4;
}
.slope path {
  stroke: transparent;
  stroke-width: 9;
  fill: none;
}
.slope:hover path {
  stroke: var(--chalk);
  stroke-opacity: 0.25;
}
.slope.on path {
  stroke: var(--chalk);
  stroke-opacity: 0.6;
  stroke-width: 5;
}
.small {
  font: 400 11px var(--mono);
  fill: var(--ink-2);
}
</style>
