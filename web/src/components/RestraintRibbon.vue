<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { SAME, type Flange } from '../lib/ribbon'
import { ribbonView } from '../lib/placedView'
import { useSingle } from '../stores/single'
import { useWorkbench } from '../stores/workbench'
import { flangeWords, useRibbonHands } from '../view/ribbonHands'
import { INNER, OUTER, useRibbonPlan } from '../view/ribbonPlan'
import InDossier from './InDossier.vue'
import RibbonBuckled from './ribbon/RibbonBuckled.vue'
import RibbonHold from './ribbon/RibbonHold.vue'
import RibbonMoment from './ribbon/RibbonMoment.vue'
import RibbonSpans from './ribbon/RibbonSpans.vue'
import RibbonTip from './ribbon/RibbonTip.vue'

/** One member laid flat: what holds its flanges, its moment, its segments; restraints are put, moved and let go here. */
const bench = useWorkbench()
const single = useSingle()
const ribbon = computed(() => (single.ribbon?.member === bench.selected ? single.ribbon : null))

const holder = ref<HTMLElement>()
const { width: room } = useElementSize(holder, { width: 730, height: 236 })
const width = computed(() => Math.max(room.value, 300))

const plan = useRibbonPlan(
  ribbon,
  computed(() => bench.member),
  width,
)
const { length, X, inner, line, web, pressed, HEIGHT, roomy } = plan
const svg = ref<SVGSVGElement>()
const { pointed, placed, free, label, over, put, grab, drag, drop, nudge, dragging } = useRibbonHands(
  ribbon,
  plan,
  width,
  svg,
)
const FLANGES: Flange[] = ['outer', 'inner']
const wrong = ref('')
</script>

<template>
  <section ref="holder" class="ribbon" aria-label="Restraint ribbon">
    <header>
      <b>Restraint ribbon</b>
      <span class="key"><i class="thick" />compressed <i />in tension</span>
      <InDossier v-if="ribbon && bench.member" :placed="ribbonView(bench.selected, bench.member.label)" />
      <RibbonHold v-if="ribbon && bench.mayChange" v-model:wrong="wrong" :ribbon="ribbon" />
    </header>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <svg
      v-if="ribbon && ribbon.outer.length > 1"
      ref="svg"
      :class="{ behind: bench.stale }"
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      :height="HEIGHT"
      role="group"
      aria-label="Restraints of both flanges and the moment along the member"
      @pointerleave="pointed = null"
    >
      <text v-for="x in roomy(placed('outer'))" :key="`t${x}`" class="place" :x="X(x)" y="11">{{ x.toFixed(2) }}</text>
      <text class="side" x="8" :y="OUTER - 6">{{ ribbon.outer.length > 2 ? 'purlins, rails' : '' }}</text>
      <text class="side" x="8" :y="OUTER + 11">outer flange</text>
      <text class="side" x="8" :y="INNER - 3">inner flange</text>
      <text class="side" x="8" :y="INNER + 13">stays</text>
      <path class="web" :d="web" />
      <RibbonBuckled v-if="ribbon.buckled" :plan="plan" :buckled="ribbon.buckled" />
      <g v-for="f in FLANGES" :key="f">
        <RibbonSpans :plan="plan" :flange="f" :spans="f === 'outer' ? ribbon.outer_spans : ribbon.inner_spans" />
        <path class="flange" :d="line(f, 0, length)" />
        <path v-for="[a, b] in pressed(f)" :key="`c${a}`" class="flange pressed" :d="line(f, a, b)" />
        <path
          v-if="bench.mayChange"
          class="hit"
          :class="{ may: !!pointed }"
          :d="line(f, 0, length)"
          @pointermove="over($event, f)"
          @pointerleave="pointed = null"
          @click="put(f)"
        />
      </g>
      <path
        v-for="x in free"
        :key="`f${x}`"
        class="open"
        :d="`M${X(x)} ${inner(x) + 2}l-4.5 9h9z`"
        @pointermove="over($event, 'inner')"
        @click="put('inner')"
      />
      <template v-for="f in FLANGES" :key="f">
        <path
          v-for="x in placed(f)"
          :key="x"
          class="mark"
          :class="{ going: pointed?.held && pointed.flange === f && Math.abs(pointed.at - x) < SAME }"
          :d="f === 'outer' ? `M${X(x) - 4} ${OUTER - 10}h8v8h-8z` : `M${X(x)} ${inner(x) + 2}l-4.5 9h9z`"
          role="button"
          :tabindex="bench.mayChange ? 0 : -1"
          :aria-label="`${flangeWords(f)} held at ${x.toFixed(2)} m: let go`"
          @pointerenter="dragging() || (pointed = { flange: f, at: x, held: true })"
          @pointerleave="dragging() || (pointed = null)"
          @pointerdown="grab($event, f, x)"
          @pointermove="drag"
          @pointerup="drop"
          @keydown="nudge($event, f, x)"
        >
          <title>{{ flangeWords(f) }} held at {{ x.toFixed(2) }} m: drag it, or click to let go</title>
        </path>
      </template>
      <path
        v-if="pointed && (!pointed.held || pointed.to !== undefined)"
        class="ghost"
        :d="
          pointed.flange === 'outer'
            ? `M${X(pointed.to ?? pointed.at) - 4} ${OUTER - 10}h8v8h-8z`
            : `M${X(pointed.to ?? pointed.at)} ${inner(pointed.to ?? pointed.at) + 2}l-4.5 9h9z`
        "
      />
      <RibbonMoment :plan="plan" :combination="ribbon.combination" />
      <defs>
        <pattern id="over" width="6" height="6" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="#a8402a" />
          <rect width="2" height="6" fill="#7d2b1b" />
        </pattern>
      </defs>
    </svg>
    <p v-else-if="ribbon" class="note">Nothing bends it sideways: a bar, or a shape that does not twist.</p>
    <p v-else class="note">Laying the member flat…</p>
    <RibbonTip
      v-if="pointed"
      :style="{ left: `${Math.min(X(pointed.to ?? pointed.at) + 14, width - 250)}px` }"
      :words="label(pointed)"
      :hint="
        pointed.to !== undefined ? 'drop it here' : pointed.held ? 'click to let go, drag to move' : 'click to hold'
      "
    />
  </section>
