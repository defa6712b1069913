<script setup lang="ts">
import { ElButton, ElDialog, ElMessageBox, ElOption, ElSelect } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { forget, useAnswer } from '../api/queries'
import { usePeople } from '../stores/people'
import { SHARED_ROLES, told } from './roles'

/** With whom a project is shared. */
const props = defineProps<{ project: Schemas['ProjectSummary'] | null }>()
const emit = defineEmits<{ close: []; changed: [] }>()
const people = usePeople()
const path = computed(() => ({ params: { path: { project_id: props.project?.id ?? '' } } }))
const { data: sharing } = useAnswer('/api/projects/{project_id}/sharing', () =>
  props.project ? path.value.params : null,
)
const name = ref('')
const role = ref<Schemas['ShareOut']['role']>('editor')
const problem = ref('')
const owns = computed(() => props.project?.role === 'owner')
/** Whom the project is not shared with yet. */
const others = computed(() => {
  const there = new Set([sharing.value?.owner, ...(sharing.value?.shares.map((s) => s.name) ?? [])])
  return people.everybody.filter((p) => p.active && !there.has(p.name))
})

watch(
  () => props.project,
  (project) => {
    problem.value = name.value = ''
    if (project) void people.load()
  },
)

async function share(whom: string, as: Schemas['ShareOut']['role'] | null) {
  problem.value = ''
  const { data, error } = await api.PUT('/api/projects/{project_id}/sharing', {
    ...path.value,
    body: { name: whom, role: as },
  })
  if (data) {
    name.value = ''
    await forget('/api/projects/{project_id}/sharing')
    emit('changed')
  } else problem.value = told(error)
}

async function give() {
  const whom = name.value
  try {
    await ElMessageBox.confirm(
      `“${props.project?.name}” will be ${whom}’s; you go on as editor, and ${whom} alone can share or delete it.`,
      'Transfer the project',
      { confirmButtonText: 'Transfer' },
    )
  } catch {
    return
  }
  const { data, error } = await api.POST('/api/projects/{project_id}/transfer', { ...path.value, body: { name: whom } })
  if (!data) problem.value = told(error)
  else {
    emit('changed')
    emit('close')
  }
}
</script>

<template>
  <ElDialog :model-value="!!project" :title="`Share “${project?.name ?? ''}”`" width="560" @close="$emit('close')">
    <template v-if="sharing">
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <ul>
        <li>
          <b>{{ sharing.owner }}</b><span class="as">Owner</span>
        </li>
        <li>
          <b>All of the office</b>
          <ElSelect
            class="as"
            :model-value="sharing.office_role ?? ''"
            :disabled="!owns"
            :empty-values="[null]"
            aria-label="All of the office sees it as"
            @change="share('', $event || null)"
          >
            <ElOption value="" label="Not shared" />
            <ElOption v-for="r in SHARED_ROLES" :key="r.value" v-bind="r" />
          </ElSelect>
        </li>
        <li v-for="s in sharing.shares" :key="s.name">
          <b>{{ s.name }}</b>
          <ElSelect
            class="as"
            :model-value="s.role"
            :disabled="!owns"
            :aria-label="`${s.name} sees it as`"
            @change="share(s.name, $event)"
          >
            <ElOption v-for="r in SHARED_ROLES" :key="r.value" v-bind="r" />
          </ElSelect>
          <ElButton v-if="owns" text :aria-label="`Share with ${s.name} no longer`" @click="share(s.name, null)">
            Remove
          </ElButton>
        </li>
      </ul>
      <div v-if="owns" class="add">
        <ElSelect v-model="name" filterable placeholder="A person of the office" aria-label="Person to share with">
          <ElOption v-for="p in others" :key="p.name" :value="p.name" :label="`${p.name} · ${p.role}`" />
          <template #empty><p class="none">Nobody else is in the office. Administrators invite people.</p></template>
        </ElSelect>
        <ElSelect v-model="role" class="as" aria-label="Share as">
          <ElOption v-for="r in SHARED_ROLES" :key="r.value" v-bind="r" />
        </ElSelect>
        <ElButton type="primary" :disabled="!name" @click="share(name, role)">Share</ElButton>
        <ElButton :disabled="!name" title="Make it that person’s own project" @click="give">Transfer…</ElButton>
      </div>
      <p class="means">{{ SHARED_ROLES.map((r) => `${r.label}: ${r.means}.`).join(' ') }}</p>
    </template>
  </ElDialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
  border-top: 1px solid var(--line-soft);
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 40px;
  border-bottom: 1px solid var(--line-soft);
}
li b {
  flex: 1;
  font-weight: 500;
}
.as {
  flex: 0 0 120px;
}
span.as {
  padding: 0 12px;
  color: var(--ink-2);
}
.add {
  display: flex;
  gap: 8px;
}
.means,
.none {
  color: var(--ink-2);
  font-size: 12px;
}
.none {
  padding: 4px 12px;
}
</style>
