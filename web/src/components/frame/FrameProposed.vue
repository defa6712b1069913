<script setup lang="ts">
/** Axes as somebody proposes them, where they lie in the plane shown. */
import { computed } from 'vue'
import { path } from '../../lib/drawing'
import { PROPOSED } from '../../view/proposed'
import type { Bench, PlaneView } from '../../view/plane'

const props = defineProps<{ plane: PlaneView; bench: Bench }>()
const lying = computed(() =>
  props.bench.proposed
    .filter((ends) => ends.every((p) => Math.abs(props.plane.off(p)) < 0.05))
    .map((ends) => path(ends.map(props.plane.onSheet))),
)
</script>

<template>
  <path v-for="(d, k) in lying" :key="k" :d="d" :stroke="PROPOSED" />
</template>

<style scoped>
path {
  fill: none;
  stroke-width: 2.4;
  stroke-dasharray: 9 4;
}
</style>
