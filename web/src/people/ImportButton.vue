<script setup lang="ts">
/** A project from a file: a document of Lorica, or a file of others, of which is told first what it becomes. */
import { useLocalStorage } from '@vueuse/core'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { ElButton, ElUpload, type UploadRawFile } from 'element-plus'
import { csrfToken, type Schemas } from '../api/client'
import ImportDialog from './ImportDialog.vue'
import type { Settling } from './settling'

const problem = defineModel<string>('problem', { required: true })
const router = useRouter()
/** Files of others; a document of Lorica is JSON. */
const OTHERS = ['.ifc', '.dxf', '.xlsx', '.csv']

/** What a file of others becomes, and what was settled of it. */
const offered = ref<Schemas['Taken'] | null>(null)
const file = ref<File | null>(null)
const settled = ref<Settling[]>([])
/** What was settled of layers, sheets and columns of files taken in before, by their kind; of a whole file nothing is kept. */
const kept = useLocalStorage<Record<string, Settling[]>>('lorica.settled', {})
const KEPT = 300
const kindOf = (name: string) => name.split('.').pop()?.toLowerCase() ?? ''
const reading = ref(false)
let asked = 0

async function takeIn(given: File) {
  problem.value = ''
  if (given.size > 8 * 1024 * 1024) problem.value = `${given.name} is larger than 8 MB.`
  else if (OTHERS.some((end) => given.name.toLowerCase().endsWith(end))) {
    file.value = given
    settled.value = kept.value[kindOf(given.name)] ?? []
    await read()
    // what is kept may fit this file no more
    if (!offered.value && settled.value.length) await settleAnew()
  } else await make(await given.text(), given.name)
}
/** Read the file with what is settled of it; an answer to less than is settled by now is dropped. */
async function read() {
  const now = file.value
  if (!now) return
  const number = ++asked
  const form = new FormData()
  form.append('file', now, now.name)
  form.append('settled', JSON.stringify(settled.value))
  reading.value = true
  try {
    const found = await posted('/api/projects/import/read', form, now.name)
    if (number === asked && found) offered.value = found as Schemas['Taken']
  } finally {
    if (number === asked) reading.value = false
  }
}
async function settle(choice: Settling) {
  const before = settled.value
  settled.value = [...before.filter((s) => s.of !== choice.of || s.field !== choice.field), choice]
  await read()
  // what was refused is as it was, with the reason beside it
  if (problem.value) settled.value = before
}
async function settleAnew() {
  settled.value = []
  await read()
}
function keep(name: string) {
  const kind = kindOf(name)
  const now = settled.value.filter((s) => s.of)
  const before = (kept.value[kind] ?? []).filter((k) => !now.some((s) => s.of === k.of && s.field === k.field))
  kept.value = { ...kept.value, [kind]: [...before, ...now].slice(-KEPT) }
}
async function posted(path: string, body: FormData | string, name: string): Promise<unknown> {
  problem.value = ''
  const headers: Record<string, string> = { 'X-CSRFToken': csrfToken() }
  if (typeof body === 'string') headers['Content-Type'] = 'application/json'
  const response = await fetch(path, { method: 'POST', headers, body }).catch(() => null)
  const answer = ((await response?.json().catch(() => null)) ?? {}) as { message?: string }
  if (response?.ok) return answer
  problem.value = `${name} was not taken in. ${answer.message ?? 'The server does not answer.'}`
  return null
}
async function make(text: string, name: string) {
  const answer = (await posted('/api/projects/import', text, name)) as { id: string } | null
  if (!answer) return
  if (offered.value) keep(name)
  close()
  await router.push(`/projects/${answer.id}`)
}
function close() {
  offered.value = file.value = null
  asked++
  reading.value = false
}
/** Nothing is uploaded by the control itself. */
function chosen(given: UploadRawFile): false {
  void takeIn(given)
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
    <ElButton tag="span" :loading="reading">{{ reading ? `Reading ${file?.name}` : 'Import…' }}</ElButton>
  </ElUpload>
  <ImportDialog
    v-if="offered && file"
    :offered="offered"
    :name="file.name"
    :settled="settled"
    :reading="reading"
    :problem="problem"
    @settle="settle"
    @anew="settleAnew"
    @close="close"
    @take="make(JSON.stringify(offered.document), file.name)"
  />
</template>
