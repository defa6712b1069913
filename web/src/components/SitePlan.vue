<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { TERRAIN } from '../lib/siteValues'
import { useSite } from '../stores/site'
import { useWorkbench } from '../stores/workbench'
import { useSitePlan } from '../view/sitePlan'
import NumberField from './NumberField.vue'
import OnDrawing from './OnDrawing.vue'
import PickList from './PickList.vue'

/** The building in plan, with what stands against the wind on each side. */
const props = defineProps<{ site: Schemas['SiteOut'] }>()
const { SIZE, CARD, bearing, width, length, outline, lines, bubbles, title, sides, neighbour, bar } = useSitePlan(
  () => props.site,
)
const bench = useWorkbench()
const { byDirection } = useSite()
/** What is stated of a side; the place's own terrain counts where nothing is. */
const wind = computed(() => bench.document?.wind)
const terrains = computed(() => [{ value: '', label: `${bench.document?.site?.terrain ?? 'II'} (place)` }, ...TERRAIN])
const direct = async (direction: string, value: number | null) =>
  (await byDirection('directional', direction, value)) ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
</script>

<template>
  <svg :viewBox="`0 0 ${SIZE.width} ${SIZE.height}`" role="group" aria-label="The building in its surroundings">
    <defs>
      <pattern id="terrain-0" width="16" height="8" patternUnits="userSpaceOnUse">
        <path d="M0 5 Q4 2 8 5 T16 5" class="water" />
      </pattern>
      <pattern id="terrain-I" width="22" height="12" patternUnits="userSpaceOnUse">
        <path d="M3 6 H9" class="flat" />
      </pattern>
      <pattern id="terrain-II" width="18" height="14" patternUnits="userSpaceOnUse">
        <path d="M4 9 Q5 5 7 4 M5.5 9 Q5 6 3 5 M13 4 Q14 1 16 0" class="grass" />
      </pattern>
      <pattern id="terrain-III" width="20" height="18" patternUnits="userSpaceOnUse">
        <circle cx="6" cy="6" r="3.4" class="tree" />
        <circle cx="15" cy="14" r="3.4" class="tree" />
      </pattern>
      <pattern id="terrain-IV" width="22" height="20" patternUnits="userSpaceOnUse">
        <path d="M2 3 H9 V9 H2 Z M13 11 H19 V18 H13 Z" class="block" />
      </pattern>
    </defs>
    <g v-for="s in sides" :key="s.direction">
      <path :d="s.wedge" class="ground" />
      <path :d="s.wedge" :fill="`url(#terrain-${s.terrain})`" />
      <path :d="s.wedge" class="between" />
    </g>
    <template v-if="neighbour">
      <path :d="neighbour.d" class="neighbour" />
      <text :x="neighbour.at[0]" :y="neighbour.at[1]" class="small" text-anchor="middle">taller building</text>
    </template>
    <path :d="outline" class="plan" />
    <path v-for="(d, i) in lines.frames" :key="`f${i}`" :d="d" class="frame" />
    <path v-for="(d, i) in lines.folds" :key="`r${i}`" :d="d" class="fold" />
    <g :transform="`translate(${title.at[0]} ${title.at[1]}) rotate(${title.turn})`">
      <text y="4" class="size" text-anchor="middle">{{ width.toFixed(2) }} × {{ length.toFixed(2) }} m</text>
    </g>
    <g v-for="(b, i) in bubbles" :key="`b${i}`">
      <circle :cx="b!.at[0]" :cy="b!.at[1]" r="8" class="bubble" />
      <text :x="b!.at[0]" :y="b!.at[1] + 4" class="small" text-anchor="middle">{{ b!.name }}</text>
    </g>
    <g v-for="s in sides" :key="`w${s.direction}`" class="wind">
      <path :d="s.shaft" class="shaft" />
      <path :d="s.head" class="head" />
      <rect :x="s.card[0]" :y="s.card[1]" :width="CARD.width" :height="CARD.height" rx="2" class="card" />
      <rect :x="s.card[0]" :y="s.card[1]" width="4" :height="CARD.height" class="edge" />
      <text :x="s.card[0] + 11" :y="s.card[1] + 16" class="name">from the {{ s.direction }}</text>
      <text :x="s.card[0] + CARD.width - 7" :y="s.card[1] + 16" class="mono" text-anchor="end">{{ s.degrees }}</text>
      <OnDrawing v-if="bench.mayChange" :x="s.card[0] + 10" :y="s.card[1] + 20" :width="CARD.width - 16">
        <PickList
          :model-value="wind?.terrains?.[s.direction] ?? ''"
          :options="terrains"
          :label="`Terrain to the ${s.direction}, on the plan`"
          @update:model-value="(value) => byDirection('terrains', s.direction, value || null)"
        />
        <NumberField
          label="c_dir"
          :path="`wind.directional.${s.direction}`"
          kind="factor"
          unit=""
          optional="1.0"
          :value="wind?.directional?.[s.direction]"
          :save="(value) => direct(s.direction, value)"
          hint="Directional factor (4.2)"
        />
      </OnDrawing>
      <text v-else :x="s.card[0] + 11" :y="s.card[1] + 37" class="small">
        {{ s.terrain }} · {{ s.words }} · c_dir {{ s.directional.toFixed(2) }}
      </text>
      <text :x="s.card[0] + CARD.width - 7" :y="s.card[1] + 61" class="mono strong" text-anchor="end">
        q_p {{ s.peak.toFixed(3) }} kN/m²
      </text>
    </g>
    <OnDrawing v-if="bench.mayChange" :x="SIZE.width - 158" :y="17" :width="108">
      <NumberField
        label="turned"
        path="site.bearing"
        kind="angle"
        optional="?"
        :value="bench.document?.site?.bearing"
        hint="Compass bearing of the way from the front to the back"
      />
    </OnDrawing>
    <g v-if="bearing !== null" transform="translate(706 30)">
      <circle r="17" class="bubble" />
      <path d="M0 -14 L5 6 L0 3 L-5 6 Z" class="head dark" />
      <text y="15" class="name" text-anchor="middle">N</text>
    </g>
    <g :transform="`translate(${SIZE.width - 24 - bar.width} ${SIZE.height - 12})`">
      <path :d="`M0 0 H${bar.width}`" class="bar" />
      <text y="-6" class="small" text-anchor="middle">0</text>
      <text :x="bar.width" y="-6" class="small" text-anchor="middle">{{ bar.metres }} m</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: 100%;
  display: block;
  font: 400 12px var(--condensed);
}
.ground {
  fill: #f4f1e8;
}
.between {
  fill: none;
  stroke: var(--line);
}
.water,
.flat,
.grass {
  fill: none;
  stroke: #c9c4ad;
  stroke-width: 1.2;
}
.water {
  stroke: #a9c6d1;
}
.tree {
  fill: #d5d9c0;
}
.block {
  fill: #ddd7c9;
}
.plan {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
.frame {
  stroke: var(--line);
}
.fold {
  stroke: var(--ink-2);
  stroke-dasharray: 9 3 2 3;
}
.neighbour {
  fill: #dcd5c6;
  stroke: var(--ink-2);
}
.bubble {
  fill: var(--sheet);
  stroke: var(--ink-2);
}
.shaft {
  stroke: var(--moss);
  stroke-width: 3;
}
.head {
  fill: var(--moss);
}
.head.dark {
  fill: var(--ink);
}
.card {
  fill: var(--sheet);
  stroke: var(--line);
}
.edge {
  fill: var(--moss);
}
text {
  fill: var(--ink);
}
.name {
  font-weight: 600;
}
.small {
  fill: var(--ink-2);
}
.mono,
.size {
  font-family: var(--mono);
}
.size {
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
}
.strong {
  font-weight: 600;
}
.bar {
  stroke: var(--ink);
  stroke-width: 4;
}
</style>
