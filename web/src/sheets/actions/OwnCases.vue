<script setup lang="ts">
import { ElButton, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { added, removed, unnamed } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'

/** Cases of one's own, beside the generated ones: added, renamed, copied with their loads, dropped. */
const bench = useWorkbench()
const wrong = ref('')
const NATURES = ['permanent', 'imposed', 'snow', 'wind', 'temperature', 'accidental', 'crane', 'seismic', 'other']
const CATEGORIES = ['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H']
const LISTS = ['member_loads', 'node_loads', 'panel_loads', 'area_loads', 'settlements'] as const
const own = computed(() => bench.stated.cases)
const draft = ref({ name: '', nature: 'imposed', category: 'E', excludes: '', together: '' })
async function addCase() {
  const name = draft.value.name.trim()
  wrong.value = name ? '' : 'The case needs a name.'
  if (wrong.value) return
  const value = {
    name,
    nature: draft.value.nature,
    category: draft.value.nature === 'imposed' ? draft.value.category : '',
    excludes: draft.value.excludes.trim(),
    together: draft.value.together.trim(),
    self_weight: false,
  }
  draft.value.name = ''
  bench.ownCase = name
  const done = await bench.edit(`Case ${name}`, added('cases', value))
  if (done) return
  wrong.value = bench.refusal?.message ?? ''
  draft.value.name = name
  bench.ownCase = ''
}
const loadsOf = (name: string) =>
  LISTS.map((key) => [key, bench.stated[key].filter((load) => load.case === name)] as const)
const uses = (name: string) => loadsOf(name).reduce((sum, [, loads]) => sum + loads.length, 0)
const drop = (name: string) =>
  bench.edit(`Case ${name} dropped`, [
    ...unnamed('cases', own.value, name),
    ...loadsOf(name).flatMap(([key, loads]) => removed(key, ...loads)),
    ...removed('combinations', ...bench.stated.combinations.filter((c) => name in c.factors)),
  ])
/** The case once more, with its loads. */
function copy(c: Schemas['CaseInput']) {
  const taken = new Set(own.value.map((one) => one.name))
  let n = 2
  while (taken.has(`${c.name} ${n}`)) n++
  const name = `${c.name} ${n}`
  void bench.edit(`Case ${c.name} copied`, [
    ...added('cases', { ...c, name }),
    ...loadsOf(c.name).flatMap(([key, loads]) => added(key, ...loads.map((load) => ({ ...load, case: name })))),
  ])
}
const renaming = ref('')
const typed = ref('')
function startRename(name: string) {
  renaming.value = typed.value = name
}
async function rename() {
  const [name, to] = [renaming.value, typed.value.trim()]
  renaming.value = ''
  if (!name || !to || to === name) return
  wrong.value = ''
  const done = await bench.operate(`Case ${name} is ${to}`, { do: 'rename', kind: 'case', name, to })
  if (!done) wrong.value = bench.refusal?.message ?? ''
  if (done && bench.ownCase === name) bench.ownCase = to
}
const words = (c: Schemas['CaseInput']) =>
  [
    c.nature,
    c.category && `category ${c.category}`,
    c.excludes && `never with ${c.excludes}`,
    c.together && `together: ${c.together}`,
  ]
    .filter(Boolean)
    .join(' · ')
</script>

<template>
  <h4>Own case</h4>
  <div class="load-grid">
    <span>Name</span>
    <ElInput
      v-model="draft.name"
      size="small"
      aria-label="Name of the case"
      placeholder="Crane, east"
      @keydown.enter="addCase"
    />
    <span>Nature</span>
    <ElSelect v-model="draft.nature" size="small" aria-label="Nature of the case">
      <ElOption v-for="n in NATURES" :key="n" :value="n" :label="n" />
    </ElSelect>
    <template v-if="draft.nature === 'imposed'">
      <span>Category</span>
      <ElSelect v-model="draft.category" size="small" aria-label="Category of the case">
        <ElOption v-for="c in CATEGORIES" :key="c" :value="c" :label="c" />
      </ElSelect>
    </template>
    <span title="Cases with the same word never act together; generated snow bears “snow”, wind “wind”"
      >Never together with</span
    >
    <ElInput v-model="draft.excludes" size="small" aria-label="Set of the case" placeholder="a word of your own" />
    <span title="Cases with the same word are one action: they act at once, with one factor">Always together with</span>
    <ElInput v-model="draft.together" size="small" aria-label="Action of the case" placeholder="a word of your own" />
  </div>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <p class="note"><ElButton size="small" :disabled="!bench.mayChange" @click="addCase">Add the case</ElButton></p>
  <ul class="load-list cases">
    <li v-for="c in own" :key="c.name">
      <ElInput
        v-if="renaming === c.name"
        v-model="typed"
        size="small"
        aria-label="New name of the case"
        @keydown.enter="rename"
        @keydown.esc="renaming = ''"
        @blur="rename"
      />
      <template v-else>
        <b>{{ c.name }}</b><span>{{ words(c) }} · {{ uses(c.name) }} load{{ uses(c.name) === 1 ? '' : 's' }}</span>
        <ElButton link size="small" :title="`Rename ${c.name}`" @click="startRename(c.name)">rename</ElButton>
        <ElButton link size="small" :title="`Copy ${c.name} with its loads`" @click="copy(c)">copy</ElButton>
        <ElButton link size="small" :title="`Drop ${c.name} with its loads`" @click="drop(c.name)">×</ElButton>
      </template>
    </li>
  </ul>
</template>

<style scoped>
/* long names and what is said of them, one below the other */
.cases li {
  display: grid;
  grid-template-columns: 1fr auto auto auto;
}
.cases li > span {
  order: 1;
  grid-column: 1 / -1;
}
</style>
