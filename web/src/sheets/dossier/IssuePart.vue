<script setup lang="ts">
import { ElButton, ElMessageBox, ElOption, ElSegmented, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useDossier } from '../../stores/dossier'
import { useWorkbench } from '../../stores/workbench'
import OfficeKept from '../../components/OfficeKept.vue'
import TextField from '../../components/TextField.vue'

/** What the cover says, the files, and handing over. */
const bench = useWorkbench()
const dossier = useDossier()
type Purpose = Schemas['IssueIn']['purpose']
const PURPOSES: { value: Purpose; label: string }[] = [
  { value: 'preliminary', label: 'preliminary' },
  { value: 'tender', label: 'for tender' },
  { value: 'approval', label: 'for approval' },
  { value: 'construction', label: 'for construction' },
]
const purpose = ref<Purpose>('approval')
const at = computed(() => `/api/projects/${bench.project?.id}`)
const key = computed(() => dossier.state?.file?.key ?? '')
const works = computed(() => !!bench.chain && !bench.chain.problem)
const next = computed(() => (dossier.state?.issues?.[0]?.number ?? 0) + 1)
async function issue() {
  const words = PURPOSES.find((p) => p.value === purpose.value)!.label
  const fails = bench.chain?.whole?.failing ?? 0
  const open = dossier.open
  const but = [fails ? `${fails} members fail.` : '', open ? `${open} questions are open.` : '']
    .filter(Boolean)
    .join(' ')
  try {
    await ElMessageBox.confirm(
      `Issue ${next.value}, ${words}, of revision ${bench.project?.revision.number} is kept for good with its model; it cannot be altered. ${but}`,
      'Issue the dossier',
      { confirmButtonText: 'Issue', cancelButtonText: 'Cancel' },
    )
  } catch {
    return
  }
  await dossier.issue(purpose.value)
}
</script>

<template>
  <h4>On the cover</h4>
  <TextField label="Client" path="dossier.client" :written="bench.document?.dossier?.client ?? ''" />
  <TextField label="Reference" path="dossier.reference" :written="bench.document?.dossier?.reference ?? ''" />
  <TextField label="Author" path="dossier.author" :written="bench.document?.dossier?.author ?? ''" />
  <div class="paper">
    <span>Paper</span>
    <ElSegmented
      size="small"
      aria-label="Paper"
      :model-value="bench.document?.dossier?.paper ?? 'A4'"
      :options="['A4', 'Letter']"
      :disabled="!bench.mayChange"
      @change="bench.edit(`Dossier on ${$event}`, [{ path: 'dossier.paper', value: $event }])"
    />
  </div>
  <OfficeKept kind="dossier" />
  <h4>
    Files <span>revision {{ dossier.state?.file?.revision ?? '–' }}</span>
  </h4>
  <p class="files">
    <template v-if="key">
      <a :href="`${at}/dossier/pdf?key=${key}`" download>PDF</a>
      <a :href="`${at}/dossier/sheets?key=${key}`" download>Every table (XLSX)</a>
      <a :href="`${at}/dossier/csv?key=${key}`" download>Every table (CSV)</a>
      <a :href="`${at}/dossier/drawings?key=${key}`" download>Drawings (DXF)</a>
    </template>
    <a v-if="works" :href="`${at}/dossier/html`" download>One page (HTML)</a>
    <a v-if="works" :href="`${at}/dossier/docx`" download>Document (DOCX)</a>
    <a v-if="works" :href="`${at}/ifc`" download>Model (IFC)</a>
    <a v-if="works" :href="`${at}/ifc?results=true`" download>with results (IFC)</a>
    <a v-if="works" :href="`${at}/tables`" download>Model (XLSX)</a>
    <a v-if="works" :href="`${at}/joints`" download>Forces at joints (CSV)</a>
    <a v-if="works" :href="`${at}/axes`" download>Axes (DXF)</a>
    <a :href="`${at}/document`">Model (JSON)</a>
    <a :href="`${at}/archive`">Whole project (ZIP)</a>
    <a v-if="works" :href="`${at}/result`">Result (JSON)</a>
  </p>
  <template v-if="bench.mayChange">
    <h4>
      Issue <span>revision {{ bench.project?.revision.number }}</span>
    </h4>
    <div class="issue">
      <ElSelect v-model="purpose" size="small" aria-label="Purpose of the issue">
        <ElOption v-for="p in PURPOSES" :key="p.value" :label="p.label" :value="p.value" />
      </ElSelect>
      <ElButton size="small" type="primary" :disabled="dossier.making || !dossier.state?.file?.current" @click="issue"
        >Issue no. {{ next }}</ElButton
      >
    </div>
  </template>
  <p v-if="dossier.message" class="note wrong" role="alert">{{ dossier.message }}</p>
</template>

<style scoped>
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding: 0 12px 4px;
  margin: 0;
  font: 500 12.5px var(--condensed);
}
a {
  color: var(--chalk);
}
.paper {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 4px 12px;
  font: 400 12.5px var(--condensed);
  color: var(--ink-2);
}
.issue {
  display: flex;
  gap: 8px;
  padding: 0 12px 10px;
}
.issue :deep(.el-select) {
  flex: 1;
}
.wrong {
  color: var(--oxide);
}
</style>
