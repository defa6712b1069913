<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, ref, useTemplateRef, watchPostEffect } from 'vue'
import { useWorkbench } from '../stores/workbench'
import { useSlabPicture } from '../view/slabPicture'
import SlabControls from './SlabControls.vue'
import SlabCut from './SlabCut.vue'
import SlabLegend from './SlabLegend.vue'

/** What goes on within one slab or wall, seen from outside: coloured bands with figures, a legend, and a cut through it. */
const bench = useWorkbench()
const holder = useTemplateRef<HTMLElement>('holder')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(holder)
const picture = useSlabPicture(width, height)
const { slab, quantity, meant, bands, legend, figures, crosses, cut, section } = picture
const sense = computed(() => {
  if (quantity.value === 'w') return slab.value?.upright ? 'positive inwards' : 'positive downwards'
  if (quantity.value.startsWith('m'))
    return `positive: tension ${slab.value?.upright ? 'inside' : 'below'}; m_x bends along x`
  return quantity.value.startsWith('n') ? 'positive: tension' : ''
})
/** About how much the cells are too coarse for. */
const coarse = computed(() => {
  const share = 100 * (slab.value?.coarse ?? 0)
  return share < 0.1 ? 'below 0.1 %' : `about ${share.toFixed(share < 10 ? 1 : 0)} %`
})
watchPostEffect(() => {
  const board = canvas.value
  if (!board || !width.value) return
  const fine = window.devicePixelRatio || 1
  board.width = Math.round(width.value * fine)
  board.height = Math.round(height.value * fine)
  const pen = board.getContext('2d')
  if (!pen) return
  pen.setTransform(fine, 0, 0, fine, 0, 0)
  for (const { colour, path } of bands.value) {
    pen.fillStyle = pen.strokeStyle = colour
    // a hair wider, so that no seam shows between cells
    pen.lineWidth = 0.7
    pen.fill(path)
    pen.stroke(path)
  }
})
const read = ref<ReturnType<typeof picture.readAt>>(null)
let from: readonly [number, number] | null = null
const place = (e: PointerEvent) => {
  const box = holder.value!.getBoundingClientRect()
  return [e.clientX - box.left, e.clientY - box.top] as const
}
function down(e: PointerEvent) {
  from = place(e)
}
function move(e: PointerEvent) {
  const now = place(e)
  read.value = picture.readAt(...now)
  if (from && Math.hypot(now[0] - from[0], now[1] - from[1]) > 6)
    cut.value = [picture.back(...from), picture.back(...now)]
}
const up = () => (from = null)
useEventListener(window, 'pointerup', up)
</script>

<template>
  <div ref="holder" class="slab">
    <canvas ref="canvas" aria-hidden="true" />
    <svg
      v-if="slab && width"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`${slab.name}: ${meant.words}, ${slab.words}`"
      @pointerdown="down"
      @pointermove="move"
      @pointerleave="read = null"
    >
      <path v-for="(d, i) in picture.openings.value" :key="`o${i}`" :d="d" class="opening" />
      <path v-for="m in picture.members.value" :key="m.name" :d="m.d" class="beam">
        <title>{{ m.name }}</title>
      </path>
      <path :d="picture.outline.value" class="edge" />
      <path v-for="(d, i) in picture.held.value" :key="`h${i}`" :d="d" class="held" />
      <rect v-for="(p, i) in picture.columns.value" :key="`c${i}`" :x="p[0] - 4" :y="p[1] - 4" width="8" height="8" />
      <g v-if="crosses">
        <path :d="crosses.first" class="cross" />
        <path :d="crosses.second" class="cross second" />
      </g>
      <g>
        <text
          v-for="f in crosses ? figures.filter((one) => one.peak) : figures"
          :key="f.k"
          :x="f.x"
          :y="f.y + 4"
          :class="{ peak: f.peak }"
        >
          {{ f.text }}
        </text>
      </g>
      <path v-if="section" :d="section.line" class="cutline" />
    </svg>
    <header>
      <span>{{ slab?.upright ? 'Wall' : 'Slab' }} seen from {{ slab?.upright ? 'outside' : 'above' }}</span>
      <b>{{ bench.panel?.name }}</b>
      <em v-if="slab">{{ slab.thickness }} m {{ slab.material }} · told, not verified</em>
      <em
        v-if="slab && slab.kind !== 'mode'"
        title="Of the energy of bending, from how moments change within cells (Zienkiewicz and Zhu 1987). Half the width of the cells leaves about a quarter of it; at point supports it hardly falls"
        >{{ slab.cells.length }} cells, {{ coarse }} too coarse</em
      >
    </header>
    <SlabControls :picture="picture" />
    <SlabLegend
      v-if="legend.length"
      class="legend"
      :bands="legend"
      :title="`${meant.sign}, ${meant.unit}`"
      :sense="sense"
    />
    <p v-if="read" class="read mono">x {{ read.x.toFixed(2) }} · y {{ read.y.toFixed(2) }} m: {{ read.words }}</p>
    <p v-else-if="!section" class="read">Drag over it to cut through it.</p>
    <p v-if="picture.problem.value" class="none" role="alert">{{ picture.problem.value }}</p>
    <SlabCut
      v-if="section"
      :section="section"
      :sign="meant.sign"
      :unit="meant.unit"
      :line="meant.line"
      :said="picture.said"
      @close="cut = null"
    />
    <svg v-if="slab" class="axes" width="46" height="46" aria-hidden="true">
      <path d="M10 36H36M10 36V10M36 36l-5 -3v6zM10 10l-3 5h6z" />
      <text x="38" y="33">x</text>
      <text x="14" y="12">y</text>
    </svg>
  </div>
</template>

<style scoped>
.slab {
  position: absolute;
  inset: 0;
  background: var(--sheet);
}
canvas,
.slab > svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.slab > svg {
  cursor: crosshair;
  touch-action: none;
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
.opening {
  fill: var(--sheet);
  stroke: var(--ink-2);
  stroke-width: 1;
}
.beam {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.2;
  stroke-dasharray: 10 3 2 3;
  opacity: 0.6;
}
.edge {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
}
.held {
  fill: none;
  stroke: var(--ink);
  stroke-width: 5;
  stroke-dasharray: 2 4;
}
rect {
  fill: var(--ink);
}
text {
  font: 400 11px var(--mono);
  text-anchor: middle;
  fill: var(--ink);
  paint-order: stroke;
  stroke: rgb(252 251 248 / 75%);
  stroke-width: 2.5px;
  pointer-events: none;
}
.peak {
  font: 600 13px var(--mono);
}
.cross {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.second {
  stroke-dasharray: 3 2;
}
.cutline {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 2.2;
}
.read {
  position: absolute;
  left: 66px;
  bottom: 8px;
  margin: 0;
  font-size: 12px;
  color: var(--ink-2);
}
.slab > .axes {
  inset: auto auto 4px 8px;
  width: 46px;
  height: 46px;
  pointer-events: none;
}
.axes path {
  fill: var(--ink-2);
  stroke: var(--ink-2);
}
.none {
  position: relative;
  margin: 110px auto 0;
  max-width: 46ch;
  padding: 12px 16px;
  background: var(--oxide-soft);
  border-left: 4px solid var(--oxide);
}
</style>
