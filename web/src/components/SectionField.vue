<script setup lang="ts">
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { useWorkbench } from '../stores/workbench'
import SectionChooser from './SectionChooser.vue'
import TextField from './TextField.vue'

/** A section by name, typed or chosen with its shape in view. */
const props = defineProps<{ label: string; path: string; value: string }>()
const bench = useWorkbench()
const choosing = ref(false)
async function take(name: string) {
  choosing.value = false
  if (name !== props.value) await bench.edit(`${props.label} ${name}`, [{ path: props.path, value: name }])
}
</script>

<template>
  <div class="row">
    <TextField :label="label" :path="path" :written="value" list="sections" />
    <ElButton
      link
      type="primary"
      size="small"
      :title="`Choose a section for ${label}, with its shape`"
      :aria-label="`Choose a section for ${label}`"
      @click="choosing = true"
    >
      ⌶
    </ElButton>
  </div>
  <SectionChooser v-if="choosing" :present="value" @close="choosing = false" @take="take" />
</template>

<style scoped>
.row {
  position: relative;
}
.row button {
  position: absolute;
  right: 14px;
  top: 4px;
  font-size: 15px;
  line-height: 1;
  background: #fff;
}
</style>
