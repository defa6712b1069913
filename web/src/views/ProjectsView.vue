<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { ElButton, ElDialog, ElInput, ElMessage, ElMessageBox, ElOption, ElSelect } from 'element-plus'
import { api, csrfToken, type Schemas } from '../api/client'
import PageHeader from '../people/PageHeader.vue'
import ProjectCard from '../people/ProjectCard.vue'
import { moment } from '../people/roles'
import SharingDialog from '../people/SharingDialog.vue'
import TemplateShelf, { type Beginning } from '../people/TemplateShelf.vue'
import { usePeople } from '../stores/people'

const router = useRouter()
const projects = ref<Schemas['ProjectSummary'][]>([])
const loaded = ref(false)
/** Which of the projects are listed. */
const shelf = ref<'open' | 'archived' | 'deleted'>('open')
const room = ref<Omit<Schemas['ProjectList'], 'projects'> | null>(null)
const naming = ref('')
const name = ref('')
const problem = ref('')
const people = usePeople()
/** The project that is being shared. */
const sharing = ref<Schemas['ProjectSummary'] | null>(null)
const picker = ref<HTMLInputElement>()
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
const day = (when: string) => new Date(when).toLocaleDateString('en-GB', { dateStyle: 'medium' })

/** Looks for what workers still compute; a paused project never comes. */
const MOST_LOOKS = 12
let looks = 0
let again: ReturnType<typeof setTimeout> | undefined
onBeforeUnmount(() => clearTimeout(again))

