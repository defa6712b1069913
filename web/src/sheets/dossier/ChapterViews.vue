<script setup lang="ts">
/** Views of the workbench that are drawn in a chapter. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { dropView, viewsOf } from '../../lib/placedView'
import { useDossier } from '../../stores/dossier'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
const dossier = useDossier()
const chapter = computed(() => dossier.chapter?.key ?? '')
const views = computed(() => viewsOf(bench, chapter.value))
</script>

<template>
  <ul v-if="views.length" aria-label="Views drawn in this chapter">
    <li v-for="v in views" :key="v.name">
      {{ v.name }}
      <ElButton
        v-if="bench.mayChange"
        size="small"
        text
        :aria-label="`Remove ${v.name}`"
        @click="dropView(bench, chapter, v.name)"
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
