<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { fit, path, type Point } from '../lib/drawing'
import { minus } from '../lib/quantity'
import { area, letterPlace, tint } from '../lib/surfaces'
import { NATURE_COLOURS } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'

/** One panel laid flat, seen from outside: its wind zones, or the pressures of the case that is shown. */
const bench = useWorkbench()
const holder = ref<HTMLElement>()
const [width, height] = [ref(0), ref(0)]
let watcher: ResizeObserver | undefined
onMounted(() => {
  watcher = new ResizeObserver(([entry]) => {
    width.value = entry!.contentRect.width
    height.value = entry!.contentRect.height
  })
  watcher.observe(holder.value!)
})
onBeforeUnmount(() => watcher?.disconnect())
const panel = computed(() => bench.panel)
const nature = computed(() => bench.chain?.cases?.find((c) => c.symbol === bench.state)?.nature ?? 'wind')
const bounds = computed(() => {
  const points = panel.value?.outline ?? [[0, 0]]
  const xs = points.map((p) => p[0]!)
  const ys = points.map((p) => p[1]!)
  return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) }
})
const sheet = computed(() => {
  const b = bounds.value
  const box = { width: width.value, height: height.value, left: 60, right: 70, top: 96, bottom: 78 }
  return fit([b.x0, b.y0], [b.x1, b.y1], box)
})
const at = (p: readonly number[]): Point => sheet.value.at(p[0]!, p[1]!)
const outline = computed(() => path((panel.value?.outline ?? []).map(at), true))
const carriers = computed(() => (panel.value?.carriers ?? []).map((c) => ({ name: c.member, d: path(c.line.map(at)) })))
/** What the selected member takes of the panel. */
const taken = computed(() => {
  const parts = panel.value?.carriers.find((c) => c.member === bench.selected)?.takes ?? []
  return {
    d: parts.map((part) => path(part.map(at), true)).join(''),
    area: parts.reduce((sum, part) => sum + area(part), 0),
  }
})

