<script setup lang="ts">
import { onMounted } from 'vue'
import { useAnswer } from '../api/queries'
import HistoryTable from '../people/HistoryTable.vue'
import PageFrame from '../people/PageFrame.vue'

/** What was done in a project, by whom and when. */
const props = defineProps<{ id: string }>()
const path = () => ({ path: { project_id: props.id } })
const { data, problem } = useAnswer('/api/projects/{project_id}/history', path)
const { data: project } = useAnswer('/api/projects/{project_id}', path)
onMounted(() => (document.title = 'History · Lorica'))
</script>

<template>
  <PageFrame>
    <template #title>
      History<template v-if="project">
        of <router-link :to="`/projects/${id}`">{{ project.name }}</router-link></template
      >
    </template>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <HistoryTable v-else :rows="data ?? []" revisions empty="Nothing was done yet." />
  </PageFrame>
</template>
