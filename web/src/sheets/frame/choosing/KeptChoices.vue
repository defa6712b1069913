<script setup lang="ts">
/** Sets and views that are kept with the project, and members taken out of jigs. */
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import PressRow from '../../../components/PressRow.vue'
import { named, unnamed } from '../../../lib/changes'
import { useWorkbench } from '../../../stores/workbench'

defineEmits<{ take: [members: string[]] }>()
const bench = useWorkbench()
const removed = computed(() => bench.stated.edits.filter((e) => e.removed).map((e) => e.member))
const putBack = (member: string) => bench.operate(`${member} put back`, { do: 'restore', members: [member] })
const name = ref('')
const sets = computed(() => bench.stated.sets)
const views = computed(() => bench.stated.views)
function keepSet() {
  const words = name.value.trim()
  if (!words || !bench.chosen.size) return
  const set = { name: words, members: [...bench.chosen] }
  void bench.edit(`Set “${words}” kept`, named('sets', sets.value, set))
  name.value = ''
}
const dropSet = (words: string) => bench.edit(`Set “${words}” dropped`, unnamed('sets', sets.value, words))
function keepView() {
  const words = name.value.trim()
  if (!words) return
  const view = {
    name: words,
    plane: bench.plane,
    colour: bench.colouring,
    hidden: [...bench.hidden, ...[...bench.gone].map((m) => `=${m}`)],
    faded: [...bench.faded],
    alone: [],
  }
  void bench.edit(`View “${words}” kept`, named('views', views.value, view))
  name.value = ''
}
function openView(words: string) {
  const view = views.value.find((v) => v.name === words)!
  bench.hidden = new Set(view.hidden.filter((h) => !h.startsWith('=')))
  bench.gone = new Set(view.hidden.filter((h) => h.startsWith('=')).map((h) => h.slice(1)))
  bench.faded = new Set(view.faded)
  bench.colouring = view.colour as typeof bench.colouring
  bench.look(view.plane ?? 'whole')
}
const dropView = (words: string) => bench.edit(`View “${words}” dropped`, unnamed('views', views.value, words))
</script>

<template>
  <template v-if="removed.length">
    <h4>Taken out of jigs</h4>
    <ul class="kinds">
      <li v-for="m in removed" :key="m">
        <PressRow :title="`Put ${m} back`" @click="putBack(m)">{{ m }}<template #figure>put back</template></PressRow>
      </li>
    </ul>
  </template>
  <h4>Sets and views</h4>
  <p class="buttons">
    <ElInput v-model="name" size="small" placeholder="name" aria-label="Name of the set or view" />
    <ElButton size="small" :disabled="!name.trim() || !bench.chosen.size" @click="keepSet">Keep as set</ElButton>
    <ElButton size="small" :disabled="!name.trim()" @click="keepView">Keep view</ElButton>
  </p>
  <ul class="kinds">
    <li v-for="s in sets" :key="s.name">
      <PressRow @click="$emit('take', s.members)"
        >set {{ s.name }}<template #figure>{{ s.members.length }}</template></PressRow
      >
      <ElButton link type="primary" size="small" :title="`Drop the set ${s.name}`" @click="dropSet(s.name)">×</ElButton>
    </li>
    <li v-for="v in views" :key="v.name">
      <PressRow @click="openView(v.name)"
        >view {{ v.name }}<template #figure>{{ v.plane }}</template></PressRow
      >
      <ElButton link type="primary" size="small" :title="`Drop the view ${v.name}`" @click="dropView(v.name)"
        >×</ElButton
      >
    </li>
  </ul>
</template>

<style scoped>
.buttons {
  padding: 0 12px 4px;
  margin: 0;
}
.buttons .el-input {
  width: 84px;
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
</style>
