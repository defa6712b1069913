<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { ElButton, ElInput, ElOption, ElSelect } from 'element-plus'
import { api, type Schemas } from '../api/client'
import { answer } from '../api/queries'
import ImportButton from '../people/ImportButton.vue'
import PageHeader from '../people/PageHeader.vue'
import ProjectRow from '../people/ProjectRow.vue'
import SharingDialog from '../people/SharingDialog.vue'
import TemplateShelf, { type Beginning } from '../people/TemplateShelf.vue'
import { usePeople } from '../stores/people'

const router = useRouter()
const projects = ref<Schemas['ProjectSummary'][]>([])
const loaded = ref(false)
/** Which of the projects are listed. */
const shelf = ref<'open' | 'archived' | 'deleted'>('open')
const room = ref<Omit<Schemas['ProjectList'], 'projects'> | null>(null)
const name = ref('')
const problem = ref('')
const people = usePeople()
/** The project that is being shared. */
const sharing = ref<Schemas['ProjectSummary'] | null>(null)
const begin = useTemplateRef<{ beginFirst(): void }>('begin')
const owned = computed(() => projects.value.filter((p) => p.owner === people.me?.name).length)
const shelfOf = (p: Schemas['ProjectSummary']) => (p.deleted ? 'deleted' : p.archived ? 'archived' : 'open')
const query = ref('')
const sorting = ref<'changed' | 'name' | 'worst' | 'tonnage'>('changed')
const SORTS = [
  { value: 'changed', label: 'Last changed' },
  { value: 'name', label: 'Name' },
  { value: 'worst', label: 'Worst utilisation' },
  { value: 'tonnage', label: 'Tonnage' },
] as const
const own = computed(() => projects.value.filter((p) => shelfOf(p) === shelf.value))
const shown = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/)
  const found = own.value.filter((p) =>
    words.every((w) => `${p.name} ${p.summary} ${p.owner}`.toLowerCase().includes(w)),
  )
  const key = sorting.value
  if (key === 'changed') return found
  if (key === 'name') return found.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
  return found.sort((a, b) => (b.card?.[key] ?? -1) - (a.card?.[key] ?? -1))
})
const shelves = computed(() =>
  (
    [
      ['open', 'Projects'],
      ['archived', 'Archived'],
      ['deleted', 'Deleted'],
    ] as const
  )
    .map(([key, label]) => ({ key, label, count: projects.value.filter((p) => shelfOf(p) === key).length }))
    .filter((s) => s.count || s.key === 'open' || s.key === shelf.value),
)
const TITLES = { open: 'Projects', archived: 'Archived projects', deleted: 'Deleted projects' }
/** Looks for what workers still compute; a paused project never comes. */
const MOST_LOOKS = 12
let looks = 0
let again: ReturnType<typeof setTimeout> | undefined
onBeforeUnmount(() => clearTimeout(again))

async function load() {
  const data = await answer('/api/projects', {}).catch(() => null)
  if (data) {
    const { projects: found, ...rest } = data
    projects.value = found
    room.value = rest
  }
  if (!own.value.length) shelf.value = 'open'
  loaded.value = true
  clearTimeout(again)
  const unknown = own.value.some((p) => p.readable && !p.deleted && p.card?.revision !== p.revision)
  if (unknown && looks++ < MOST_LOOKS) again = setTimeout(() => void load(), 2500)
}

/** Begin a project with a template, under the name that was typed or else the template's. */
async function create(template: Beginning) {
  problem.value = ''
  const title = name.value.trim() || template.title
  const { data, error } = await api.POST('/api/projects', {
    body: template.kept ? { name: title, template: '', kept: template.kept } : { name: title, template: template.key },
  })
  if (data) await router.push(`/projects/${data.id}`)
  else problem.value = (error as Partial<Schemas['Problem']> | undefined)?.message ?? 'The project was refused.'
}

onMounted(async () => {
  document.title = 'Projects · Lorica'
  await load()
})
</script>

<template>
  <div class="page">
    <PageHeader />
    <main>
      <div class="head">
        <h1>{{ TITLES[shelf] }}</h1>
        <template v-if="shelves.length > 1">
          <ElButton
            v-for="s in shelves"
            :key="s.key"
            link
            type="primary"
            size="small"
            :aria-pressed="shelf === s.key"
            :disabled="shelf === s.key"
            @click="shelf = s.key"
          >
            {{ s.label }} ({{ s.count }})
          </ElButton>
        </template>
        <span v-if="room" class="room">
          {{ owned }} of {{ room.most_projects.toLocaleString('en-GB') }} projects ·
          {{ room.size < 0.1 ? 'below 0.1' : room.size.toFixed(1) }} of {{ room.most_size.toLocaleString('en-GB') }} MB
        </span>
      </div>
      <template v-if="people.designs">
        <div class="new">
          <ElInput
            v-model="name"
            aria-label="Name of the new project"
            placeholder="Name of a new project, which begins with one of these"
            maxlength="80"
            @keydown.enter="begin?.beginFirst()"
          />
          <ImportButton v-model:problem="problem" />
        </div>
        <TemplateShelf ref="begin" @begin="create" />
      </template>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <div v-if="own.length > 1" class="find">
        <ElInput v-model="query" placeholder="Search" aria-label="Search the projects" clearable />
        <ElSelect v-model="sorting" aria-label="Sort by">
          <ElOption v-for="s in SORTS" :key="s.value" v-bind="s" />
        </ElSelect>
      </div>
      <p v-if="loaded && own.length && !shown.length" class="empty">No project here has these words.</p>
      <p v-if="loaded && !own.length" class="empty">
        <template v-if="people.designs">
          No projects yet. Choose above what the first one begins with: every one of these buildings stands and passes,
          and is changed to yours.
        </template>
        <template v-else
          >No projects yet. What others share with you, or with all of the office, is listed here.</template
        >
      </p>
      <ul>
        <li v-for="project in shown" :key="project.id">
          <ProjectRow :project="project" @changed="load" @share="sharing = project" @problem="problem = $event" />
        </li>
      </ul>
    </main>
    <SharingDialog :project="sharing" @close="sharing = null" @changed="load" />
  </div>
</template>

<style scoped>
.line {
  margin: 3px 12px;
  padding-left: 8px;
  border-left: 3px solid var(--line);
}
main {
  max-width: 1160px;
  margin: 36px auto;
  padding: 0 20px;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 16px;
}
h1 {
  font: 600 22px var(--condensed);
  margin: 0 0 14px;
}
.room {
  margin-left: auto;
  color: var(--ink-2);
  font-size: 12px;
}
.new {
  display: flex;
  gap: 8px;
  margin-bottom: 16px;
}
.find {
  display: flex;
  gap: 8px;
  margin-bottom: 12px;
}
.find .el-input {
  flex: 1;
}
.find .el-select {
  width: 180px;
}
.empty {
  color: var(--ink-2);
  padding: 28px 0;
  max-width: 60ch;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line);
}
li {
  display: grid;
  grid-template-columns: 104px auto 1fr auto auto;
  align-items: center;
  gap: 16px;
  padding: 10px 4px;
  border-bottom: 1px solid var(--line);
}
</style>
