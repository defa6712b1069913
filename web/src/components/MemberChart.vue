<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, useTemplateRef } from 'vue'
import { at, SERIES } from '../lib/chart'
import { pictureOf } from '../lib/picture'
import { fixed } from '../lib/quantity'
import { csv, save } from '../lib/table'
import { useWorkbench } from '../stores/workbench'
import { useMemberChart } from '../view/memberChart'

/** All diagrams of one member over its length, the envelope behind them, and a cursor that reads every value. */
const bench = useWorkbench()
const {
  run,

  WIDTH,
  HEIGHT,
  cursor,
  length,
  envelope,
  x,
  rows,
  relative,
  bends,
  base,
  foot,
  reads,
  read,
  point,
  step,
  loads,
  outer,
  inner,
} = useMemberChart()
const picture = useTemplateRef<SVGSVGElement>('picture')
const file = computed(() => `${bench.selected.replaceAll('/', '-')}-${bench.diagram?.state.replaceAll(':', '-')}`)
function saveTable() {
  const r = run.value!
  const names = SERIES.flatMap((s) =>
    envelope.value ? [`${s.word} greatest ${s.unit}`, `${s.word} least ${s.unit}`] : [`${s.word} ${s.unit}`],
  )
  const body = r.x.map((place, i) => [
    place,
    ...SERIES.flatMap((s) => (envelope.value ? [r[s.key][i]!, r[s.least][i]!] : [r[s.key][i]!])),
    ...(r.displacement[i] ?? []),
  ])
  const moved = r.displacement.length ? ['X mm', 'Y mm', 'Z mm'] : []
  const words = bench.origin(bench.diagram!.revision)
  save(`${file.value}.csv`, csv(['x m', ...names, ...moved, words], body))
}
function savePicture() {
  const words = `${bench.selected}, ${bench.diagram!.state}, ${bench.origin(bench.diagram!.revision)}`
  save(`${file.value}.svg`, pictureOf(picture.value!, words), 'image/svg+xml')
}
</script>

