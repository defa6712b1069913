<script setup lang="ts">
import { ElAlert } from 'element-plus'
import { useSizing } from '../stores/sizing'
import SizingGroups from './SizingGroups.vue'
import SizingShelf from './SizingShelf.vue'
import StudyPage from './StudyPage.vue'

/** The Sizing stage: groups above, the shelf of the chosen one below. */
const sizing = useSizing()
</script>

<template>
  <StudyPage v-if="sizing.shows === 'set-outs'" />
  <div v-else class="page">
    <ElAlert
      v-if="sizing.proposed?.problem"
      type="warning"
      :closable="false"
      :title="sizing.proposed.problem.message"
      description="Mend it in the sheet at the right; nothing is sized until then."
    />
    <SizingGroups />
    <SizingShelf class="shelf" />
  </div>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-rows: minmax(0, 1fr) 228px;
  height: 100%;
  overflow: hidden;
  background: var(--sheet);
}
.page:has(.el-alert) {
  grid-template-rows: auto minmax(0, 1fr) 228px;
}
.shelf {
  border-top: 1px solid var(--line);
  background: #faf9f6;
}
</style>
