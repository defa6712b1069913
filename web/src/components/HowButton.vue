<script setup lang="ts">
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { useAnswer } from '../api/queries'
import { useWorkbench } from '../stores/workbench'
import PrintDrawer from './PrintDrawer.vue'
import ProofSteps from './ProofSteps.vue'

/** Opens how a load or the factors of a combination came about, step by step. asked: what of, by name. */
const props = defineProps<{
  of: string
  words?: string
  asked: {
    direction?: string
    panel?: string
    zone?: string
    number?: number
    case?: string
    combination?: string
    secondary?: string
  }
}>()
const bench = useWorkbench()
const open = ref(false)
const { data, problem } = useAnswer('/api/projects/{project_id}/derivations', () =>
  open.value && bench.project && bench.chain
    ? { path: { project_id: bench.project.id }, query: { ...props.asked, revision: bench.chain.revision } }
    : null,
)
</script>

<template>
  <ElButton link type="primary" size="small" class="how" :title="`${of}, step by step`" @click="open = true">
    {{ words ?? 'How it comes about' }}
  </ElButton>
  <PrintDrawer v-if="open" :title="of" :width="820" @close="open = false">
    <template #aside>{{ bench.chain ? bench.origin(bench.chain.revision) : '' }}</template>
    <p v-if="problem" class="note" role="alert">{{ problem }}</p>
    <p v-else-if="data && !data.length" class="note">It is stated: nothing leads to it.</p>
    <section v-for="(d, i) in data ?? []" :key="i">
      <h3>
        {{ d.title === of ? '' : d.title }} <span>{{ d.clause }}</span>
      </h3>
      <ProofSteps :steps="d.steps" :leads="d.leads" />
    </section>
  </PrintDrawer>
</template>

<style scoped>
h3 {
  margin: 14px 0 2px;
  font: 600 15px var(--condensed);
}
section:first-of-type h3 {
  margin-top: 0;
}
h3 span {
  font-weight: 400;
  color: var(--ink-2);
}
</style>
