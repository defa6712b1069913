<script setup lang="ts">
import { computed } from 'vue'

/** A cross-section drawn to a scale, standing on a line: mm of depth and width, of its web and flange. */
const props = defineProps<{
  section: { shape: string; h: number; b: number; tw: number; tf: number }
  /** Pixels by millimetre. */
  scale: number
  faint?: boolean
}>()
const px = (mm: number) => mm * props.scale
const w = computed(() => Math.max(px(props.section.b), 2))
const h = computed(() => Math.max(px(props.section.h), 2))
const tf = computed(() => Math.max(px(props.section.tf), 1))
const tw = computed(() => Math.max(px(props.section.tw), 1))
const kind = computed(() => {
  const { shape } = props.section
  if (shape === 'circular' || shape === 'round') return 'round'
  if (shape === 'square' || shape === 'rectangular') return 'box'
  if (shape.includes('angle')) return 'angle'
  if (shape.includes('channel')) return 'channel'
  if (shape === 'tee') return 'tee'
  return shape === 'I' ? 'I' : 'solid'
})
</script>

<template>
  <svg
    :width="w + 2"
    :height="h + 2"
    :viewBox="`-1 -1 ${w + 2} ${h + 2}`"
    :class="{ faint }"
    aria-hidden="true"
    focusable="false"
  >
    <g v-if="kind === 'I' || kind === 'tee' || kind === 'channel'">
      <rect :width="w" :height="tf" />
      <rect v-if="kind !== 'tee'" :y="h - tf" :width="w" :height="tf" />
      <rect :x="kind === 'channel' ? 0 : (w - tw) / 2" :width="tw" :height="h" />
    </g>
    <g v-else-if="kind === 'angle'">
      <rect :width="tw" :height="h" />
      <rect :y="h - tf" :width="w" :height="tf" />
    </g>
    <rect
      v-else-if="kind === 'box'"
      class="ring"
      :x="tw / 2"
      :y="tw / 2"
      :width="w - tw"
      :height="h - tw"
      :stroke-width="tw"
    />
    <circle
      v-else-if="kind === 'round'"
      class="ring"
      :cx="w / 2"
      :cy="h / 2"
      :r="Math.max((w - tw) / 2, 1)"
      :stroke-width="tw"
    />
    <rect v-else :width="w" :height="h" />
  </svg>
</template>

<style scoped>
svg {
  fill: var(--ink);
  stroke: none;
  display: block;
}
svg.faint {
  fill: var(--ink-3);
}
.ring {
  fill: none;
  stroke: var(--ink);
}
.faint .ring {
  stroke: var(--ink-3);
}
</style>
