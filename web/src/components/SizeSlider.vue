<script setup lang="ts">
import { ElSlider } from 'element-plus'

defineProps<{ label: string; least?: number; most?: number }>()
/** How large something is drawn beside the size that fits. */
const size = defineModel<number>({ required: true })
</script>

<template>
  <ElSlider
    v-model="size"
    size="small"
    :min="least ?? 0.2"
    :max="most ?? 4"
    :step="0.1"
    :show-tooltip="false"
    :aria-label="label"
  />
</template>

<style scoped>
.el-slider {
  width: 70px;
  padding: 0 7px;
}
</style>
