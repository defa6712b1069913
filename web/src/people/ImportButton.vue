<script setup lang="ts">
/** A project from a file: a document of Lorica, or an IFC file, of which is told first what it becomes. */
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ElButton, ElDialog, ElUpload, type UploadRawFile } from 'element-plus'
import { csrfToken, type Schemas } from '../api/client'

const problem = defineModel<string>('problem', { required: true })
const router = useRouter()

async function takeIn(file: File) {
  problem.value = ''
  if (file.size > 8 * 1024 * 1024) {
    problem.value = `${file.name} is larger than 8 MB.`
    return
  }
  if (/\.ifc$/i.test(file.name)) {
    reading.value = file.name
    const found = await posted('/api/projects/import/ifc', file, file.name)
    reading.value = ''
    if (found) offered.value = found as Schemas['TakenOut']
  } else await make(await file.text(), file.name)
}
/** What an IFC file becomes, before anything is made of it. */
const offered = ref<Schemas['TakenOut'] | null>(null)
const reading = ref('')
const told = computed(() => [
  { title: 'Understood', lines: offered.value?.understood ?? [], look: '' },
  { title: 'Guessed', lines: offered.value?.guessed ?? [], look: 'open' },
  { title: 'Left out', lines: offered.value?.left_out ?? [], look: 'open' },
])
async function posted(path: string, body: Blob | string, name: string): Promise<unknown> {
  const response = await fetch(path, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
    body,
  })
  const answer = (await response.json().catch(() => ({}))) as { message?: string }
  if (response.ok) return answer
  problem.value = `${name} was not taken in. ${answer.message ?? ''}`
  return null
}
async function make(text: string, name: string) {
  const answer = (await posted('/api/projects/import', text, name)) as { id: string } | null
  offered.value = null
  if (answer) await router.push(`/projects/${answer.id}`)
}

/** Nothing is uploaded by the control itself. */
function chosen(file: UploadRawFile): false {
  void takeIn(file)
  return false
}
</script>

<template>
  <ElUpload :show-file-list="false" accept=".json,.ifc,application/json" :before-upload="chosen">
    <ElButton tag="span" :loading="!!reading">{{ reading ? `Reading ${reading}` : 'Import…' }}</ElButton>
  </ElUpload>
  <ElDialog :model-value="!!offered" title="Import from IFC" width="620" @close="offered = null">
    <template v-if="offered">
      <p>Nothing is made yet. This is what the file becomes:</p>
      <template v-for="part in told" :key="part.title">
        <h4 v-if="part.lines.length">{{ part.title }}</h4>
        <p v-for="line in part.lines" :key="line" class="line" :class="part.look">{{ line }}</p>
      </template>
    </template>
    <template #footer>
      <ElButton @click="offered = null">Cancel</ElButton>
      <ElButton type="primary" @click="make(JSON.stringify(offered!.document), 'The file')">Import</ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.line.open {
  border-left: 3px dashed #8a5f12;
}
</style>
