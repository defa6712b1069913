<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { NATURE_COLOURS } from '../../lib/temper'
import { useWorkbench } from '../../stores/workbench'

/** A combination as factors on its cases, the greatest first within each nature; a case is shown in Actions by choosing it. */
const props = defineProps<{ combination: Schemas['CombinationOut'] }>()
const bench = useWorkbench()
const ORDER = ['permanent', 'imposed', 'snow', 'wind', 'other', 'accidental', 'seismic', 'imperfection']
const rows = computed(() => {
  const cases = bench.lists.cases
  const found = props.combination.factors.flatMap(([number, factor]) => {
    const of = cases[number]
    return of ? [{ of, factor, at: ORDER.indexOf(of.nature) }] : []
  })
  const most = Math.max(...found.map((f) => Math.abs(f.factor)), 1)
  return found
    .sort((a, b) => a.at - b.at || Math.abs(b.factor) - Math.abs(a.factor))
    .map((f) => ({
      ...f,
      width: `${(Math.abs(f.factor) / most) * 100}%`,
      colour: NATURE_COLOURS[f.of.nature] ?? '#56626c',
    }))
})
function show(symbol: string) {
  bench.stage = 'actions'
  bench.show(symbol)
}
</script>

<template>
  <ul class="factors" :aria-label="`Factors of ${combination.name}`">
    <li v-for="r in rows" :key="r.of.symbol">
      <ElButton class="bare" :title="`${r.of.name}: show it in Actions`" @click="show(r.of.symbol)">
        <b class="mono">{{ r.of.symbol }}</b>
        <span class="bar"><i :style="{ width: r.width, background: r.colour }" /></span>
        <b class="mono value">{{ Number(r.factor.toPrecision(4)) }}</b>
        <span class="name">{{ r.of.name }}</span>
      </ElButton>
    </li>
  </ul>
</template>

<style scoped>
.factors {
  list-style: none;
  margin: 2px 0 8px;
  padding: 0 12px;
}
button {
  display: grid;
  grid-template-columns: 34px 64px 44px minmax(0, 1fr);
  gap: 7px;
  align-items: center;
  width: 100%;
  padding: 2px 0;
  border: 0;
  background: none;
  color: var(--ink);
  font: 400 12.5px var(--condensed);
  text-align: left;
  cursor: pointer;
}
button:hover,
button:focus-visible {
  background: var(--chalk-soft);
}
.bar {
  height: 9px;
  background: var(--line-soft);
}
.bar i {
  display: block;
  height: 100%;
}
b {
  font-weight: 400;
  font-size: 12px;
}
.value {
  text-align: right;
}
.name {
  color: var(--ink-2);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
