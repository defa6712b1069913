<script setup lang="ts">
import { figures, temper } from '../lib/temper'

defineProps<{ use: number | null; status?: string }>()
</script>

<template>
  <span class="use">
    <span class="track"
      ><i
        :class="{ hatched: (use ?? 0) > 1, open: status === 'not covered' }"
        :style="{
          width: `${Math.min(use ?? 0, 1.2) * 83.3}%`,
          ...((use ?? 0) > 1 || status === 'not covered' ? {} : { background: temper(use) }),
        }"
    /></span>
    <b class="mono" :class="{ fails: (use ?? 0) > 1 }"
      >{{ status === 'not covered' ? 'not covered' : figures(use) }}{{ (use ?? 0) > 1 ? ' fails' : '' }}</b
    >
  </span>
</template>

<style scoped>
.use {
  display: flex;
  align-items: center;
  gap: 8px;
}
.track {
  position: relative;
  width: 150px;
  height: 9px;
  background: #eeeae0;
}
.track i {
  position: absolute;
  inset: 0 auto 0 0;
}
.track i.hatched {
  background: var(--hatch);
}
/* what is not covered has no colour of the scale */
.track i.open {
  background: #fff;
  border: 1px dashed var(--ink-2);
}
.track::after {
  content: '';
  position: absolute;
  left: 83.3%;
  top: -2px;
  bottom: -2px;
  width: 1px;
  background: var(--ink);
}
b {
  font-size: 12px;
  font-weight: 400;
}
b.fails {
  font-weight: 600;
}
</style>
