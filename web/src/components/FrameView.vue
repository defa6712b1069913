<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import { flat, path } from '../lib/drawing'
import { pictureOf } from '../lib/picture'
import { save } from '../lib/table'
import { figures } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import { useLoadHands } from '../view/loadHands'
import { usePen } from '../view/pen'
import { turnedRound, usePlane } from '../view/plane'
import { useResults } from '../view/results'
import { useSteel } from '../view/steel'
import FrameDimensions from './frame/FrameDimensions.vue'
import FrameGrid from './frame/FrameGrid.vue'
import FrameHands from './frame/FrameHands.vue'
import FrameLegend from './frame/FrameLegend.vue'
import FrameLoads from './frame/FrameLoads.vue'
import FrameNodes from './frame/FrameNodes.vue'
import FramePen from './frame/FramePen.vue'
import FrameProposed from './frame/FrameProposed.vue'
import FrameSteel from './frame/FrameSteel.vue'

const props = defineProps<{ turned?: boolean }>()
const store = useWorkbench()
const bench = props.turned ? turnedRound(store) : store
const holder = ref<HTMLDivElement>()
const { width, height } = useElementSize(holder, { width: 732, height: 520 })
const size = computed(() => ({ width: Math.max(width.value, 200), height: Math.max(height.value, 160) }))

const plane = usePlane(bench, size)
const { coloured, basis, inPlane, line, sheet } = plane
const steel = useSteel(bench, plane)
const { decks, outlines, middle } = steel
const results = useResults(bench, plane)
const { on, moments, besides, momentWords, moved, arrows, worst } = results
/** Save the drawing as it is, with the styles it is drawn in. */
const drawing = useTemplateRef<SVGSVGElement>('drawing')
function savePicture() {
  const state = bench.diagram?.state ?? 'structure'
  const words = `${basis.value.label}, ${state}, ${bench.origin(bench.diagram?.revision)}`
  save(`${basis.value.key}-${state.replaceAll(':', '-')}.svg`, pictureOf(drawing.value!, words), 'image/svg+xml')
}
defineExpose({ savePicture })
const drawn = usePen(bench, plane, holder)
const { put, press, drag, letGo, window_ } = drawn
const hold = useLoadHands(bench, { members: inPlane, at: (p) => sheet.value.at(...flat(basis.value, p)) }, holder)
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
      <FrameGrid :plane="plane" :steel="steel" />
      <path v-for="d in decks.shapes" :key="`deck${d.key}`" class="deck" :d="d.d" />
      <path v-for="m in bench.trial ? [] : moments" :key="m.key" class="moment" :d="m.d" />
      <path v-for="m in besides" :key="`b${m.key}`" class="beside" :d="m.d" />
      <FrameLoads :results="results" :trial="!!bench.trial" />
      <path v-for="o in outlines" :key="o.key" class="chosen" :d="o.d" />
      <FrameSteel :results="results" :steel="steel" :plane="plane" :dimmed="bench.dimmed" />
      <text v-for="w in decks.words" :key="w.stiff" class="decked" :x="w.x" :y="w.y + 4">{{ w.text }}</text>
      <FrameNodes :plane="plane" :steel="steel" />
      <FrameProposed :plane="plane" :bench="bench" />
      <g v-if="moved">
        <path v-for="l in moved.lines" :key="l.key" class="moved" :d="l.d" />
      </g>
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
      <FrameHands :hold="hold" :results="results" />
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
      <FrameDimensions :plane="plane" :steel="steel" :loaded="arrows.blocks.length > 0" :width="size.width" />
      <FramePen :plane="plane" :pen="drawn" :drawing="!!bench.drawing" />
    </svg>
    <FrameLegend :plane="plane" :steel="steel" :results="results" :bench="bench" />
  </div>
</template>

<style scoped>
.uncovered {
  stroke: var(--ink-2);
  stroke-dasharray: 2 4;
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
.holder {
  position: absolute;
  inset: 0;
}
svg {
  display: block;
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
.faded {
  opacity: 0.18;
}
.drawing {
  cursor: crosshair;
}
.moved {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 1.6;
  stroke-dasharray: 7 3;
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
</style>
