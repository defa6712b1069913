<script setup lang="ts">
/** The steel itself: by its role, or by what it reaches along it. */
import { temper } from '../../lib/temper'
import type { usePlane } from '../../view/plane'
import type { useResults } from '../../view/results'
import type { useSteel } from '../../view/steel'

const props = defineProps<{
  plane: ReturnType<typeof usePlane>
  steel: ReturnType<typeof useSteel>
  results: ReturnType<typeof useResults>
  dimmed: Set<string>
}>()
const { coloured } = props.plane
const { haunches } = props.steel
const { pieces, plain } = props.results
</script>

<template>
  <path
    v-for="p in plain"
    :key="p.m.name"
    class="plain"
    :class="{ faded: dimmed.has(p.m.name), bar: p.m.behaviour !== 'beam', light: coloured }"
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
</template>

<style scoped>
.haunch {
  fill: none;
  stroke: var(--ink-2);
  stroke-width: 1.4;
}
.haunch.faded {
  opacity: 0.15;
}
.over {
  stroke: url(#hatch);
  stroke-width: 7;
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
</style>