async function load() {
  const { data } = await api.GET('/api/projects')
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

async function keepTemplate(project: Schemas['ProjectSummary']) {
  const { data, error } = await api.POST('/api/office/kept', {
    body: { kind: 'template', name: project.name, project: project.id },
  })
  problem.value = data ? '' : ((error as Partial<Schemas['Problem']> | undefined)?.message ?? 'It was not kept.')
  if (data) ElMessage.success(`“${data.name}” is a template of the office.`)
}

async function rename(project: Schemas['ProjectSummary'], event: Event) {
  const title = (event.target as HTMLInputElement).value.trim()
  naming.value = ''
  if (!title || title === project.name) return
  await api.PATCH('/api/projects/{project_id}', { params: { path: { project_id: project.id } }, body: { name: title } })
  await load()
}

async function archive(project: Schemas['ProjectSummary']) {
  await api.PATCH('/api/projects/{project_id}', {
    params: { path: { project_id: project.id } },
    body: { archived: !project.archived },
  })
  await load()
}

/** Whether one may change a project. */
const changes = (p: Schemas['ProjectSummary']) => p.role === 'owner' || p.role === 'editor'
const at = (project: Schemas['ProjectSummary']) => ({ params: { path: { project_id: project.id } } })

async function remove(project: Schemas['ProjectSummary']) {
  await api.DELETE('/api/projects/{project_id}', { ...at(project), body: { name: '' } })
  await load()
}

async function recover(project: Schemas['ProjectSummary']) {
  await api.POST('/api/projects/{project_id}/recover', at(project))
  await load()
}

async function removeNow(project: Schemas['ProjectSummary']) {
  const words = `It goes with all its revisions and cannot be brought back. Type its name to remove it: ${project.name}`
  try {
    await ElMessageBox.prompt(words, 'Remove for good', {
      confirmButtonText: 'Remove',
      inputValidator: (typed: string) => typed === project.name || `The name is “${project.name}”.`,
    })
  } catch {
    return
  }
  await api.DELETE('/api/projects/{project_id}', { ...at(project), body: { name: project.name } })
  await load()
}

async function duplicate(project: Schemas['ProjectSummary']) {
  await api.POST('/api/projects/{project_id}/duplicate', { params: { path: { project_id: project.id } } })
  await load()
}

async function takeIn(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  problem.value = ''
  if (file.size > 8 * 1024 * 1024) {
    problem.value = `${file.name} is larger than 8 MB.`
    return
  }
  if (/\.ifc$/i.test(file.name)) {
    reading.value = file.name
    const found = await posted('/api/projects/import/ifc', file, file.name)
    reading.value = ''
    if (found) offered.value = found as Schemas['TakenOut']
  } else await make(await file.text(), file.name)
}
/** What an IFC file becomes, before anything is made of it. */
const offered = ref<Schemas['TakenOut'] | null>(null)
const reading = ref('')
const told = computed(() => [
  { title: 'Understood', lines: offered.value?.understood ?? [], look: '' },
  { title: 'Guessed', lines: offered.value?.guessed ?? [], look: 'open' },
  { title: 'Left out', lines: offered.value?.left_out ?? [], look: 'open' },
])
async function posted(path: string, body: Blob | string, name: string): Promise<unknown> {
  const response = await fetch(path, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
    body,
  })
  const answer = (await response.json().catch(() => ({}))) as { message?: string }
  if (response.ok) return answer
  problem.value = `${name} was not taken in. ${answer.message ?? ''}`
  return null
}
async function make(text: string, name: string) {
  const answer = (await posted('/api/projects/import', text, name)) as { id: string } | null
  offered.value = null
  if (answer) await router.push(`/projects/${answer.id}`)
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
          <ElButton @click="picker?.click()">Import…</ElButton>
          <input ref="picker" class="picker" type="file" accept=".json,.ifc,application/json" @change="takeIn" />
        </div>
        <TemplateShelf ref="begin" @begin="create" />
      </template>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <p v-if="reading" role="status">Reading {{ reading }}…</p>
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
          <ProjectCard :project="project" />
          <div class="words">
            <input
              v-if="naming === project.id"
              :value="project.name"
              maxlength="80"
              aria-label="New name"
              @vue:mounted="(node: { el: unknown }) => (node.el as HTMLInputElement).select()"
              @keyup.enter="($event.target as HTMLInputElement).blur()"
              @keyup.esc="naming = ''"
              @blur="rename(project, $event)"
            />
            <b v-else-if="project.deleted">{{ project.name }}</b>
            <router-link v-else :to="`/projects/${project.id}`">{{ project.name }}</router-link>
            <span v-if="project.deleted" class="fails"
              >Deleted on {{ day(project.deleted) }}, removed for good on {{ day(project.removed!) }}</span
            >
            <span :class="{ fails: !project.readable }">{{ project.summary }}</span>
            <span v-if="people.me && project.owner !== people.me.name" class="of"
              >{{ project.owner }}’s · you are {{ project.role }}</span
            >
            <span v-else-if="project.shared" class="of">Shared</span>
            <a v-if="!project.readable" :href="`/api/projects/${project.id}/document`"
              >Export its document as it is stored</a
            >
          </div>
          <span class="when"
            ><span class="mono">rev {{ project.revision }}</span
            ><br />{{ moment(project.changed) }}<template v-if="project.by"><br />by {{ project.by }}</template></span
          >
          <span v-if="project.deleted" class="acts">
            <ElButton link type="primary" size="small" @click="recover(project)">Recover</ElButton>
            <ElButton link type="primary" size="small" @click="removeNow(project)">Remove now…</ElButton>
          </span>
          <span v-else class="acts">
            <ElButton link type="primary" size="small" @click="sharing = project">Share…</ElButton>
            <router-link class="quiet" :to="`/projects/${project.id}/history`">History</router-link>
            <ElButton v-if="changes(project)" link type="primary" size="small" @click="naming = project.id"
              >Rename</ElButton
            >
            <ElButton v-if="people.designs" link type="primary" size="small" @click="duplicate(project)"
              >Duplicate</ElButton
            >
            <ElButton
              v-if="people.designs && changes(project)"
              link
              type="primary"
              size="small"
              title="Others of the office may begin with it"
              @click="keepTemplate(project)"
              >Keep as template</ElButton
            >
            <ElButton v-if="changes(project)" link type="primary" size="small" @click="archive(project)">
              {{ project.archived ? 'Bring back' : 'Archive' }}
            </ElButton>
            <ElButton
              v-if="project.role === 'owner'"
              link
              type="primary"
              size="small"
              title="Can be recovered for some days"
              @click="remove(project)"
            >
              Delete
            </ElButton>
          </span>
        </li>
      </ul>
    </main>
    <ElDialog :model-value="!!offered" title="Import from IFC" width="620" @close="offered = null">
      <template v-if="offered">
        <p>Nothing is made yet. This is what the file becomes:</p>
        <template v-for="part in told" :key="part.title">
          <h4 v-if="part.lines.length">{{ part.title }}</h4>
          <p v-for="line in part.lines" :key="line" class="line" :class="part.look">{{ line }}</p>
        </template>
      </template>
      <template #footer>
        <ElButton @click="offered = null">Cancel</ElButton>
        <ElButton type="primary" @click="make(JSON.stringify(offered!.document), 'The file')">Import</ElButton>
      </template>
    </ElDialog>
    <SharingDialog :project="sharing" @close="sharing = null" @changed="load" />
  </div>
</template>

<style scoped>
.line {
  margin: 3px 12px;
  padding-left: 8px;
  border-left: 3px solid var(--line);
}
.line.open {
  border-left: 3px dashed #8a5f12;
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
.words input {
  flex: 1;
  font: inherit;
  padding: 7px 10px;
  border: 1px solid var(--line);
  background: #fff;
  border-radius: 3px;
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
.when {
  text-align: right;
}
.picker {
  display: none;
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
.words {
  display: flex;
  flex-direction: column;
  gap: 2px;
}
.of {
  font-style: italic;
}
.acts {
  white-space: nowrap;
}
.acts a {
  text-decoration: none;
}
.words a {
  color: var(--ink);
  font: 600 15px var(--condensed);
  text-decoration: none;
}
.words a:hover {
  color: var(--chalk);
}
.words span,
.when,
.revision {
  color: var(--ink-2);
  font-size: 12px;
}
</style>