interface Patch {
  key: string
  letter: string
  words: string
  polygon: Point[]
  d: string
  fill: string
  label: Point
  /** How its words stand: letter above value, both in one line, the letter alone. */
  way: 'two' | 'one' | 'letter'
}
function patch(key: string, letter: string, words: string, flat: readonly (readonly number[])[], fill: string): Patch {
  const polygon = flat.map(at)
  const xs = polygon.map((p) => p[0])
  const ys = polygon.map((p) => p[1])
  const room = Math.max(...xs) - Math.min(...xs)
  const label = letterPlace(polygon)
  const high = Math.max(...ys) - Math.min(...ys)
  const way = room < 46 ? 'letter' : high >= 34 ? 'two' : room > 90 ? 'one' : 'letter'
  return { key, letter, words, polygon, d: path(polygon, true), fill, label, way }
}
const zones = computed(() =>
  (panel.value?.zones ?? [])
    .map((z, i) => ({ z, i }))
    .filter(({ z }) => z.direction === bench.wind)
    .map(({ z, i }) => {
      const two = z.suction[0] !== z.pressure[0]
      const words = minus(two ? `${z.suction[0].toFixed(2)} / ${z.pressure[0].toFixed(2)}` : z.suction[0].toFixed(2))
      return patch(`zone ${i}`, z.letter, words, z.polygon, tint(z.suction[0], 2))
    }),
)
const loads = computed(() =>
  (panel.value?.loads ?? [])
    .map((l, i) => ({ l, i }))
    .filter(({ l }) => l.case === bench.state)
    .map(({ l, i }) => {
      const [least, most] = [Math.min(...l.pressure), Math.max(...l.pressure)]
      const words = minus(most - least < 5e-4 ? most.toFixed(2) : `${least.toFixed(2)} … ${most.toFixed(2)}`)
      return patch(`load ${i}`, l.zone, words, l.polygon, tint(Math.abs(most) > Math.abs(least) ? most : least, 1.2))
    }),
)
const shown = computed(() => (bench.state ? loads.value : zones.value))
const pointed = computed(() => bench.spot)
const total = computed(() => (panel.value ? area(panel.value.outline) : 0))
const title = computed(() => {
  if (!panel.value) return ''
  return bench.state
    ? `${bench.chain?.cases?.find((c) => c.symbol === bench.state)?.name ?? bench.state}, kN/m²`
    : `Wind from the ${bench.wind}: c_pe,10`
})
const scales = computed(() => {
  const b = bounds.value
  const here = bench.state
    ? (panel.value?.loads ?? []).filter((l) => l.case === bench.state)
    : (panel.value?.zones ?? []).filter((z) => z.direction === bench.wind)
  const points = here.flatMap((z) => z.polygon)
  const outer = panel.value?.outline ?? []
  const near = (x: number, y: number) => Math.abs(x - y) < 1e-3
  // cuts are measured along the foot and along the sides, not where they meet a slanted edge
  const cuts = (axis: 0 | 1) => {
    const found = points
      .filter((p) => (axis ? near(p[0]!, b.x0) || near(p[0]!, b.x1) : near(p[1]!, b.y0)))
      .map((p) => p[axis]!)
    if (axis) found.push(...outer.map((p) => p[1]!))
    found.push(axis ? b.y0 : b.x0, axis ? b.y1 : b.x1)
    return [...new Set(found.map((v) => Number(v.toFixed(3))))].sort((x, y) => x - y)
  }
  const steps = (marks: number[]) =>
    marks.slice(1).map((m, i) => ({ from: marks[i]!, to: m, words: (m - marks[i]!).toFixed(2) }))
  return { across: steps(cuts(0)), up: steps(cuts(1)) }
})
const bottom = computed(() => at([bounds.value.x0, bounds.value.y0])[1] + 26)
const side = computed(() => at([bounds.value.x1, bounds.value.y0])[0] + 18)
/** The arrow of the wind, where it lies in the panel. */
const blows = computed(() => {
  if (bench.state || !panel.value) return ''
  const [ox, oy] = panel.value.outside
  const towards = { left: [1, 0], right: [-1, 0], front: [0, 1], back: [0, -1] }[bench.wind]!
  if (Math.abs(panel.value.outside[2]) < 0.01) {
    const onto = -(ox * towards[0]! + oy * towards[1]!)
    if (onto > 0.5) return 'onto this face'
    if (onto < -0.5) return 'away from this face'
  }
  // to the right on the drawing is up × outside
  const right = Math.abs(panel.value.outside[2]) > 0.9999 ? [1, 0] : [-oy, ox]
  const length = Math.hypot(right[0]!, right[1]!) || 1
  const along = (right[0]! * towards[0]! + right[1]! * towards[1]!) / length
  if (along > 0.5) return '→ to the right'
  if (along < -0.5) return '← to the left'
  const rising = -(ox * towards[0]! + oy * towards[1]!)
  return rising > 0 ? '↑ up the slope' : '↓ down the slope'
})
</script>

