<script setup lang="ts">
/** A project from a file: a document of Lorica, or a file of others, of which is told first what it becomes. */
import { watch } from 'vue'
import { useRouter } from 'vue-router'
import { ElButton, ElUpload, type UploadRawFile } from 'element-plus'
import ImportDialog from '../components/ImportDialog.vue'
import { isOfOthers, OTHERS, posted, useTakingIn } from '../lib/takingIn'

const problem = defineModel<string>('problem', { required: true })
const router = useRouter()
const taking = useTakingIn()
const { offered, name, settled, reading } = taking
watch(taking.problem, (words) => (problem.value = words))

async function make(text: string, of: string) {
  const found = await posted<{ id: string }>('/api/projects/import', text)
  if (!found.data) {
    problem.value = `${of} was not taken in. ${found.problem}`
    return
  }
  taking.keep()
  taking.close()
  await router.push(`/projects/${found.data.id}`)
}
/** Nothing is uploaded by the control itself. */
function chosen(given: UploadRawFile): false {
  problem.value = ''
  if (isOfOthers(given.name) || given.size > 8 * 1024 * 1024) void taking.open(given)
  else void given.text().then((text) => make(text, given.name))
  return false
}
</script>

<template>
  <ElUpload
    :show-file-list="false"
    :accept="['.json', 'application/json', ...OTHERS].join(',')"
    :before-upload="chosen"
    title="A document of Lorica, IFC4, DXF, a spreadsheet or a table"
  >
    <ElButton tag="span" :loading="reading">{{ reading ? `Reading ${name}` : 'Import…' }}</ElButton>
  </ElUpload>
  <ImportDialog
    v-if="offered"
    :offered="offered"
    :name="name"
    :settled="settled"
    :reading="reading"
    :problem="problem"
    @settle="taking.settle"
    @anew="taking.anew"
    @close="taking.close"
    @take="make(JSON.stringify(offered.document), name)"
  />
</template>