</template>

<style scoped>
.ribbon {
  position: relative;
  height: 100%;
  overflow: auto hidden;
  background: var(--sheet);
  border-top: 1px solid var(--line);
}
header {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 5px 12px 3px;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
  white-space: nowrap;
}
header > b {
  font: 600 11.5px var(--condensed);
  letter-spacing: 0.05em;
}
.key {
  display: flex;
  align-items: center;
  gap: 5px;
}
.key i {
  width: 18px;
  border-top: 1px solid var(--ink);
}
.key i.thick {
  border-top-width: 4px;
}
.wrong {
  margin: 0;
  padding: 2px 12px;
  color: var(--oxide);
  font: 400 12px var(--condensed);
  text-align: right;
}
svg {
  display: block;
  width: 100%;
  touch-action: none;
}
svg.behind {
  opacity: 0.5;
}
.side {
  font: 400 11.5px var(--condensed);
  fill: var(--ink-2);
}
.place {
  font: 400 10.5px var(--mono);
  fill: var(--ink-2);
  text-anchor: middle;
}
.web {
  fill: var(--ink);
  fill-opacity: 0.045;
}
.flange {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
  pointer-events: none;
}
.flange.pressed {
  stroke-width: 4;
}
.hit {
  fill: none;
  stroke: transparent;
  stroke-width: 26;
  cursor: copy;
}
.mark {
  fill: var(--ink);
  stroke: transparent;
  stroke-width: 8;
  stroke-linejoin: round;
  cursor: grab;
  outline-offset: 2px;
}
.mark.going {
  fill: var(--oxide);
}
.mark:focus-visible {
  fill: var(--chalk);
}
.open {
  fill: #fff;
  stroke: var(--ink-3);
  stroke-width: 1;
  stroke-dasharray: 2 1.5;
  cursor: copy;
}
.ghost {
  fill: var(--chalk-soft);
  stroke: var(--chalk);
  stroke-dasharray: 3 2;
  pointer-events: none;
}
</style>
