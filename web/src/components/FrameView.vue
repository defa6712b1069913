<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'
import { path } from '../lib/drawing'
import { pictureOf } from '../lib/picture'
import { save } from '../lib/table'
import { figures, OXIDE, STEPS, temper } from '../lib/temper'
import { QUANTITIES, useWorkbench } from '../stores/workbench'
import { usePen } from '../view/pen'
import { turnedRound, usePlane } from '../view/plane'
import { useResults } from '../view/results'
import { useSteel } from '../view/steel'

const props = defineProps<{ turned?: boolean }>()
const store = useWorkbench()
const bench = props.turned ? turnedRound(store) : store
const holder = ref<HTMLDivElement>()
const size = ref({ width: 732, height: 520 })
let watcher: ResizeObserver | undefined
onMounted(() => {
  watcher = new ResizeObserver(([entry]) => {
    const box = entry!.contentRect
    size.value = { width: Math.max(box.width, 200), height: Math.max(box.height, 160) }
  })
  watcher.observe(holder.value!)
})
onBeforeUnmount(() => watcher?.disconnect())

const plane = usePlane(bench, size)
const { coloured, basis, upright, inPlane, line, grid, bounds, sheet } = plane
const { decks, purlins, outlines, haunches, supports, cross, frameKey, eaves, kinds, middle, top } = useSteel(
  bench,
  plane,
)
const { on, pieces, plain, moments, besides, momentWords, moved, arrows, pointLoads, pushes, natureColour, worst } =
  useResults(bench, plane)
/** Save the drawing as it is, with the styles it is drawn in. */
const drawing = useTemplateRef<SVGSVGElement>('drawing')
function savePicture() {
  const state = bench.diagram?.state ?? 'structure'
  const words = `${basis.value.label}, ${state}, ${bench.origin(bench.diagram?.revision)}`
  save(`${basis.value.key}-${state.replaceAll(':', '-')}.svg`, pictureOf(drawing.value!, words), 'image/svg+xml')
}
defineExpose({ savePicture })
const { pen, trail, put, window_, press, drag, letGo } = usePen(bench, plane, holder)
</script>

