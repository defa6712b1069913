<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { figures, temper } from '../../lib/temper'
import { useSingle } from '../../stores/single'
import { useWorkbench } from '../../stores/workbench'

/** Every criterion of the selected member, worst first, and the combinations that come next to what governs. */
const emit = defineEmits<{ proof: [criterion: string, combination?: string] }>()
const bench = useWorkbench()
const single = useSingle()
const next = computed(() => {
  const told = single.why?.member === bench.selected ? single.why.criteria : []
  return new Map(told.map((c) => [c.criterion, c.next]))
})
const rows = computed(() => bench.member?.checks ?? [])
const share = (u: number) => `${Math.min(u, 1.2) * 83.3}%`
</script>

<template>
  <h4>Criteria <span>worst first</span></h4>
  <div class="criteria">
    <template v-for="(c, i) in rows" :key="c.criterion">
      <ElButton class="bare" :title="`${c.clause}, ${c.formula}: open the proof`" @click="emit('proof', c.criterion)">
        <span>{{ c.words }}</span>
        <span class="track"
          ><i
            :class="{ hatched: c.utilisation > 1 }"
            :style="{
              width: share(c.utilisation),
              ...(c.utilisation > 1 ? {} : { background: temper(c.utilisation) }),
            }"
        /></span>
        <b class="mono" :class="{ fails: c.utilisation > 1 }">{{ figures(c.utilisation) }}</b>
        <em class="mono">{{ c.combination }}</em>
      </ElButton>
      <ElButton
        v-for="n in i ? [] : (next.get(c.criterion) ?? []).slice(0, 2)"
        :key="n.combination"
        class="bare next"
        :title="`${n.formula}: open the proof in it`"
        @click="emit('proof', c.criterion, n.combination)"
      >
        <span>next: {{ n.combination }}</span>
        <span />
        <b class="mono">{{ figures(n.utilisation) }}</b>
        <em class="mono">−{{ (c.utilisation - n.utilisation).toFixed(2) }}</em>
      </ElButton>
    </template>
  </div>
</template>

<style scoped>
.criteria {
  padding: 0 8px;
}
button {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 58px 34px 38px;
  gap: 6px;
  align-items: center;
  width: 100%;
  text-align: left;
  border: 0;
  background: none;
  padding: 1.5px 4px;
  font: 400 12.5px/1.25 var(--condensed);
  cursor: pointer;
}
button:hover {
  background: var(--chalk-soft);
}
.next {
  padding-left: 12px;
  color: var(--ink-2);
}
.track {
  position: relative;
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
.track::after {
  content: '';
  position: absolute;
  left: 83.3%;
  top: -2px;
  bottom: -2px;
  width: 1px;
  background: var(--ink);
}
b,
em {
  text-align: right;
  font-weight: 400;
  font-style: normal;
  font-size: 12px;
}
em {
  font-size: 11px;
  color: var(--ink-2);
}
b.fails {
  font-weight: 600;
}
</style>
