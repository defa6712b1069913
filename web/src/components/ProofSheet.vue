<script setup lang="ts">
import { ElButton, ElOption, ElOptionGroup, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { useAnswer } from '../api/queries'
import { figures } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import { useBeside } from '../view/proofBeside'
import PrintDrawer from './PrintDrawer.vue'
import ProofSteps from './ProofSteps.vue'

const props = defineProps<{ criterion: string; combination: string }>()
const emit = defineEmits<{ close: []; criterion: [name: string, combination?: string]; combination: [name: string] }>()
const bench = useWorkbench()
const { data: proof, problem: own } = useAnswer('/api/projects/{project_id}/proof', () => {
  const [now, member, revision] = [bench.project, bench.member, bench.chain?.revision]
  if (!now || !member) return null
  const query = { member: member.name, criterion: props.criterion, combination: props.combination, revision }
  return { path: { project_id: now.id }, query }
})
const { combinations, groups, key, query, chosen, told, steps, problem } = useBeside(
  () => props.criterion,
  computed(() => proof.value?.combination ?? ''),
)
const wrong = computed(() => [own.value, problem.value].filter(Boolean).join(' '))
const names = computed<[string, string]>(
  () => chosen.value?.names ?? [proof.value?.combination ?? '', chosen.value?.combination ?? ''],
)
/** The other column is done to the member, and everything computed anew. */
async function take() {
  const [now, name] = [chosen.value, bench.member?.label]
  if (now?.asked) await bench.operate(`${name}: ${now.label}`, ...(now.asked.operations ?? []))
}
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
    <p v-if="wrong" class="note" role="alert">{{ wrong }}</p>
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
            <ElOption v-for="c in combinations" :key="c.key" :value="c.key" :label="c.label" /> </ElSelect
        ></label>
        <label
          >beside
          <ElSelect
            v-model="key"
            size="small"
            filterable
            clearable
            :filter-method="(words: string) => (query = words)"
            default-first-option
            placeholder="a method, a length, any section, another combination"
            aria-label="Beside this proof"
          >
            <ElOptionGroup v-for="g in groups" :key="g.name" :label="g.name">
              <ElOption v-for="c in g.list" :key="c.key" :value="c.key" :label="c.label" />
            </ElOptionGroup> </ElSelect
        ></label>
      </p>
      <p v-if="told" class="told" role="status">
        With {{ chosen?.label }}, under the forces present:
        <b class="mono" :class="{ fails: (told.reaches ?? 0) > 1 }">{{
          told.reaches === null ? '–' : figures(told.reaches)
        }}</b>
        {{ told.governs.toLowerCase() }} governs{{
          told.without.length ? `; not looked at: ${told.without.join(', ')}` : ''
        }}
        <ElButton
          v-if="chosen?.takes && bench.mayChange"
          size="small"
          link
          type="primary"
          :title="`Do it to ${bench.member?.label} alone, and compute everything anew`"
          @click="take"
          >Take</ElButton
        >
      </p>
      <ProofSteps :steps="proof.steps" leads :fails="proof.utilisation > 1" :beside="steps" :names="names" />
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
.told {
  margin: 0 0 8px;
  font: 400 12.5px var(--condensed);
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
