<script setup lang="ts">
/** One project of the list: what it is, who and when, and what can be done with it. */
import { computed, ref, watch } from 'vue'
import { ElButton, ElInput, ElMessage, ElMessageBox } from 'element-plus'
import { api, type Schemas } from '../api/client'
import { vFocus } from '../lib/focus'
import { usePeople } from '../stores/people'
import ProjectCard from './ProjectCard.vue'
import { moment } from './roles'

const props = defineProps<{ project: Schemas['ProjectSummary'] }>()
const emit = defineEmits<{ changed: []; share: []; problem: [words: string] }>()
const people = usePeople()
const naming = ref(false)
const typed = ref('')
watch(naming, () => (typed.value = props.project.name))
const day = (when: string) => new Date(when).toLocaleDateString('en-GB', { dateStyle: 'medium' })

async function keepTemplate() {
  const { data, error } = await api.POST('/api/office/kept', {
    body: { kind: 'template', name: props.project.name, project: props.project.id },
  })
  const said = (error as Partial<Schemas['Problem']> | undefined)?.message ?? 'It was not kept.'
  emit('problem', data ? '' : said)
  if (data) ElMessage.success(`“${data.name}” is a template of the office.`)
}

async function rename() {
  if (!naming.value) return
  const title = typed.value.trim()
  naming.value = false
  if (!title || title === props.project.name) return
  await api.PATCH('/api/projects/{project_id}', {
    params: { path: { project_id: props.project.id } },
    body: { name: title },
  })
  emit('changed')
}

async function archive() {
  await api.PATCH('/api/projects/{project_id}', {
    params: { path: { project_id: props.project.id } },
    body: { archived: !props.project.archived },
  })
  emit('changed')
}

/** Whether one may change it. */
const changes = computed(() => props.project.role === 'owner' || props.project.role === 'editor')
const at = () => ({ params: { path: { project_id: props.project.id } } })

async function remove() {
  await api.DELETE('/api/projects/{project_id}', { ...at(), body: { name: '' } })
  emit('changed')
}

async function recover() {
  await api.POST('/api/projects/{project_id}/recover', at())
  emit('changed')
}

async function removeNow() {
  const words = `It goes with all its revisions and cannot be brought back. Type its name to remove it: ${props.project.name}`
  try {
    await ElMessageBox.prompt(words, 'Remove for good', {
      confirmButtonText: 'Remove',
      inputValidator: (typed: string) => typed === props.project.name || `The name is “${props.project.name}”.`,
    })
  } catch {
    return
  }
  await api.DELETE('/api/projects/{project_id}', { ...at(), body: { name: props.project.name } })
  emit('changed')
}

async function duplicate() {
  await api.POST('/api/projects/{project_id}/duplicate', { params: { path: { project_id: props.project.id } } })
  emit('changed')
}
</script>

<template>
  <ProjectCard :project="project" />
  <div class="words">
    <ElInput
      v-if="naming"
      v-model="typed"
      v-focus
      size="small"
      maxlength="80"
      aria-label="New name"
      @keyup.enter="($event.target as HTMLInputElement).blur()"
      @keyup.esc="naming = false"
      @blur="rename"
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
    <a v-if="!project.readable" :href="`/api/projects/${project.id}/document`">Export its document as it is stored</a>
  </div>
  <span class="when"
    ><span class="mono">rev {{ project.revision }}</span
    ><br />{{ moment(project.changed) }}<template v-if="project.by"><br />by {{ project.by }}</template></span
  >
  <span v-if="project.deleted" class="acts">
    <ElButton link type="primary" size="small" @click="recover">Recover</ElButton>
    <ElButton link type="primary" size="small" @click="removeNow">Remove now…</ElButton>
  </span>
  <span v-else class="acts">
    <ElButton link type="primary" size="small" @click="$emit('share')">Share…</ElButton>
    <router-link class="quiet" :to="`/projects/${project.id}/history`">History</router-link>
    <ElButton v-if="changes" link type="primary" size="small" @click="naming = true">Rename</ElButton>
    <ElButton v-if="people.designs" link type="primary" size="small" @click="duplicate">Duplicate</ElButton>
    <ElButton
      v-if="people.designs && changes"
      link
      type="primary"
      size="small"
      title="Others of the office may begin with it"
      @click="keepTemplate"
      >Keep as template</ElButton
    >
    <ElButton v-if="changes" link type="primary" size="small" @click="archive">
      {{ project.archived ? 'Bring back' : 'Archive' }}
    </ElButton>
    <ElButton
      v-if="project.role === 'owner'"
      link
      type="primary"
      size="small"
      title="Can be recovered for some days"
      @click="remove"
    >
      Delete
    </ElButton>
  </span>
</template>

<style scoped>
.words input {
  flex: 1;
  font: inherit;
  padding: 7px 10px;
  border: 1px solid var(--line);
  background: #fff;
  border-radius: 3px;
}
.when {
  text-align: right;
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
