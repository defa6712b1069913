<script setup lang="ts">
/** Puts what is looked at into the dossier, or takes it out. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { dropView, placeView, viewsOf, type Placed } from '../lib/placedView'
import { useWorkbench } from '../stores/workbench'

const props = defineProps<{ placed: Placed | null }>()
const bench = useWorkbench()
const there = computed(() => {
  const found = props.placed
  return !!found && viewsOf(bench, found.chapter).some((v) => v.name === found.view.name)
})
function toggle() {
  const found = props.placed
  if (!found) return
  void (there.value ? dropView(bench, found.chapter, found.view.name) : placeView(bench, found))
}
</script>

<template>
  <ElButton
    v-if="placed && bench.mayChange"
    size="small"
    :aria-pressed="there"
    :title="`${there ? 'Stands' : 'Draws this'} in the dossier, anew in each revision: ${placed.view.name}`"
    @click="toggle"
  >
    In dossier
  </ElButton>
</template>