<template>
  <div
    ref="holder"
    class="holder"
    :class="{ drawing: bench.drawing }"
    @mousedown="press"
    @mousemove="drag"
    @mouseup="letGo"
    @mouseleave="window_ = null"
    @click="put"
  >
    <svg ref="drawing" :width="size.width" :height="size.height" role="group" :aria-label="basis.label">
      <defs>
        <pattern id="hatch" width="6" height="6" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="#a8402a" />
          <rect width="2" height="6" fill="#5f2014" />
        </pattern>
      </defs>
      <text v-if="bench.paired && bench.diagram" class="which mono" :x="size.width / 2" :y="150">
        {{ bench.diagram.state }} of revision {{ bench.diagram.revision }}
      </text>
      <g v-for="g in grid" :key="`${g.name}${g.upwards}`" class="bubble">
        <template v-if="!g.upwards">
          <line :x1="sheet.at(g.at, 0)[0]" :x2="sheet.at(g.at, 0)[0]" :y1="frameKey.ry - 26" :y2="frameKey.ay + 36" />
          <circle :cx="sheet.at(g.at, 0)[0]" :cy="frameKey.ry - 38" r="11" />
          <text :x="sheet.at(g.at, 0)[0]" :y="frameKey.ry - 34">{{ g.name }}</text>
        </template>
        <template v-else>
          <line :x1="frameKey.ax - 26" :x2="frameKey.bx + 26" :y1="sheet.at(0, g.at)[1]" :y2="sheet.at(0, g.at)[1]" />
          <circle :cx="frameKey.ax - 38" :cy="sheet.at(0, g.at)[1]" r="11" />
          <text :x="frameKey.ax - 38" :y="sheet.at(0, g.at)[1] + 4">{{ g.name }}</text>
        </template>
      </g>
      <line
        v-if="upright && basis.kind !== 'slope'"
        class="ground"
        :x1="frameKey.ax - 40"
        :x2="frameKey.bx + 40"
        :y1="frameKey.ay"
        :y2="frameKey.ay"
      />
      <path v-for="d in decks.shapes" :key="`deck${d.key}`" class="deck" :d="d.d" />
      <path v-for="m in bench.trial ? [] : moments" :key="m.key" class="moment" :d="m.d" />
      <path v-for="m in besides" :key="`b${m.key}`" class="beside" :d="m.d" />
      <g v-if="on('actions') || bench.trial" :stroke="natureColour" fill="none">
        <g v-for="block in arrows.blocks" :key="block.key">
          <path :d="block.d" stroke-width="1.2" />
          <path :d="block.ticks" stroke-width="0.9" />
          <text
            v-if="block.word"
            class="load mono"
            :x="block.at[0]"
            :y="block.at[1]"
            :fill="natureColour"
            stroke="none"
          >
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
      <path v-for="o in outlines" :key="o.key" class="chosen" :d="o.d" />
      <path
        v-for="p in plain"
        :key="p.m.name"
        class="plain"
        :class="{ faded: bench.dimmed.has(p.m.name), bar: p.m.behaviour !== 'beam', light: coloured }"
        :d="p.d"
        :stroke="p.colour"
      />
      <line
        v-for="p in pieces"
        :key="p.key"
        :x1="p.a[0]"
        :y1="p.a[1]"
        :x2="p.b[0]"
        :y2="p.b[1]"
        :stroke="temper(p.u)"
        :class="{ faded: p.faded, uncovered: p.u === null }"
        :stroke-width="p.u === null ? 4 : 7"
      />
      <path v-for="h in haunches" :key="h.key" class="haunch" :class="{ faded: h.faded }" :d="h.d">
        <title>{{ h.title }}</title>
      </path>
      <template v-if="coloured">
        <line
          v-for="p in pieces.filter((q) => (q.u ?? 0) > 1)"
          :key="`${p.key}h`"
          :x1="p.a[0]"
          :y1="p.a[1]"
          :x2="p.b[0]"
          :y2="p.b[1]"
          class="over"
        />
      </template>
      <g v-for="p in purlins" :key="p.key">
        <path v-if="p.stay" class="stay" :d="p.stay" />
        <rect v-if="p.outer" class="purlin" :x="p.x - 2.5" :y="p.y - 2.5" width="5" height="5" />
      </g>
      <text v-for="w in decks.words" :key="w.stiff" class="decked" :x="w.x" :y="w.y + 4">{{ w.text }}</text>
      <rect v-for="([x, y], i) in cross" :key="i" class="cut" :x="x - 4" :y="y - 4" width="8" height="8" />
      <g v-if="moved">
        <path v-for="l in moved.lines" :key="l.key" class="moved" :d="l.d" />
      </g>
      <template v-if="upright">
        <g v-for="p in supports" :key="p.key" class="support">
          <title>Support {{ p.node }}: {{ p.words }}</title>
          <path v-if="!p.fixed" :d="`M${p.x - 9} ${p.y + 13}h18l-9 -12z`" />
          <path v-else :d="`M${p.x - 11} ${p.y}h22v7h-22zM${p.x - 11} ${p.y + 12}l5 -5m3 5l5 -5m3 5l5 -5`" />
        </g>
      </template>
      <g v-for="m in inPlane" :key="m.name">
        <path
          class="grip"
          role="button"
          tabindex="0"
          :aria-label="`${m.label}, ${m.section}, utilisation ${figures(m.utilisation ?? null)}`"
          :d="path(line(m).map((p) => sheet.at(...p)))"
          @click.stop="bench.drawing ? put() : bench.select(m.name, false, $event.shiftKey)"
          @keydown.enter="bench.select(m.name)"
        >
          <title>{{ m.label }} · {{ m.section }} · {{ figures(m.utilisation ?? null) }} {{ m.governs }}</title>
        </path>
        <text
          v-if="on('names')"
          class="name"
          :x="middle(m)[0] + (m.role === 'column' ? 10 : 0)"
          :y="middle(m)[1] + (m.role === 'column' ? 0 : 20)"
          :text-anchor="m.role === 'column' ? 'start' : 'middle'"
        >
          {{ m.section }}
        </text>
      </g>
      <text
        v-for="(w, i) in momentWords"
        :key="i"
        class="figure mono"
        :x="w.at[0]"
        :y="w.at[1]"
        :text-anchor="w.anchor"
      >
        {{ w.text }}
      </text>
      <g v-if="worst && coloured" class="worst" :class="{ fails: worst.u > 1 }">
        <circle :cx="worst.x" :cy="worst.y" r="7" />
        <text
          class="mono"
          :x="worst.x + (worst.x > size.width / 2 ? -12 : 12)"
          :y="worst.y + 24"
          :text-anchor="worst.x > size.width / 2 ? 'end' : 'start'"
        >
          {{ figures(worst.u) }}{{ worst.u > 1 ? ' fails' : '' }}
        </text>
      </g>
      <g class="dimension">
        <line :x1="frameKey.ax" :x2="frameKey.bx" :y1="frameKey.ay + 30" :y2="frameKey.ay + 30" />
        <path :d="`M${frameKey.ax - 4} ${frameKey.ay + 34}l8 -8M${frameKey.bx - 4} ${frameKey.ay + 34}l8 -8`" />
        <text class="mono" :x="(frameKey.ax + frameKey.bx) / 2" :y="frameKey.ay + 25" text-anchor="middle">
          {{ (bounds.most[0] - bounds.least[0]).toFixed(2) }} m
        </text>
        <line :x1="size.width - 14" :x2="size.width - 14" :y1="frameKey.ay" :y2="sheet.at(0, eaves)[1]" />
        <path :d="`M${size.width - 18} ${frameKey.ay + 4}l8 -8M${size.width - 18} ${sheet.at(0, eaves)[1] + 4}l8 -8`" />
        <text
          class="mono"
          :transform="`translate(${size.width - 19} ${(frameKey.ay + sheet.at(0, eaves)[1]) / 2}) rotate(-90)`"
          text-anchor="middle"
        >
          {{ (eaves - bounds.least[1]).toFixed(2) }} m
        </text>
        <text
          v-if="upright && basis.kind === 'frame'"
          class="mono"
          :x="sheet.at(top.at, 0)[0]"
          :y="sheet.at(0, top.height)[1] - (arrows.blocks.length ? 58 : 34)"
          text-anchor="middle"
        >
          +{{ (top.height + basis.origin[2]).toFixed(2) }}{{ top.pitch }}
        </text>
      </g>
      <g v-if="bench.drawing" class="pen">
        <path :d="path(pen ? [...trail, sheet.at(...pen.at)] : trail)" />
        <circle v-for="([x, y], i) in trail" :key="i" :cx="x" :cy="y" r="3.5" />
        <template v-if="pen">
          <circle :cx="sheet.at(...pen.at)[0]" :cy="sheet.at(...pen.at)[1]" r="7" class="aim" />
          <text :x="sheet.at(...pen.at)[0] + 12" :y="sheet.at(...pen.at)[1] - 8">{{ pen.words }}</text>
        </template>
      </g>
      <rect
        v-if="window_"
        class="window"
        :class="{ crossing: window_.to[0] < window_.from[0] }"
        :x="Math.min(window_.from[0], window_.to[0])"
        :y="Math.min(window_.from[1], window_.to[1])"
        :width="Math.abs(window_.to[0] - window_.from[0])"
        :height="Math.abs(window_.to[1] - window_.from[1])"
      />
    </svg>
    <div class="legend">
      <div v-if="coloured" class="bar" aria-label="Temper scale of utilisation">
        <span v-for="step in STEPS" :key="step.upTo"
          ><i :style="{ background: step.colour }" />≤ {{ step.upTo.toFixed(2) }}</span
        >
        <span><i class="hatched" :style="{ borderColor: OXIDE }" />fails</span>
        <span><i class="open" />not covered</span>
        <span v-if="bench.diagram?.own" class="mono">in {{ bench.diagram.state }} alone</span>
      </div>
      <div v-if="kinds.length" class="bar kinds">
        <span v-for="k in kinds.slice(0, 8)" :key="k.kind"><i :style="{ background: k.colour }" />{{ k.kind }}</span>
        <span v-if="kinds.length > 8">and {{ kinds.length - 8 }} more</span>
      </div>
      <span v-if="on('moment') && bench.diagram?.kind !== 'mode'" class="mono">{{
        bench.quantity === 'My'
          ? 'M on the tension side, kNm'
          : `${QUANTITIES[bench.quantity].word}, ${QUANTITIES[bench.quantity].unit}`
      }}</span>
      <span v-if="on('moment') && bench.besideDiagram && !bench.paired" class="mono dashed"
        >dashed: {{ bench.besideDiagram.state
        }}{{
          bench.besideDiagram.revision === bench.diagram?.revision ? '' : ` of revision ${bench.besideDiagram.revision}`
        }}</span
      >
      <span v-if="on('sway') && bench.diagram?.kind === 'mode'" class="mono"
        >{{ bench.diagram.formula }}{{ moved ? '' : '; nothing of this view moves in it' }}</span
      >
      <span v-else-if="moved" class="mono"
        >movement ×{{ moved.times.toFixed(0) }}, most {{ moved.most.toFixed(0) }} mm</span
      >
      <span v-else-if="on('sway')" class="mono">movement: choose a case or combination</span>
      <span v-if="on('actions')" class="mono">{{
        bench.diagram?.loads?.length ? 'line loads, kN per m of member' : 'actions: choose a case or combination'
      }}</span>
    </div>
  </div>
