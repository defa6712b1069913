<script setup lang="ts">
import { ElDrawer } from 'element-plus'
import { ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { figures } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import TexText from './TexText.vue'

const props = defineProps<{ criterion: string }>()
const emit = defineEmits<{ close: []; criterion: [name: string] }>()
const bench = useWorkbench()
const proof = ref<Schemas['ProofOut'] | null>(null)
const problem = ref('')

watch(
  () => [props.criterion, bench.selected, bench.chain?.revision] as const,
  async () => {
    const member = bench.member
    const now = bench.project
    if (!member || !now) return
    const { data } = await api.GET('/api/projects/{project_id}/proof', {
      params: {
        path: { project_id: now.id },
        query: { member: member.name, criterion: props.criterion, revision: bench.chain?.revision },
      },
    })
    proof.value = data ?? null
    problem.value = data ? '' : 'This proof could not be made.'
  },
  { immediate: true },
)
</script>

<template>
  <ElDrawer :model-value="true" size="min(900px, 94vw)" title="Proof" @close="emit('close')">
    <template #header>
      <div class="head">
        <b>{{ bench.member?.label }}</b>
        <span class="mono">{{ bench.member?.section }} · {{ bench.member?.material }}</span>
        <span class="mono">{{ proof ? bench.origin(proof.revision) : '' }}</span>
      </div>
    </template>
    <nav>
      <button
        v-for="c in bench.member?.checks ?? []"
        :key="c.criterion"
        :class="{ on: c.criterion === criterion }"
        @click="emit('criterion', c.criterion)"
      >
        {{ c.words }} <b class="mono" :class="{ fails: c.utilisation > 1 }">{{ figures(c.utilisation) }}</b>
      </button>
    </nav>
    <p v-if="problem" class="note">{{ problem }}</p>
    <template v-if="proof">
      <p class="lead">
        {{ proof.title }}, {{ proof.clause }}, in {{ proof.combination }} =
        <span class="mono">{{ proof.formula }}</span>
      </p>
      <ol>
        <li
          v-for="(step, i) in proof.steps"
          :key="i"
          :class="{ last: i === proof.steps.length - 1, fails: i === proof.steps.length - 1 && proof.utilisation > 1 }"
        >
          <div class="formula">
            <TexText :tex="step.formula ? `${step.symbol} = ${step.formula}` : step.symbol" />
            <TexText v-if="step.numbers" class="numbers" :tex="`= ${step.numbers}`" />
          </div>
          <b class="mono">{{ step.value }}</b>
          <span class="clause">{{ step.clause }}<br v-if="step.clause && step.words" />{{ step.words }}</span>
        </li>
      </ol>
      <h4>Taken as given</h4>
      <ul>
        <li v-for="a in proof.assumptions" :key="a">{{ a }}</li>
      </ul>
    </template>
  </ElDrawer>
</template>

<style scoped>
.head {
  display: flex;
  gap: 12px;
  align-items: baseline;
  color: var(--ink-2);
}
.head b {
  font: 600 19px var(--condensed);
  color: var(--ink);
}
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
ol {
  list-style: none;
  padding: 0;
  margin: 0;
}
ol li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px 150px;
  gap: 12px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line-soft);
  align-items: center;
}
ol li.last {
  border-top: 2px solid var(--ink);
  font-weight: 600;
}
ol li.fails b {
  color: var(--oxide);
}
.formula {
  display: flex;
  flex-direction: column;
  gap: 3px;
  overflow-x: auto;
  overflow-y: hidden;
  padding: 2px 0;
}
.numbers {
  color: var(--ink-2);
  padding-left: 18px;
  font-size: 0.84em;
}
ol b {
  text-align: right;
  font-weight: 400;
}
.clause {
  font: 400 11.5px/1.3 var(--condensed);
  color: var(--ink-2);
}
h4 {
  padding-left: 0;
}
</style>
