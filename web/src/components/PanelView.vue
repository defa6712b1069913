<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { NATURE_COLOURS } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import { useBearing } from '../view/bearing'
import { usePanelLoadHands } from '../view/panelLoadHands'
import { usePanelSheet } from '../view/panelSheet'
import PanelHands from './frame/PanelHands.vue'
import PanelLoadHands from './frame/PanelLoadHands.vue'
import PanelScale from './frame/PanelScale.vue'

/** One panel laid flat, seen from outside: its wind zones, or the pressures of the case that is shown. */
const bench = useWorkbench()
const holder = ref<HTMLElement>()
const { width, height } = useElementSize(holder)
const bearing = useBearing()
const { bends } = bearing
const view = usePanelSheet(width, height)
const {
  panel,
  nature,
  at,
  outline,
  carriers,
  taken,
  loads,
  shown,
  pointed,
  total,
  title,
  scales,
  bottom,
  side,
  blows,
} = view
const hold = usePanelLoadHands(bench, view, holder)
/** A pressure by hand is chosen, to be changed; what was found otherwise is traced. */
function point(event: MouseEvent, spot: NonNullable<typeof bench.spot>) {
  if (!hold.choose(event)) bench.spot = spot
}
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
      <g
        v-for="p in shown"
        :key="p.key"
        class="zone"
        :class="{ on: pointed(p), narrow: p.narrow }"
        @click="point($event, p.spot)"
      >
        <path :d="p.d" :fill="p.fill" />
        <path v-if="p.presses" :d="p.d" fill="url(#push)" class="over" />
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
      <PanelLoadHands :hold="hold" />
      <PanelHands :panel="panel" :at="at" />
      <PanelScale :scales="scales" :at="at" :bottom="bottom" :side="side" />
    </svg>
    <footer v-if="panel">
      <span><i class="pull" /> suction</span
      ><span><i class="press" :style="{ borderColor: NATURE_COLOURS[nature] }" /> pressure</span>
      <span
        >{{ total.toFixed(1) }} m² ·
        {{
          bends
            ? `bends by itself, joined to ${panel.carriers.length} members along their length`
            : `${panel.carriers.length} carriers · spans ${panel.two_way ? 'two ways' : 'one way'}`
        }}</span
      >
      <span v-if="bearing.selected.value && !bends">
        <i class="takes" /> {{ bench.member?.label }}
        {{ bearing.selected.value === 'bears' ? `takes ${taken.area.toFixed(1)} m²` : 'bears none of it' }}
        <ElButton
          v-if="bearing.may.value"
          link
          type="primary"
          size="small"
          @click="
            bearing.selected.value === 'bears' ? bearing.leaveOut(bench.selected) : bearing.takeIn(bench.selected)
          "
          >{{ bearing.selected.value === 'bears' ? 'leave it out' : 'let it bear' }}</ElButton
        >
      </span>
      <span v-if="panel.excluded.length">{{ panel.excluded.length }} left out</span>
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
.zone.narrow path:first-child {
  stroke: var(--ink);
  stroke-width: 7;
  stroke-linecap: round;
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
