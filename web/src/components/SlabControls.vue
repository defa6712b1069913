<script setup lang="ts">
import { ElButton } from 'element-plus'
import { SLAB_QUANTITIES, type SlabQuantity } from '../lib/slab'
import { useStates } from '../lib/states'
import { useWorkbench } from '../stores/workbench'
import type { useSlabPicture } from '../view/slabPicture'
import PickList from './PickList.vue'

/** What is shown of a slab: the state, the quantity, of an envelope which of both; cuts through the largest. */
const props = defineProps<{ picture: ReturnType<typeof useSlabPicture> }>()
const bench = useWorkbench()
const { slab, quantity, which, envelope, shownState, cutAcross } = props.picture
const states = useStates()
const quantities = (Object.keys(SLAB_QUANTITIES) as SlabQuantity[]).map((key) => ({
  value: key,
  label: `${SLAB_QUANTITIES[key].words}, ${SLAB_QUANTITIES[key].unit}`,
}))
const WHICH = [
  { value: 'most', label: 'greatest' },
  { value: 'least', label: 'least' },
]
</script>

<template>
  <div class="pick">
    <label
      ><span>under</span>
      <PickList
        :model-value="shownState"
        :options="states.slice(1)"
        label="Case or combination shown"
        placeholder="envelope of strength"
        @update:model-value="bench.show"
    /></label>
    <label v-if="slab?.kind !== 'mode'"
      ><span>shown</span> <PickList v-model="quantity" :options="quantities" label="What is shown of the slab"
    /></label>
    <label v-if="envelope"
      ><span>of both</span> <PickList v-model="which" :options="WHICH" label="Greatest or least" class="short"
    /></label>
    <ElButton size="small" title="Values along x through the largest" @click="cutAcross(false)">Cut ↔</ElButton>
    <ElButton size="small" title="Values along y through the largest" @click="cutAcross(true)">Cut ↕</ElButton>
    <ElButton size="small" @click="bench.closePanel()">Back to the building</ElButton>
  </div>
</template>

<style scoped>
.pick {
  position: absolute;
  right: 12px;
  top: 10px;
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 6px 10px;
  max-width: 78%;
}
.pick label {
  display: flex;
  align-items: center;
  gap: 5px;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
}
.pick :deep(.el-select) {
  width: 190px;
}
.pick :deep(.short) {
  width: 96px;
}
</style>
