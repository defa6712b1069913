<script setup lang="ts">
import { ElButton, ElInput, ElPopover } from 'element-plus'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { forget, useList } from '../api/queries'
import { told } from '../people/roles'
import { useWorkbench } from '../stores/workbench'
import PickList from './PickList.vue'

/** What the office keeps of a kind: taken into this project, or kept from it under a name. */
const props = defineProps<{ kind: Schemas['KeptOut']['kind'] }>()
const bench = useWorkbench()
const kept = useList('/api/office/kept', () => ({ query: { kind: props.kind } }))
const name = ref('')
const naming = ref(false)
const wrong = ref('')
const options = computed(() => kept.value.map((k) => ({ value: String(k.id), label: k.name })))

async function take(id: string) {
  wrong.value = ''
  if (!(await bench.putKept(Number(id)))) wrong.value = bench.refusal?.message ?? ''
}
async function keep() {
  const project = bench.project?.id
  if (!project || !name.value.trim()) return
  const { data, error } = await api.POST('/api/office/kept', { body: { kind: props.kind, name: name.value, project } })
  wrong.value = data ? '' : told(error)
  naming.value = false
  if (data) name.value = ''
  await forget('/api/office/kept')
}
</script>

<template>
  <p v-if="bench.mayChange" class="buttons">
    <PickList
      v-if="kept.length"
      model-value=""
      class="kept"
      :options="options"
      label="Take from the office"
      placeholder="Take from the office…"
      @update:model-value="take"
    />
    <ElPopover v-model:visible="naming" trigger="click" :width="240">
      <template #reference>
        <ElButton link type="primary" size="small">Keep for the office…</ElButton>
      </template>
      <ElInput v-model="name" size="small" placeholder="Name" aria-label="Name in the office" @keydown.enter="keep">
        <template #append><ElButton size="small" @click="keep">Keep</ElButton></template>
      </ElInput>
    </ElPopover>
  </p>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
</template>

<style scoped>
.kept {
  width: 160px;
}
</style>