<template>
  <div v-if="run" class="chart">
    <svg
      ref="picture"
      :viewBox="`0 0 ${WIDTH} ${foot + 26}`"
      role="group"
      :aria-label="`Diagrams of ${bench.member?.label}`"
      tabindex="0"
      @pointermove="point"
      @pointerleave="cursor = null"
      @keydown.left.prevent="step(-1)"
      @keydown.right.prevent="step(1)"
    >
      <g v-for="(r, i) in rows" :key="r.key" :transform="`translate(0 ${i * (HEIGHT + 14)})`">
        <text x="0" y="9" font-size="10" fill="#5b6470">{{ r.word }} {{ r.unit }}</text>
        <text :x="WIDTH" y="9" font-size="10" text-anchor="end" fill="#1c2530" class="read">
          {{ read(r.key) || r.peaks }}
        </text>
        <g transform="translate(0 12)">
          <path v-if="r.envelope" :d="r.envelope" fill="#e6e1d6" stroke="none" />
          <line x1="0" :y1="HEIGHT / 2" :x2="WIDTH" :y2="HEIGHT / 2" stroke="#b8b09f" stroke-width="1" />
          <path :d="r.value" fill="#5f7382" fill-opacity="0.16" stroke="#3d5566" stroke-width="1.3" />
          <path v-if="r.other" :d="r.other" fill="none" stroke="#a4502a" stroke-width="1.3" stroke-dasharray="5 3" />
          <path v-if="envelope" :d="r.most" fill="none" stroke="#3d5566" stroke-width="1.3" />
        </g>
      </g>
      <g v-for="(b, i) in bends" :key="b.k" :transform="`translate(0 ${(rows.length + i) * (HEIGHT + 14)})`">
        <text x="0" y="9" font-size="10" fill="#5b6470">w_{{ b.k }} mm{{ relative ? ', from the chord' : '' }}</text>
        <text :x="WIDTH" y="9" font-size="10" text-anchor="end" fill="#1c2530">
          {{ reads ? fixed(at(run!.x, b.own, reads.place), 1) : b.most }}
        </text>
        <g transform="translate(0 12)">
          <line x1="0" :y1="HEIGHT / 2" :x2="WIDTH" :y2="HEIGHT / 2" stroke="#b8b09f" stroke-width="1" />
          <path :d="b.line" fill="none" stroke="#3d5566" stroke-width="1.3" />
          <path v-if="b.beside" :d="b.beside" fill="none" stroke="#a4502a" stroke-width="1.3" stroke-dasharray="5 3" />
        </g>
      </g>
      <g v-for="(l, i) in loads" :key="l.word" :transform="`translate(0 ${base + 4 + i * 36})`">
        <text x="0" y="6" font-size="10" fill="#5b6470">
          {{ l.word }} {{ l.most > 0.005 ? `up to ${l.most.toFixed(2)} kN/m` : '' }}
        </text>
        <g transform="translate(0 9)">
          <path v-for="(d, k) in l.shapes" :key="k" :d="d" fill="#a97b22" fill-opacity="0.16" stroke="#8a6313" />
          <g v-for="(p, k) in l.pushes" :key="`p${k}`">
            <path
              :d="`M${x(p.at)} ${p.value < 0 ? -1 : 25}V12m-3 ${p.value < 0 ? -4 : 4}l3 ${p.value < 0 ? 4 : -4}l3 ${p.value < 0 ? -4 : 4}`"
              fill="none"
              stroke="#8a6313"
              stroke-width="1.3"
            />
            <text
              :x="Math.min(Math.max(x(p.at), 14), WIDTH - 14)"
              y="-2"
              font-size="10"
              text-anchor="middle"
              fill="#6d4f10"
            >
              {{ p.text }} kN
            </text>
          </g>
          <line x1="0" y1="12" :x2="WIDTH" y2="12" stroke="#b8b09f" stroke-width="1" />
        </g>
      </g>
      <g :transform="`translate(0 ${foot + 8})`">
        <line x1="0" y1="0" :x2="WIDTH" y2="0" stroke="#1c2530" stroke-width="3" />
        <path v-for="p in outer" :key="`o${p}`" :d="`M${x(p) - 3} -7h6l-3 5z`" fill="#1c2530" />
        <path v-for="p in inner" :key="`i${p}`" :d="`M${x(p) - 3} 7h6l-3 -5z`" fill="#1c2530" />
        <text x="0" y="16" font-size="10" fill="#5b6470">0</text>
        <text :x="WIDTH" y="16" font-size="10" text-anchor="end" fill="#5b6470">{{ length.toFixed(2) }} m</text>
        <text v-if="reads" :x="WIDTH / 2" y="16" font-size="10" text-anchor="middle" fill="#1c2530">
          x = {{ reads.place.toFixed(2) }} m{{ reads.moved === null ? '' : `, moved ${reads.moved.toFixed(1)} mm` }}
        </text>
      </g>
      <line
        v-if="reads"
        :x1="x(reads.place)"
        :x2="x(reads.place)"
        y1="10"
        :y2="foot + 8"
        stroke="#1d6480"
        stroke-width="1"
      />
    </svg>
    <p class="note">Grey behind: the envelope of strength. Marks: where the outer (above) and inner flange are held.</p>
    <p class="buttons">
      <ElButton v-if="bends.length" size="small" :aria-pressed="relative" @click="relative = !relative">
        {{ relative ? 'Absolute movement' : 'From the chord' }}
      </ElButton>
      <ElButton size="small" @click="saveTable">Save CSV</ElButton>
      <ElButton size="small" @click="savePicture">Save picture</ElButton>
    </p>
  </div>
</template>

<style scoped>
.chart svg {
  display: block;
  width: calc(100% - 24px);
  margin: 4px 12px;
  font-family: var(--mono);
  cursor: crosshair;
}
</style>
