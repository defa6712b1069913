<script setup lang="ts">
import { ElAlert } from 'element-plus'
import { useSizing } from '../stores/sizing'
import { useWorkbench } from '../stores/workbench'
import SizingBuilding from './SizingBuilding.vue'
import SizingGroups from './SizingGroups.vue'
import SizingShelf from './SizingShelf.vue'
import StudyPage from './StudyPage.vue'

/** The Sizing stage: groups above, the shelf of the chosen one below, beside it the building by what changes. */
const sizing = useSizing()
const bench = useWorkbench()
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
    <div class="below">
      <SizingShelf class="shelf" />
      <SizingBuilding v-if="sizing.found && bench.chain?.members?.length" />
    </div>
  </div>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-rows: minmax(0, 1fr) 246px;
  height: 100%;
  overflow: hidden;
  background: var(--sheet);
}
.page:has(.el-alert) {
  grid-template-rows: auto minmax(0, 1fr) 246px;
}
.below {
  display: flex;
  min-width: 0;
  min-height: 0;
  border-top: 1px solid var(--line);
  background: #faf9f6;
}
.below > .shelf {
  flex: 1;
  min-width: 0;
}
.below > figure {
  flex: 0 0 224px;
}
</style>
