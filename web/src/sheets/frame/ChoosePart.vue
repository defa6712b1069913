<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { kindOf } from '../../lib/colours'
import { useWorkbench, type Member } from '../../stores/workbench'
import PickList from '../../components/PickList.vue'
import PressRow from '../../components/PressRow.vue'
import ChangeChosen from './choosing/ChangeChosen.vue'
import KeptChoices from './choosing/KeptChoices.vue'

const bench = useWorkbench()
const all = computed(() => bench.lists.members)
type By = 'role' | 'section' | 'grade' | 'group' | 'storey' | 'level' | 'frame' | 'direction' | 'jig' | 'length'
const by = ref<By>('role')
const BYS: By[] = ['role', 'section', 'grade', 'group', 'storey', 'level', 'frame', 'direction', 'jig', 'length']
const each = <T extends string>(values: readonly T[]) => values.map((value) => ({ value, label: value || 'as it is' }))
const from = ref(0)
const to = ref(3)

function direction(m: Member): string {
  const [a, b] = [bench.chain!.nodes[m.line[0]!]!, bench.chain!.nodes[m.line.at(-1)!]!]
  const d = [0, 1, 2].map((i) => Math.abs(a[i]! - b[i]!) / m.length)
  const along = ['along X', 'along Y', 'upright'][d.findIndex((x) => x > 0.999)]
  return along ?? (d[2]! < 0.02 ? 'level, askew' : 'inclined')
}
function kind(m: Member): string {
  if (by.value === 'frame') return m.frame ? `frame ${m.frame}` : 'no frame'
  if (by.value === 'direction') return direction(m)
  if (by.value === 'jig') return m.jig || 'by hand'
  if (by.value === 'level') {
    const [a, b] = [bench.chain!.nodes[m.line[0]!]![2], bench.chain!.nodes[m.line.at(-1)!]![2]]
    const level = Math.abs(a - b) < 1e-3 ? bench.chain!.levels.find((v) => Math.abs(v.height - a) < 1e-3) : null
    return level?.name ?? 'between levels'
  }
  if (by.value === 'length') return ''
  return kindOf(m, by.value)
}
const kinds = computed(() => {
  const found = new Map<string, string[]>()
  for (const m of all.value) {
    const key = kind(m)
    if (!key) continue
    const list = found.get(key) ?? []
    list.push(m.name)
    found.set(key, list)
  }
  return [...found].sort(([a], [b]) => a.localeCompare(b, undefined, { numeric: true }))
})
const add = ref(false)
function take(names: string[]) {
  bench.choose(add.value ? [...bench.chosen, ...names] : names)
}
const byLength = () =>
  take(all.value.filter((m) => m.length >= from.value - 1e-6 && m.length <= to.value + 1e-6).map((m) => m.name))
const invert = () =>
  bench.choose(all.value.filter((m) => bench.shows(m) && !bench.chosen.has(m.name)).map((m) => m.name))
function grow() {
  const nodes = new Set(bench.picked.flatMap((m) => m.line))
  bench.choose(all.value.filter((m) => m.line.some((n) => nodes.has(n))).map((m) => m.name))
}
const alone = () => (bench.gone = new Set(all.value.filter((m) => !bench.chosen.has(m.name)).map((m) => m.name)))
const fade = () => (bench.faded = new Set([...bench.faded, ...bench.chosen]))
const hide = () => (bench.gone = new Set([...bench.gone, ...bench.chosen]))
function showAll() {
  bench.gone = new Set()
  bench.faded = new Set()
  bench.hidden = new Set()
}
</script>

<template>
  <h4>
    Chosen <span>{{ bench.chosen.size }} of {{ all.length }}</span>
  </h4>
  <p class="buttons">
    <ElButton size="small" :disabled="!bench.chosen.size" @click="grow">Grow</ElButton>
    <ElButton size="small" @click="invert">Invert</ElButton>
    <ElButton size="small" :disabled="!bench.chosen.size" @click="bench.select('')">None</ElButton>
    <ElButton size="small" :disabled="!bench.chosen.size" @click="alone">Show alone</ElButton>
    <ElButton size="small" :disabled="!bench.chosen.size" @click="fade">Fade</ElButton>
    <ElButton size="small" :disabled="!bench.chosen.size" @click="hide">Hide</ElButton>
    <ElButton size="small" @click="showAll">Show all</ElButton>
  </p>
  <h4>
    Choose by
    <PickList v-model="by" :options="each(BYS)" label="Choose members by" />
  </h4>
  <p v-if="by === 'length'" class="buttons">
    <ElInput v-model.number="from" size="small" type="number" step="any" aria-label="Shortest" /> to
    <ElInput v-model.number="to" size="small" type="number" step="any" aria-label="Longest" /> m
    <ElButton size="small" @click="byLength">Choose</ElButton>
  </p>
  <ul v-else class="kinds">
    <li v-for="[key, names] in kinds" :key="key">
      <PressRow @click="take(names)"
        >{{ key }}<template #figure>{{ names.length }}</template></PressRow
      >
    </li>
  </ul>
  <ElCheckbox v-model="add" class="keep" size="small">add to what is chosen</ElCheckbox>
  <template v-if="bench.chosen.size">
    <ChangeChosen />
  </template>
  <KeptChoices @take="take" />
</template>

<style scoped>
.buttons {
  padding: 0 12px 4px;
  margin: 0;
}
.buttons .el-input {
  width: 84px;
}
h4 .el-select {
  width: 120px;
}
.kinds {
  list-style: none;
  margin: 0;
  padding: 0 8px;
  max-height: 190px;
  overflow: auto;
}
.kinds li {
  display: flex;
}
.keep {
  margin: 0 12px;
}
</style>