</template>

<style scoped>
.uncovered {
  stroke: var(--ink-2);
  stroke-dasharray: 2 4;
}
.haunch {
  fill: none;
  stroke: var(--ink-2);
  stroke-width: 1.4;
}
.haunch.faded {
  opacity: 0.15;
}
.legend i.open {
  background: #fff;
  border: 1px dashed var(--ink-2);
}
.deck {
  fill: #56626c;
  fill-opacity: 0.07;
  stroke: #8b949b;
  stroke-width: 0.6;
  stroke-dasharray: 3 3;
}
.decked {
  font: 500 12px var(--condensed);
  fill: var(--ink-2);
  text-anchor: middle;
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 3px;
}
.which {
  font-size: 12px;
  text-anchor: middle;
  fill: var(--ink);
}
.push path {
  stroke: #1d6480;
  stroke-width: 1.6;
  fill: none;
}
.push text {
  fill: #1d6480;
  font-size: 11px;
}
.holder {
  position: absolute;
  inset: 0;
}
svg {
  display: block;
}
.bubble line {
  stroke: #d2ccbd;
  stroke-dasharray: 10 3 2 3;
}
.bubble circle {
  fill: #faf9f6;
  stroke: var(--ink-3);
}
.bubble text {
  font: 500 12px var(--condensed);
  text-anchor: middle;
  fill: var(--ink-2);
}
.ground {
  stroke: #b8b09f;
}
.moment {
  fill: #5f7382;
  fill-opacity: 0.13;
  stroke: #5f7382;
  stroke-width: 1.1;
}
.beside {
  fill: none;
  stroke: #a4502a;
  stroke-width: 1.4;
  stroke-dasharray: 5 3;
}
.chosen {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 12;
  stroke-opacity: 0.32;
  stroke-linecap: round;
}
.over {
  stroke: url(#hatch);
  stroke-width: 7;
}
.purlin {
  fill: var(--ink);
}
.plain {
  fill: none;
  stroke-width: 6;
}
.plain.bar {
  stroke-width: 3;
}
.plain.light {
  stroke-dasharray: 9 3;
}
.faded {
  opacity: 0.18;
}
.cut {
  fill: var(--ink);
}
.drawing {
  cursor: crosshair;
}
.pen path {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}
.pen circle {
  fill: var(--chalk);
}
.pen .aim {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 1.6;
}
.pen text {
  font: 500 11.5px var(--condensed);
  fill: var(--chalk);
}
.window {
  fill: var(--chalk);
  fill-opacity: 0.07;
  stroke: var(--chalk);
}
.window.crossing {
  stroke-dasharray: 5 4;
}
.kinds i {
  height: 5px;
}
.stay {
  stroke: var(--ink-2);
  stroke-width: 1.2;
}
.moved {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 1.6;
  stroke-dasharray: 7 3;
}
.support path {
  fill: #faf9f6;
  stroke: var(--ink);
  stroke-width: 1.3;
}
.grip {
  fill: none;
  stroke: transparent;
  stroke-width: 18;
  cursor: pointer;
}
.grip:focus {
  outline: none;
}
.grip:focus-visible {
  stroke: var(--chalk);
  stroke-opacity: 0.4;
}
.figure {
  font-size: 11.5px;
  fill: var(--ink-2);
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 3px;
}
.load {
  font-size: 11px;
  text-anchor: middle;
}
.name {
  font: 500 12px var(--condensed);
  fill: var(--ink);
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 3px;
}
.worst circle {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.worst text {
  font-size: 12.5px;
  font-weight: 600;
  fill: var(--ink);
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 4px;
}
.worst.fails circle {
  stroke: var(--oxide);
}
.worst.fails text {
  fill: var(--oxide);
}
.dimension line,
.dimension path {
  stroke: var(--ink-3);
  fill: none;
}
.dimension text {
  font-size: 11.5px;
  fill: var(--ink-2);
}
.legend {
  position: absolute;
  left: 14px;
  bottom: 8px;
  right: 14px;
  display: flex;
  gap: 4px 18px;
  align-items: center;
  flex-wrap: wrap;
  font-size: 11px;
  color: var(--ink-2);
  pointer-events: none;
}
.legend span {
  white-space: nowrap;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 9px;
  font: 400 11px var(--mono);
}
.bar span {
  display: flex;
  align-items: center;
  gap: 4px;
}
.bar i {
  width: 16px;
  height: 9px;
}
.bar i.hatched {
  background: var(--hatch);
}
</style>
