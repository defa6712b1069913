<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { path, type Point } from '../lib/drawing'
import { courses } from '../lib/site'
import { useWorkbench } from '../stores/workbench'
import NumberField from './NumberField.vue'
import OnDrawing from './OnDrawing.vue'

/** The section across the building: q_p over the height beside it, and how snow lies on its roof. */
const props = defineProps<{ site: Schemas['SiteOut'] }>()
const bench = useWorkbench()
const SIZE = { width: 732, height: 218 }
const GROUND = 186
/** Where the course of q_p is drawn, and the width that the building may take. */
const CHART = { left: 44, width: 150 }
const BUILDING = { left: 250, width: 330 }
const ROW = 24
const MOST = 4
const rows = computed(() => props.site.snow.slice(0, MOST))
const top = computed(() => 16 + rows.value.length * ROW)
/** z_e: the roof's top, or that of parapets above it. */
const reference = computed(() => Math.max(props.site.height, ...props.site.winds.map((w) => w.height)))
const scale = computed(() =>
  Math.min((GROUND - top.value - 14) / (reference.value * 1.05), BUILDING.width / (props.site.x1 - props.site.x0)),
)
const x = (metres: number) =>
  BUILDING.left + BUILDING.width / 2 + (metres - (props.site.x0 + props.site.x1) / 2) * scale.value
const z = (above: number) => GROUND - above * scale.value
const section = computed(() =>
  props.site.section.map((line) => path(line.map(([a, b]): Point => [x(a), z(b - props.site.ground)]))),
)
const winds = computed(() => {
  const all = courses(props.site.winds)
  const most = Math.max(...all.flatMap((w) => w.course.map((p) => p[1])), 0.1)
  const q = (value: number) => CHART.left + (value / most) * CHART.width
  return {
    most,
    q,
    lines: all.map((w) => ({
      ...w,
      d: path(w.course.map(([height, value]): Point => [q(value), z(height)])),
      at: [q(w.peak), z(w.height)] as Point,
      words: w.directions.length === 4 ? 'from every side' : `from the ${w.directions.join(', ')}`,
    })),
  }
})
const snow = computed(() => {
  const most = Math.max(...rows.value.flatMap((s) => s.course.map((p) => p[1])), 0.01)
  return rows.value.map((s, i) => {
    const base = 16 + (i + 1) * ROW - 5
    const up = (value: number) => base - (value / most) * 15
    const [first, last] = [s.course[0]!, s.course.at(-1)!]
    const greatest = s.course.reduce((a, b) => (b[1] > a[1] + 1e-9 ? b : a), first)
    const labels = [first, last, ...(greatest[1] > Math.max(first[1], last[1]) + 5e-4 ? [greatest] : [])]
    return {
      ...s,
      base,
      d: path([[x(first[0]), base], ...s.course.map((p): Point => [x(p[0]), up(p[1])]), [x(last[0]), base]], true),
      left: { value: first[1], x: x(first[0]) - 5 },
      right: { value: last[1], x: x(last[0]) + 5 },
      peak: labels[2] && { value: labels[2][1], x: x(labels[2][0]) },
    }
  })
})
const show = (symbol: string) => {
  bench.stage = 'actions'
  bench.show(symbol)
}
const neighbour = computed(() => {
  const found = bench.document?.snow?.neighbour
  if (!found) return null
  const eaves = Math.min(
    ...props.site.section
      .flat()
      .map((p) => p[1])
      .filter((v) => v > props.site.ground + 0.5),
  )
  const up = eaves - props.site.ground + found.above
  const [gap, wide] = [found.gap, found.width]
  const from = found.side === 'right' ? props.site.x1 + gap : props.site.x0 - gap - wide
  return { x: x(from), y: z(up), width: wide * scale.value, height: up * scale.value }
})
</script>

