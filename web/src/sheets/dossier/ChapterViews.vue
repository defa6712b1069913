<script setup lang="ts">
/** Views and tables of the workbench that stand in a chapter. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { dropTable, dropView, tablesOf, viewsOf } from '../../lib/placedView'
import { useDossier } from '../../stores/dossier'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
const dossier = useDossier()
const chapter = computed(() => dossier.chapter?.key ?? '')
const rows = computed(() => [
  ...viewsOf(bench, chapter.value).map((v) => ({ name: v.name, drop: dropView })),
  ...tablesOf(bench, chapter.value).map((t) => ({ name: t.name, drop: dropTable })),
])
</script>

<template>
  <ul v-if="rows.length" aria-label="Views and tables in this chapter">
    <li v-for="v in rows" :key="v.name">
      {{ v.name }}
      <ElButton
        v-if="bench.mayChange"
        size="small"
        text
        :aria-label="`Remove ${v.name}`"
        @click="v.drop(bench, chapter, v.name)"
        >Remove</ElButton
      >
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  font: 400 12.5px var(--condensed);
  border-bottom: 1px solid var(--line-soft);
}
</style>
