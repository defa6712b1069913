<script setup lang="ts">
/** What the office keeps for its projects. */
import { ElButton, ElMessage, ElPopconfirm, ElTable, ElTableColumn, ElUpload, type UploadFile } from 'element-plus'
import { api, type Schemas } from '../api/client'
import { usePeople } from '../stores/people'
import { moment, told } from './roles'

defineProps<{ kept: Schemas['KeptOut'][] }>()
const emit = defineEmits<{ changed: []; problem: [words: string] }>()
const people = usePeople()
/** The set is called as its file. */
async function takeNational(file: UploadFile) {
  const text = (await file.raw?.text()) ?? ''
  const name = file.name.replace(/\.csv$/i, '')
  const { data, error } = await api.POST('/api/office/national', { body: { name, text } })
  emit('problem', data ? '' : told(error))
  if (data) ElMessage.success(`“${data.name}” is kept.`)
  emit('changed')
}

async function drop(number: number) {
  await api.DELETE('/api/office/kept/{number}', { params: { path: { number } } })
  emit('changed')
}
</script>

<template>
  <p v-if="people.designs" class="take">
    <ElUpload :auto-upload="false" :show-file-list="false" accept=".csv,text/csv" @change="takeNational">
      <ElButton tag="span" size="small" title="Columns path and value; a set that is given out shows them all">
        Import national values (CSV)…
      </ElButton>
    </ElUpload>
  </p>
  <ElTable
    :data="kept"
    aria-label="What the office keeps"
    empty-text="Nothing yet. National values, limits, prices, stock, materials and dossiers are kept from where they stand in a project; a project as a template from the list of projects."
  >
    <ElTableColumn label="What" prop="title" width="220" sortable />
    <ElTableColumn label="Name" prop="name" sortable />
    <ElTableColumn label="Kept by" prop="by" width="160" sortable />
    <ElTableColumn label="When" prop="changed" width="180" sortable>
      <template #default="{ row }">{{ moment(row.changed) }}</template>
    </ElTableColumn>
    <ElTableColumn width="130" align="right">
      <template #default="{ row }">
        <a v-if="row.kind === 'national'" class="quiet" :href="`/api/office/national/${row.id}`" download>CSV</a>
        <ElPopconfirm
          v-if="people.designs"
          :title="`Keep “${row.name}” no longer? Projects keep what they took over.`"
          confirm-button-text="Delete"
          cancel-button-text="Cancel"
          @confirm="drop(row.id)"
        >
          <template #reference><ElButton text size="small">Delete</ElButton></template>
        </ElPopconfirm>
      </template>
    </ElTableColumn>
  </ElTable>
</template>
