<script setup lang="ts">
/** Members that fit: above 0.9, not covered … In the ledger, and lit up in the views. */
import { ElButton, ElCheckTag } from 'element-plus'
import { computed } from 'vue'
import { FILTERS, type Filter } from '../../lib/filters'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
/** Filters with the number of members that fit; those that fit none are left out unless they are on. */
const filters = computed(() =>
  FILTERS.map((f) => ({ ...f, count: bench.lists.members.filter(f.test).length })).filter(
    (f) => f.count || bench.filters.has(f.key),
  ),
)
function toggle(key: Filter) {
  const next = new Set(bench.filters)
  if (!next.delete(key)) next.add(key)
  bench.filters = next
}
</script>

<template>
  <div v-if="filters.length" class="filters" role="group" aria-label="Members that">
    <ElCheckTag
      v-for="f in filters"
      :key="f.key"
      :checked="bench.filters.has(f.key)"
      role="button"
      tabindex="0"
      :aria-pressed="bench.filters.has(f.key)"
      @change="toggle(f.key)"
      @keydown.enter.space.prevent="toggle(f.key)"
      >{{ f.label }} <b class="mono">{{ f.count }}</b></ElCheckTag
    >
    <span v-if="bench.lit"
      >{{ bench.filters.size > 1 ? 'any of these: ' : '' }}{{ bench.lit.size }} of
      {{ bench.chain?.members?.length }}
      <ElButton link type="primary" size="small" @click="bench.filters = new Set()">show all</ElButton></span
    >
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 4px 12px;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
  border-bottom: 1px solid var(--line-soft);
  flex: none;
}
.filters :deep(.el-check-tag) {
  font: 500 12px var(--condensed);
  padding: 3px 8px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
  color: var(--ink);
}
.filters :deep(.el-check-tag.is-checked) {
  border-color: var(--ink);
  border-bottom-width: 2px;
  padding-bottom: 2px;
  background: var(--chalk-soft);
}
.filters b {
  font-weight: 400;
  color: var(--ink-2);
}
</style>
