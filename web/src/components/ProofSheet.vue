<script setup lang="ts">
import { ElButton, ElOption, ElSelect } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { useAnswer } from '../api/queries'
import { figures } from '../lib/temper'
import { useSingle } from '../stores/single'
import { useWorkbench } from '../stores/workbench'
import PrintDrawer from './PrintDrawer.vue'
import ProofSteps from './ProofSteps.vue'

const props = defineProps<{ criterion: string; combination: string }>()
const emit = defineEmits<{ close: []; criterion: [name: string, combination?: string]; combination: [name: string] }>()
const bench = useWorkbench()
const single = useSingle()
/** The combination whose proof stands beside. */
const other = ref('')
const told = (combination: () => string, wanted: () => boolean) =>
  useAnswer('/api/projects/{project_id}/proof', () => {
    const [now, member, revision] = [bench.project, bench.member, bench.chain?.revision]
    if (!now || !member || !wanted()) return null
    const query = { member: member.name, criterion: props.criterion, combination: combination(), revision }
    return { path: { project_id: now.id }, query }
  })
const { data: proof, problem: own } = told(
  () => props.combination,
  () => true,
)
const { data: beside, problem: next } = told(
  () => other.value,
  () => !!other.value,
)
const problem = computed(() => [own.value, next.value].filter(Boolean).join(' '))
watch(
  () => props.criterion,
  () => (other.value = ''),
)
/** Combinations of the use that the proof is for, those that come next to what governs first. */
const choices = computed(() => {
  const told = single.why?.criteria.find((c) => c.criterion === props.criterion)
  const near = new Map((told ? [told, ...told.next] : []).map((c) => [c.combination, c.utilisation]))
  const uses =
    props.criterion === 'variable'
      ? ['variable']
      : props.criterion === 'frequency'
        ? ['quasi-permanent']
        : ['deflection', 'sway', 'apart'].includes(props.criterion)
          ? ['deflection']
          : ['strength', 'accidental']
  const all = bench.lists.combinations.filter((c) => uses.includes(c.use))
  return all
    .map((c) => ({ name: c.name, formula: c.formula, near: near.get(c.name) }))
    .sort((a, b) => (b.near ?? -1) - (a.near ?? -1))
})
</script>

<template>
  <PrintDrawer :title="bench.member?.label ?? ''" :width="960" @close="emit('close')">
    <template #aside>
      {{ bench.member?.section }} · {{ bench.member?.material }} {{ proof ? bench.origin(proof.revision) : '' }}
    </template>
    <nav>
      <ElButton
        v-for="c in bench.member?.checks ?? []"
        :key="c.criterion"
        class="bare"
        :class="{ on: c.criterion === criterion }"
        @click="emit('criterion', c.criterion)"
      >
        {{ c.words }} <b class="mono" :class="{ fails: c.utilisation > 1 }">{{ figures(c.utilisation) }}</b>
      </ElButton>
    </nav>
    <p v-if="problem" class="note" role="alert">{{ problem }}</p>
    <template v-if="proof">
      <p class="lead">
        {{ proof.title }}, {{ proof.clause }}, in {{ proof.combination }} =
        <span class="mono">{{ proof.formula }}</span>
      </p>
      <p class="choose">
        <label
          >In
          <ElSelect
            :model-value="combination || proof.combination"
            size="small"
            filterable
            aria-label="Combination of the proof"
            @update:model-value="emit('combination', $event)"
          >
            <ElOption
              v-for="c in choices"
              :key="c.name"
              :value="c.name"
              :label="`${c.name}${c.near === undefined ? '' : ` · ${figures(c.near)}`} · ${c.formula}`"
            /> </ElSelect
        ></label>
        <label
          >beside
          <ElSelect
            v-model="other"
            size="small"
            filterable
            clearable
            placeholder="nothing"
            aria-label="Combination beside"
          >
            <ElOption
              v-for="c in choices"
              :key="c.name"
              :value="c.name"
              :label="`${c.name}${c.near === undefined ? '' : ` · ${figures(c.near)}`} · ${c.formula}`"
            /> </ElSelect
        ></label>
      </p>
      <ProofSteps
        :steps="proof.steps"
        leads
        :fails="proof.utilisation > 1"
        :beside="beside?.steps"
        :names="[proof.combination, beside?.combination ?? '']"
      />
      <template v-if="bench.member?.own?.remark">
        <h4>Remark</h4>
        <p class="remark">{{ bench.member.own.remark }}</p>
      </template>
      <h4>Taken as given</h4>
      <ul>
        <li v-for="a in proof.assumptions" :key="a">{{ a }}</li>
      </ul>
    </template>
  </PrintDrawer>
</template>

<style scoped>
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin-bottom: 10px;
}
nav button {
  font: 500 12px var(--condensed);
  border: 1px solid var(--line);
  background: var(--sheet);
  border-radius: 3px;
  padding: 3px 8px;
  cursor: pointer;
}
nav button.on {
  border-color: var(--ink);
}
nav b {
  font-weight: 400;
}
.lead {
  margin: 8px 0 12px;
}
.choose {
  display: flex;
  gap: 16px;
  margin: 0 0 8px;
  font: 400 12.5px var(--condensed);
  color: var(--ink-2);
}
.choose label {
  display: flex;
  align-items: center;
  gap: 6px;
  flex: 1;
}
h4 {
  padding-left: 0;
}
.remark {
  margin: 0 0 8px;
  white-space: pre-wrap;
}
</style>
