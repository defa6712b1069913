<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { figures } from '../../lib/temper'
import { useSingle } from '../../stores/single'
import { useWorkbench } from '../../stores/workbench'

/** Why what governs the selected member does: where it is checked, and which single input moves it most. */
const bench = useWorkbench()
const single = useSingle()
const why = computed(() => (single.why?.member === bench.selected ? single.why : null))
const levers = computed(() => why.value?.levers ?? [])
const moving = computed(() => levers.value.filter((l) => Math.abs(l.utilisation - now.value) >= 0.005))
const idle = computed(() => levers.value.filter((l) => Math.abs(l.utilisation - now.value) < 0.005))
const now = computed(() => bench.member?.utilisation ?? 0)
const most = computed(() => Math.max(0.05, ...levers.value.map((l) => Math.abs(l.utilisation - now.value))))
const SIGNS: Record<string, string> = {
  section: 'section',
  stay: 'stay',
  plate: 'web plate',
  stiffeners: 'stiffeners',
  load: 'load',
  'length y': 'L_cr,y',
  'length z': 'L_cr,z',
}
/** What a lever does to the model can be taken where it is something to build. */
const builds = (l: Schemas['LeverOut']) => ['stay', 'section', 'plate', 'stiffeners'].includes(l.kind)
const take = (l: Schemas['LeverOut']) => bench.operate(`${bench.member?.label}: ${l.words}`, ...l.operations)
const difference = (u: number) => {
  const by = u - now.value
  return `${by > 0.0005 ? '+' : by < -0.0005 ? '−' : '±'}${Math.abs(by).toFixed(2)}`
}
function bar(u: number) {
  const by = (u - now.value) / most.value
  return { left: `${by < 0 ? 50 + by * 50 : 50}%`, width: `${Math.abs(by) * 50}%` }
}
</script>

<template>
  <p v-if="why?.large" class="note">What moves it is not tried out in a building of this size.</p>
  <template v-if="why?.levers.length">
    <h4>What moves it <span>each solved with present forces</span></h4>
    <p v-if="why.where" class="note">{{ why.where }}</p>
    <ul>
      <li
        v-for="l in moving"
        :key="l.kind"
        :title="`${l.words}: ${l.governs.toLowerCase()} governs then${l.without.length ? `; not looked at: ${l.without.join(', ')}` : ''}`"
      >
        <span class="words"
          ><b>{{ SIGNS[l.kind] }}</b> {{ l.words }}{{ l.without.length ? ', strength alone' : '' }}</span
        >
        <span class="scale"><i :class="{ worse: l.utilisation > now }" :style="bar(l.utilisation)" /></span>
        <em class="mono" :class="{ worse: l.utilisation > now + 0.0005 }">{{ difference(l.utilisation) }}</em>
        <em class="mono" :class="{ fails: l.utilisation > 1 }">{{ figures(l.utilisation) }}</em>
        <ElButton
          v-if="builds(l) && bench.mayChange"
          size="small"
          link
          type="primary"
          :title="`Do it to ${bench.member?.label} alone, and compute everything anew`"
          @click="take(l)"
          >Take</ElButton
        ><span v-else />
      </li>
    </ul>
    <p v-if="idle.length" class="note">
      No difference: {{ idle.map((l) => `${SIGNS[l.kind]} ${l.words.split(',')[0]}`).join('; ') }}.
    </p>
  </template>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0 12px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 46px 38px 30px 30px;
  gap: 5px;
  align-items: center;
  padding: 1px 0;
  font: 400 12px/1.25 var(--condensed);
}
.words {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li b {
  font-weight: 600;
}
.scale {
  position: relative;
  height: 8px;
  background: linear-gradient(var(--ink-3), var(--ink-3)) 50% 0 / 1px 100% no-repeat;
}
.scale i {
  position: absolute;
  inset: 0 auto 0 auto;
  background: var(--current);
}
.scale i.worse {
  background: var(--hatch);
}
em {
  font-style: normal;
  font-size: 11.5px;
  text-align: right;
}
em.worse {
  color: var(--oxide);
}
</style>
