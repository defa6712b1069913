<script setup lang="ts">
/** A button that takes a file, and what a file of others becomes before anything is made of it. */
import { ElButton, ElUpload, type UploadRawFile } from 'element-plus'
import { OTHERS, type TakingIn } from '../lib/takingIn'
import ImportDialog from './ImportDialog.vue'

const props = withDefaults(
  defineProps<{ taking: TakingIn; words: string; title: string; more?: string[]; size?: 'default' | 'small' }>(),
  { more: () => [], size: 'default' },
)
const emit = defineEmits<{ chosen: [file: File]; take: [] }>()
const { offered, name, settled, reading, problem, settle, anew, close } = props.taking
/** Nothing is uploaded by the control itself. */
function given(file: UploadRawFile): false {
  emit('chosen', file)
  return false
}
</script>

<template>
  <ElUpload :show-file-list="false" :accept="[...more, ...OTHERS].join(',')" :before-upload="given" :title="title">
    <ElButton tag="span" :size="size" :loading="reading">{{ reading ? `Reading ${name}` : words }}</ElButton>
  </ElUpload>
  <ImportDialog
    v-if="offered"
    :offered="offered"
    :name="name"
    :settled="settled"
    :reading="reading"
    :problem="problem"
    @settle="settle"
    @anew="anew"
    @close="close"
    @take="$emit('take')"
  >
    <slot />
  </ImportDialog>
</template>
