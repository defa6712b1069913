<script setup lang="ts">
/** A project from a file: a document of Lorica, or a file of others, of which is told first what it becomes. */
import { watch } from 'vue'
import { useRouter } from 'vue-router'
import TakeFile from '../components/TakeFile.vue'
import { isOwn, LARGEST, posted, useTakingIn } from '../lib/takingIn'

const problem = defineModel<string>('problem', { required: true })
const router = useRouter()
const taking = useTakingIn()
watch(taking.problem, (words) => (problem.value = words))

async function make(body: FormData | string, of: string) {
  const path = typeof body === 'string' ? '/api/projects/import' : '/api/projects/import/archive'
  const found = await posted<{ id: string }>(path, body)
  if (!found.data) {
    taking.problem.value = problem.value = `${of} was not taken in. ${found.problem}`
    return
  }
  taking.keep()
  taking.close()
  await router.push(`/projects/${found.data.id}`)
}
async function chosen(file: File) {
  problem.value = ''
  if (file.name.toLowerCase().endsWith('.zip') && file.size <= LARGEST) {
    const form = new FormData()
    form.append('file', file, file.name)
    await make(form, file.name)
  } else if (isOwn(file.name) && file.size <= LARGEST) await make(await file.text(), file.name)
  else await taking.open(file)
}
</script>

<template>
  <TakeFile
    :taking="taking"
    words="Import…"
    title="A document or a whole project of Lorica, IFC4, DXF, a spreadsheet or a table"
    :more="['.json', 'application/json', '.zip']"
    @chosen="chosen"
    @take="make(JSON.stringify(taking.offered.value?.document), taking.name.value)"
  />
</template>
