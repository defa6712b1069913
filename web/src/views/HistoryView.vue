<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import HistoryTable from '../people/HistoryTable.vue'
import PageFrame from '../people/PageFrame.vue'
import { told } from '../people/roles'

/** What was done in a project, by whom and when. */
const props = defineProps<{ id: string }>()
const rows = ref<Schemas['HappenedOut'][]>([])
const name = ref('')
const problem = ref('')

onMounted(async () => {
  document.title = 'History · Lorica'
  const path = { params: { path: { project_id: props.id } } }
  const { data, error } = await api.GET('/api/projects/{project_id}/history', path)
  if (data) rows.value = data
  else problem.value = told(error)
  name.value = (await api.GET('/api/projects/{project_id}', path)).data?.name ?? ''
})
</script>

<template>
  <PageFrame>
    <template #title>
      History<template v-if="name">
        of <router-link :to="`/projects/${id}`">{{ name }}</router-link></template
      >
    </template>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <HistoryTable v-else :rows="rows" revisions empty="Nothing was done yet." />
  </PageFrame>
</template>
