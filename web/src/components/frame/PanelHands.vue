<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { path, type Point } from '../../lib/drawing'
import { useWorkbench } from '../../stores/workbench'
import { useBearing } from '../../view/bearing'

/** Hands on a panel laid flat: what bears it and what does not is chosen, and it is turned where its span is not its jig's. */
const props = defineProps<{ panel: Schemas['PanelOut']; at: (p: readonly number[]) => Point }>()
const bench = useWorkbench()
const { byHand, may, label } = useBearing()

const turn = () =>
  bench.edit(`${props.panel.name} spans the other way`, [
    { path: `panels.${byHand.value}.span`, value: props.panel.across },
  ])

/** An arrow both ways along the span, between the middle and the first corner, where no beam across the middle lies under it. */
const span = computed(() => {
  const outline = props.panel.outline
  const middle = [0, 1].map((k) => outline.reduce((sum, p) => sum + p[k]!, 0) / outline.length)
  const [x, y] = props.at(middle.map((m, k) => 0.55 * m + 0.45 * outline[0]![k]!))
  const size = Math.hypot(...props.panel.span) || 1
  const [u, v] = [props.panel.span[0] / size, -props.panel.span[1] / size]
  const tip = (s: number): Point => [x + s * 26 * u, y + s * 26 * v]
  const barbs = [1, -1].map((s) => {
    const [px, py] = tip(s)
    const side = (k: number): Point => [px - s * 7 * u + k * 4 * v, py - s * 7 * v - k * 4 * u]
    return path([side(1), [px, py], side(-1)])
  })
  return { x, y, d: path([tip(-1), tip(1)]) + barbs.join('') }
})
const KEYS = ['Enter', ' ']
function press(event: KeyboardEvent, act: () => unknown) {
  if (!KEYS.includes(event.key)) return
  event.preventDefault()
  void act()
}
</script>

<template>
  <g class="hands">
    <path
      v-for="c in [...panel.excluded, ...panel.carriers]"
      :key="c.member"
      class="bearer"
      :class="{ not: panel.excluded.includes(c) }"
      :d="path(c.line.map(at))"
      role="button"
      tabindex="0"
      :aria-label="`${label(c.member)} ${panel.excluded.includes(c) ? 'bears none of it' : 'bears it'}`"
      @click.stop="bench.select(c.member)"
      @keydown="press($event, () => bench.select(c.member))"
    >
      <title>{{ label(c.member) }} {{ panel.excluded.includes(c) ? 'bears none of it' : 'bears it' }}</title>
    </path>
    <g
      v-if="may && byHand >= 0 && !panel.two_way"
      class="span"
      role="button"
      tabindex="0"
      :aria-label="`${panel.name} spans this way: turn it`"
      @click.stop="turn"
      @keydown="press($event, turn)"
    >
      <rect :x="span.x - 30" :y="span.y - 30" width="60" height="60" fill="transparent" />
      <path :d="span.d" />
      <title>Spans this way: click to turn it</title>
    </g>
  </g>
</template>

<style scoped>
.bearer {
  fill: none;
  stroke: transparent;
  stroke-width: 8;
  cursor: pointer;
}
.bearer:hover,
.bearer:focus-visible {
  stroke: var(--chalk);
  stroke-opacity: 0.4;
  outline: none;
}
.bearer.not {
  stroke: var(--ink-3);
  stroke-width: 2.5;
  stroke-dasharray: 2 5;
}
.span {
  cursor: pointer;
}
.span path {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 2.2;
}
</style>