<template>
  <svg :viewBox="`0 0 ${SIZE.width} ${SIZE.height}`" role="group" aria-label="Section across the building">
    <OnDrawing v-if="bench.mayChange" :x="8" :y="2" :width="232">
      <NumberField
        label="v_b,0"
        path="site.wind_speed"
        kind="speed"
        :value="bench.document?.site?.wind_speed"
        hint="Fundamental value of the basic wind velocity (4.2)"
      />
      <NumberField
        label="s_k"
        path="site.ground_snow"
        kind="pressure"
        :value="bench.document?.site?.ground_snow"
        hint="Snow on the ground"
      />
    </OnDrawing>
    <rect v-if="neighbour" v-bind="neighbour" class="neighbour" />
    <path :d="`M${CHART.left} ${GROUND} H${SIZE.width - 20}`" class="ground" />
    <path :d="`M${CHART.left} ${GROUND} V${z(site.height * 1.25)}`" class="axis" />
    <path :d="`M${CHART.left} ${z(reference)} H${x(site.x1)}`" class="level" />
    <g v-for="(w, i) in winds.lines" :key="i">
      <path :d="w.d" class="course" />
      <circle :cx="w.at[0]" :cy="w.at[1]" r="3.5" class="point" />
      <text :x="w.at[0] - 8" :y="w.at[1] - 5" class="mono strong" text-anchor="end">{{ w.peak.toFixed(3) }}</text>
    </g>
    <text :x="CHART.left - 6" :y="GROUND + 4" class="mono" text-anchor="end">0</text>
    <text :x="CHART.left - 6" :y="z(reference) + 4" class="mono" text-anchor="end">{{ reference.toFixed(2) }}</text>
    <text :x="CHART.left" :y="GROUND + 15" class="small">q_p over the height z (m), kN/m²</text>
    <text :x="CHART.left" :y="GROUND + 28" class="small">
      {{ winds.lines.map((w) => `${w.terrain}: ${w.words}`).join(' · ') }}
    </text>
    <path v-for="(d, i) in section" :key="`s${i}`" :d="d" class="steel" />
    <text :x="x((site.x0 + site.x1) / 2)" :y="GROUND + 15" class="mono" text-anchor="middle">
      {{ (site.x1 - site.x0).toFixed(2) }} m
    </text>
    <g
      v-for="s in snow"
      :key="s.case"
      class="lying"
      role="button"
      tabindex="0"
      @click="show(s.case)"
      @keydown.enter="show(s.case)"
    >
      <title>{{ s.name }}: show it in Actions</title>
      <path :d="s.d" class="snow" />
      <text :x="s.left.x" :y="s.base - 2" class="mono" text-anchor="end">{{ s.left.value.toFixed(2) }}</text>
      <text :x="s.right.x" :y="s.base - 2" class="mono">{{ s.right.value.toFixed(2) }}</text>
      <text v-if="s.peak" :x="s.peak.x" :y="s.base - 3" class="mono" text-anchor="middle">
        {{ s.peak.value.toFixed(2) }}
      </text>
      <text :x="s.right.x + 34" :y="s.base - 2" class="small">{{ s.case }} {{ s.name }}</text>
    </g>
    <text v-if="site.snow.length" :x="BUILDING.left" y="11" class="small">
      snow on the roof at half its length, kN/m² of plan{{
        site.snow.length > rows.length ? `; ${site.snow.length - rows.length} more in Actions` : ''
      }}
    </text>
    <text v-else :x="BUILDING.left" y="11" class="small">no snow</text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: 100%;
  display: block;
  font: 400 12px var(--condensed);
}
text {
  fill: var(--ink);
}
.small {
  fill: var(--ink-2);
}
.mono {
  font-family: var(--mono);
  font-size: 11px;
}
.strong {
  font-weight: 600;
}
.ground {
  stroke: var(--ink-2);
  stroke-width: 1.5;
}
.axis {
  stroke: var(--ink-3);
}
.level {
  stroke: var(--chalk);
  stroke-dasharray: 7 3 2 3;
}
.course {
  fill: none;
  stroke: var(--moss);
  stroke-width: 2;
}
.point {
  fill: var(--sheet);
  stroke: var(--moss);
  stroke-width: 2;
}
.steel {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
.neighbour {
  fill: #dcd5c6;
  stroke: var(--ink-2);
}
.snow {
  fill: #c9dfe7;
  stroke: var(--frost);
}
.lying {
  cursor: pointer;
}
.lying:hover .snow,
.lying:focus-visible .snow {
  fill: var(--frost);
}
</style>