<template>
  <div ref="holder" class="panel">
    <header v-if="panel">
      <span>Panel laid flat, seen from outside</span>
      <b>{{ panel.name }}</b>
      <em>{{ title }}</em>
      <em v-if="blows">the wind blows {{ blows }}</em>
    </header>
    <ElButton size="small" class="close" @click="bench.closePanel()">Back to the building</ElButton>
    <svg v-if="panel && width" :width="width" :height="height" role="group" :aria-label="`${panel.name}: ${title}`">
      <defs>
        <pattern id="push" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="7" class="hatch" />
        </pattern>
      </defs>
      <path :d="outline" class="sheet" />
      <g v-for="p in shown" :key="p.key" class="zone" :class="{ on: pointed === p.key }" @click="bench.spot = p.key">
        <path :d="p.d" :fill="p.fill" />
        <path v-if="p.words && !p.words.startsWith('−')" :d="p.d" fill="url(#push)" class="over" />
        <title>{{ p.letter }} {{ p.words }}</title>
      </g>
      <path v-for="c in carriers" :key="c.name" :d="c.d" class="carrier">
        <title>{{ c.name }}</title>
      </path>
      <path v-if="taken.d" :d="taken.d" class="taken" />
      <path :d="outline" class="edge" />
      <g v-for="p in shown" :key="`${p.key} words`" class="words">
        <text :x="p.label[0]" :y="p.way === 'two' ? p.label[1] - 3 : p.label[1] + 4">
          {{ p.letter }}
          <tspan v-if="p.way === 'one'" class="mono" dx="8">{{ p.words }}</tspan>
        </text>
        <text v-if="p.way === 'two'" :x="p.label[0]" :y="p.label[1] + 13" class="mono">{{ p.words }}</text>
      </g>
      <g class="scale">
        <template v-for="s in scales.across" :key="s.from">
          <path
            :d="`M${at([s.from, 0])[0]} ${bottom - 5}v10M${at([s.to, 0])[0]} ${bottom - 5}v10M${at([s.from, 0])[0]} ${bottom}H${at([s.to, 0])[0]}`"
          />
          <text
            v-if="at([s.to, 0])[0] - at([s.from, 0])[0] > 30"
            :x="(at([s.from, 0])[0] + at([s.to, 0])[0]) / 2"
            :y="bottom + 16"
          >
            {{ s.words }}
          </text>
        </template>
        <template v-for="s in scales.up" :key="`up ${s.from}`">
          <path
            :d="`M${side - 5} ${at([0, s.from])[1]}h10M${side - 5} ${at([0, s.to])[1]}h10M${side} ${at([0, s.from])[1]}V${at([0, s.to])[1]}`"
          />
          <text
            v-if="at([0, s.from])[1] - at([0, s.to])[1] > 12"
            :x="side + 9"
            :y="(at([0, s.from])[1] + at([0, s.to])[1]) / 2 + 4"
            class="start"
          >
            {{ s.words }}
          </text>
        </template>
      </g>
    </svg>
    <footer v-if="panel">
      <span><i class="pull" /> suction</span
      ><span><i class="press" :style="{ borderColor: NATURE_COLOURS[nature] }" /> pressure</span>
      <span
        >{{ total.toFixed(1) }} m² · {{ panel.carriers.length }} carriers · spans
        {{ panel.two_way ? 'two ways' : 'one way' }}</span
      >
      <span v-if="taken.area"><i class="takes" /> {{ bench.member?.label }} takes {{ taken.area.toFixed(1) }} m²</span>
      <span v-if="bench.state && !loads.length">No load of {{ bench.state }} on this panel.</span>
    </footer>
  </div>
</template>

<style scoped>
.panel {
  position: absolute;
  inset: 0;
  background: var(--sheet);
}
header {
  position: absolute;
  left: 14px;
  top: 8px;
  display: grid;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
}
header b {
  font: 600 14px var(--condensed);
  color: var(--ink);
}
header em {
  font-style: normal;
}
.close {
  position: absolute;
  right: 12px;
  top: 10px;
  z-index: 2;
}
svg {
  display: block;
}
.sheet {
  fill: #fff;
}
.zone {
  cursor: pointer;
}
.zone path {
  stroke: var(--ink-2);
  stroke-width: 0.8;
}
.zone .over {
  stroke: none;
}
.hatch {
  stroke: #3f5c28;
  stroke-width: 1.1;
  opacity: 0.5;
}
.zone.on path:first-child {
  stroke: var(--chalk);
  stroke-width: 3;
}
.carrier {
  pointer-events: none;
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
  stroke-dasharray: 10 3 2 3;
  opacity: 0.45;
}
.taken {
  pointer-events: none;
  fill: var(--chalk);
  fill-opacity: 0.12;
  stroke: var(--chalk);
  stroke-width: 1.8;
  stroke-dasharray: 6 4;
}
.edge {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.words {
  pointer-events: none;
}
.words text {
  font: 600 13px var(--condensed);
  text-anchor: middle;
  fill: var(--ink);
  paint-order: stroke;
  stroke: rgb(252 251 248 / 85%);
  stroke-width: 3px;
}
.words .mono {
  font: 400 11.5px var(--mono);
}
.scale path {
  stroke: var(--ink-2);
  stroke-width: 0.8;
  fill: none;
}
.scale text {
  font: 400 11px var(--mono);
  fill: var(--ink-2);
  text-anchor: middle;
}
.scale .start {
  text-anchor: start;
}
footer {
  position: absolute;
  left: 14px;
  right: 14px;
  bottom: 8px;
  display: flex;
  gap: 16px;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
}
footer i {
  display: inline-block;
  width: 14px;
  height: 10px;
  border: 1px solid var(--ink-2);
  margin-right: 3px;
}
.pull {
  background: #b9cdd6;
}
footer .takes {
  border: 1px dashed var(--chalk);
}
.press {
  background: repeating-linear-gradient(45deg, #c5d3b2 0 3px, #7d9a5e 3px 4px);
}
</style>
