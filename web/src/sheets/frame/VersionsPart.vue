<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { ref, watch } from 'vue'
import { api } from '../../api/client'
import { forget, useAnswer, useList } from '../../api/queries'
import ComparedResults from '../../components/ComparedResults.vue'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
const name = ref('')
const wrong = ref('')
const before = ref(0)
const here = () => ({ path: { project_id: bench.project!.id } })

const versions = useList('/api/projects/{project_id}/versions', () => (bench.project ? here() : null))
watch(
  () => bench.project?.revision.number,
  () => void forget('/api/projects/{project_id}/versions'),
)
/** The revision named beside the present one. */
const { data: found } = useAnswer('/api/projects/{project_id}/compare', () =>
  before.value && bench.project
    ? { ...here(), query: { before: before.value, after: bench.project.revision.number } }
    : null,
)
async function keep() {
  const { error } = await api.POST('/api/projects/{project_id}/versions', {
    params: here(),
    body: { number: bench.project!.revision.number, name: name.value },
  })
  wrong.value = error?.message ?? ''
  if (!error) name.value = ''
  await forget('/api/projects/{project_id}/versions')
}
const compare = (number: number) => {
  before.value = number
}
const tonnes = (t: number | null | undefined) =>
  t === null || t === undefined ? 'cannot be set out' : `${t.toFixed(2)} t`
</script>

<template>
  <h4>
    Name this version <span>revision {{ bench.project?.revision.number }}</span>
  </h4>
  <p class="row">
    <ElInput
      v-model="name"
      size="small"
      placeholder="for tender, after the visit…"
      aria-label="Name of this version"
      @keydown.enter="keep"
    />
    <ElButton size="small" :disabled="!name.trim()" @click="keep">Keep</ElButton>
  </p>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <ul>
    <li v-for="v in versions" :key="v.number" :class="{ on: v.number === bench.project?.revision.number }">
      <span
        ><b v-if="v.name">{{ v.name }}</b> <i class="mono">{{ v.number }}</i> {{ v.label }}</span
      >
      <template v-if="v.number !== bench.project?.revision.number">
        <ElButton link type="primary" size="small" @click="compare(v.number)">compare</ElButton>
        <ElButton
          link
          type="primary"
          size="small"
          title="Make this revision stand again, as a new one"
          @click="bench.restore(v.number)"
        >
          go back to
        </ElButton>
      </template>
      <em v-else>present</em>
    </li>
  </ul>
  <template v-if="found">
    <h4>From revision {{ found.before }} to {{ found.after }}</h4>
    <div class="pairs">
      <span>Tonnage before</span><b>{{ tonnes(found.tonnage_before) }}</b> <span>now</span
      ><b>{{ tonnes(found.tonnage_after) }}</b> <span>Members added</span><b>{{ found.added.length }}</b>
      <span>removed</span><b>{{ found.removed.length }}</b> <span>changed</span><b>{{ found.changed.length }}</b>
    </div>
    <p v-if="found.added.length" class="note">
      Added: {{ found.added.slice(0, 6).join(', ') }}{{ found.added.length > 6 ? ' …' : '' }}
      <ElButton link type="primary" size="small" @click="bench.choose(found.added)">choose them</ElButton>
    </p>
    <p v-if="found.removed.length" class="note">
      Removed: {{ found.removed.slice(0, 6).join(', ') }}{{ found.removed.length > 6 ? ' …' : '' }}
    </p>
    <ul class="changed">
      <li v-for="c in found.changed.slice(0, 40)" :key="c.member">
        <ElButton link type="primary" size="small" @click="bench.select(c.member, true)">{{ c.member }}</ElButton>
        {{ c.what }}
      </li>
    </ul>
    <p v-if="found.changed.length > 40" class="note">and {{ found.changed.length - 40 }} more</p>
    <h4>As they were computed</h4>
    <ComparedResults :before="found.before" />
  </template>
</template>

<style scoped>
.row {
  display: flex;
  gap: 6px;
  margin: 0;
  padding: 0 12px 6px;
}
.row .el-input {
  flex: 1;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 12px;
  font: 400 12.5px var(--condensed);
}
li {
  display: flex;
  gap: 4px;
  align-items: baseline;
  padding: 2px 0;
  border-bottom: 1px solid var(--line-soft);
}
li span {
  flex: 1;
}
li.on {
  background: var(--chalk-soft);
}
i,
em {
  font-style: normal;
  color: var(--ink-2);
}
.changed li {
  display: block;
}
</style>
