<script setup lang="ts">
/** What the colours of the three-dimensional view mean, and how it is moved. */
import { ElButton } from 'element-plus'
import { OXIDE, STEPS } from '../lib/temper'

defineProps<{ kinds: { kind: string; colour: string }[]; utilisation: boolean }>()
defineEmits<{ all: [] }>()
</script>

<template>
  <div class="legend mono" data-over="bottom">
    <template v-if="utilisation">
      <span v-for="step in STEPS" :key="step.upTo"
        ><i :style="{ background: step.colour }" />≤ {{ step.upTo.toFixed(2) }}</span
      >
      <span><i class="hatched" :style="{ borderColor: OXIDE }" />fails</span>
      <span><i class="open" />not covered</span>
    </template>
    <template v-else>
      <span v-for="k in kinds.slice(0, 8)" :key="k.kind"><i :style="{ background: k.colour }" />{{ k.kind }}</span>
      <span v-if="kinds.length > 8">and {{ kinds.length - 8 }} more</span>
    </template>
    <span>drag to turn, wheel to come nearer</span>
    <ElButton link type="primary" size="small" @click="$emit('all')">show all</ElButton>
  </div>
</template>

<style scoped>
.legend {
  position: absolute;
  left: 14px;
  bottom: 8px;
  display: flex;
  gap: 10px;
  align-items: center;
  font-size: 11px;
  color: var(--ink-2);
  flex-wrap: wrap;
  right: 14px;
  background: rgb(250 249 246 / 82%);
}
.legend span {
  white-space: nowrap;
  display: flex;
  align-items: center;
  gap: 4px;
}
.legend i {
  width: 16px;
  height: 9px;
}
.legend i.open {
  background: #fff;
  border: 1px dashed var(--ink-2);
}
.legend i.hatched {
  background: var(--hatch);
}
</style>
