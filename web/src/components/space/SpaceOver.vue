<script setup lang="ts">
/** What is written over the view in three dimensions: figures, the selected member, and the handles of a chosen load. */
import { toRef, useTemplateRef } from 'vue'
import type { Seen } from '../../lib/loadTracks'
import type { Member } from '../../stores/workbench'
import { useLoadHands } from '../../view/loadHands'
import type { Bench } from '../../view/plane'
import { usePanelInSpace } from '../../view/panelInSpace'
import { usePanelLoadHands } from '../../view/panelLoadHands'
import LoadHandles from '../frame/LoadHandles.vue'
import PanelLoadHands from '../frame/PanelLoadHands.vue'

const props = defineProps<{
  bench: Bench
  written: readonly { x: number; y: number; text: string }[]
  label: { x: number; y: number; text: string; fails: boolean } | null
  members: readonly Member[]
  /** where a place is seen, from where is looked now */
  eye: (place: readonly number[]) => Seen | null
}>()
const over = useTemplateRef<HTMLElement>('over')
const holder = toRef(() => over.value ?? undefined)
const hold = useLoadHands(props.bench, { members: toRef(() => props.members), at: (place) => props.eye(place) }, holder)
const onPanel = usePanelLoadHands(
  props.bench,
  usePanelInSpace(props.bench, (place) => props.eye(place)),
  holder,
)
</script>

<template>
  <div ref="over" class="over">
    <svg role="group" aria-label="Loads in the view">
      <LoadHandles :hold="hold" whole />
      <PanelLoadHands v-if="onPanel.may.value" :hold="onPanel" edge />
    </svg>
    <span
      v-for="(f, i) in written"
      :key="i"
      class="figure mono"
      :style="{ left: `${f.x}px`, top: `${f.y}px` }"
      aria-hidden="true"
      >{{ f.text }}</span
    >
    <div
      v-if="label && !hold.hands.value && !onPanel.corners.value.length"
      class="label mono"
      :class="{ fails: label.fails }"
      :style="{ left: `min(${label.x}px, 100% - ${label.text.length}ch - 28px)`, top: `${label.y}px` }"
    >
      {{ label.text }}
    </div>
  </div>
</template>

<style scoped>
.over {
  position: absolute;
  inset: 0;
  overflow: hidden;
  pointer-events: none;
}
svg {
  position: absolute;
  width: 100%;
  height: 100%;
}
.label {
  position: absolute;
  transform: translate(10px, -26px);
  background: var(--sheet);
  border: 1px solid var(--chalk);
  font-size: 11.5px;
  padding: 2px 6px;
  white-space: nowrap;
}
.figure {
  position: absolute;
  transform: translate(-50%, -50%);
  font-size: 11px;
  color: var(--ink);
  background: rgb(250 249 246 / 78%);
  padding: 0 2px;
}
</style>
