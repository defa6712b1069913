<script setup lang="ts">
import { ElCollapse, ElCollapseItem, ElInputNumber, ElSegmented } from 'element-plus'
import { computed } from 'vue'
import OfficeKept from '../../components/OfficeKept.vue'
import { useSizing } from '../../stores/sizing'
import { useWorkbench } from '../../stores/workbench'
import StockPart from './StockPart.vue'

/** What is made least, and by which prices. */
const bench = useWorkbench()
const sizing = useSizing()
const off = computed(() => !bench.mayChange || sizing.runs)
const prices = computed(() => sizing.plan?.prices)
const FIELDS = [
  ['rolled', 'Rolled', 'by kg'],
  ['hollow', 'Hollow', 'by kg'],
  ['welded', 'Welded', 'by kg'],
  ['cold', 'Cold-formed', 'by kg'],
  ['weld', 'Seam', 'by m, 0: in the kg'],
  ['piece', 'Piece', 'each'],
  ['stay', 'Stay', 'each'],
  ['haunch', 'Haunch', 'each'],
  ['carbon', 'CO₂e', 'kg by kg'],
] as const
const aim = (value: unknown) => sizing.set('objective', value, value === 'cost' ? 'least cost' : 'least mass')
const reserve = (value: number | undefined) =>
  sizing.set('reserve', Math.round(value ?? 0) / 100, `${Math.round(value ?? 0)} % in reserve`)
const slender = (value: number | undefined) =>
  sizing.set('slenderness', value ?? 0, value ? `slenderness up to ${value}` : 'no limit of slenderness')
const set = (key: string, label: string, value: number | undefined) =>
  value !== undefined && sizing.set(`prices.${key}`, value, `${label} ${value}`)
</script>

<template>
  <h4>The search</h4>
  <div class="field-grid">
    <span>Goal</span>
    <ElSegmented
      size="small"
      :model-value="sizing.plan?.objective ?? 'mass'"
      :disabled="off"
      aria-label="Goal"
      :options="[
        { label: 'least mass', value: 'mass' },
        { label: 'least cost', value: 'cost' },
      ]"
      @change="aim"
    />
    <span>Keep in reserve, %</span>
    <ElInputNumber
      size="small"
      controls-position="right"
      :model-value="Math.round((sizing.plan?.reserve ?? 0) * 100)"
      :min="0"
      :max="50"
      :disabled="off"
      aria-label="Keep in reserve, per cent"
      @change="reserve"
    />
    <span>Slenderness at most <small>L_cr/i, practice, 0: none</small></span>
    <ElInputNumber
      size="small"
      controls-position="right"
      :model-value="sizing.plan?.slenderness ?? 250"
      :min="0"
      :max="1000"
      :step="10"
      :disabled="off"
      aria-label="Slenderness at most"
      @change="slender"
    />
  </div>
  <ElCollapse class="folds">
    <ElCollapseItem title="Prices, examples until yours stand here">
      <div v-if="prices" class="field-grid">
        <template v-for="[key, label, unit] in FIELDS" :key="key">
          <span
            >{{ label }} <small>{{ unit }}</small></span
          >
          <ElInputNumber
            size="small"
            controls-position="right"
            :model-value="prices[key]"
            :min="0"
            :step="['piece', 'stay', 'haunch'].includes(key) ? 5 : 0.1"
            :disabled="off"
            :aria-label="`${label} ${unit}`"
            @change="set(key, label, $event)"
          />
        </template>
      </div>
      <OfficeKept kind="prices" />
    </ElCollapseItem>
    <ElCollapseItem title="What is on stock, what is avoided">
      <StockPart />
    </ElCollapseItem>
  </ElCollapse>
</template>

<style scoped>
small {
  color: var(--ink-2);
  font-size: 11px;
}
</style>
