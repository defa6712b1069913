<script setup lang="ts">
/** Charts of a study: against what is varied most, by a measure, or all set-outs across everything. */
import { ElSegmented } from 'element-plus'
import { defineAsyncComponent, ref } from 'vue'
import { MEASURES, type Measure } from '../lib/studyChart'

const StudyChart = defineAsyncComponent(() => import('./StudyChart.vue'))
const StudyParallel = defineAsyncComponent(() => import('./StudyParallel.vue'))
const kind = ref<'along' | 'across'>('along')
const measure = ref<Measure>('steel')
const KINDS = [
  { value: 'along', label: 'Along one' },
  { value: 'across', label: 'Across all' },
]
const BY = Object.entries(MEASURES).map(([value, m]) => ({ value, label: m.words }))
</script>

<template>
  <div class="charts">
    <p class="choice">
      <ElSegmented v-model="kind" :options="KINDS" size="small" aria-label="Kind of chart" />
      <ElSegmented v-if="kind === 'along'" v-model="measure" :options="BY" size="small" aria-label="Measured by" />
      <small v-else>Draw on an axis to keep the set-outs that pass through there.</small>
    </p>
    <StudyChart v-if="kind === 'along'" :measure="measure" />
    <StudyParallel v-else />
  </div>
</template>

<style scoped>
.charts {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
}
.choice {
  display: flex;
  gap: 14px;
  align-items: center;
  margin: 4px 12px 0;
}
small {
  font: 400 12px var(--condensed);
  color: var(--ink-2);
}
</style>
