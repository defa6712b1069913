import { useLocalStorage } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { csrfToken, type Schemas } from '../api/client'

/** A choice that was made about a file of others: of which layer, sheet or column, which of its properties, and what. */
export type Settling = Pick<Schemas['FileChoice'], 'of' | 'field' | 'value'>
/** Files of others that can be read. */
export const OTHERS = ['.ifc', '.dxf', '.xlsx', '.csv']
/** Whether a file is a document of Lorica; of any other the server says what it is. */
export const isOwn = (name: string): boolean => kindOf(name) === 'json'
/** Bytes of a file at most. */
export const LARGEST = 8 * 1024 * 1024
/** Choices kept of one kind of file. */
const KEPT = 300
const kindOf = (name: string) => name.split('.').pop()?.toLowerCase() ?? ''

/** Post something; what the server says against it becomes a sentence. */
export async function posted<T>(
  path: string,
  body: FormData | string,
  signal?: AbortSignal,
): Promise<{ data?: T; problem: string }> {
  const headers: Record<string, string> = { 'X-CSRFToken': csrfToken() }
  if (typeof body === 'string') headers['Content-Type'] = 'application/json'
  const response = await fetch(path, { method: 'POST', headers, body, signal }).catch(() => null)
  const answer = (await response?.json().catch(() => null)) as (T & { message?: string }) | null | undefined
  if (response?.ok && answer) return { data: answer, problem: '' }
  return { problem: answer?.message ?? 'The server does not answer.' }
}

/** A file of others being read and settled. begin: choices that every file begins with. */
export function useTakingIn(begin: Settling[] = []) {
  const offered = shallowRef<Schemas['Taken'] | null>(null)
  const file = shallowRef<File | null>(null)
  const settled = ref<Settling[]>([])
  const reading = ref(false)
  const problem = ref('')
  /** What was settled of layers, sheets and columns of files taken in before; of a whole file nothing is kept. */
  const kept = useLocalStorage<Record<string, Settling[]>>('lorica.settled', {})
  let asked = 0
  let under: AbortController | null = null

  /** Read it with what is settled; an answer to less than is settled by now is dropped. */
  async function read() {
    const now = file.value
    if (!now) return
    const number = ++asked
    // the server ends what nobody waits for
    under?.abort()
    under = new AbortController()
    const form = new FormData()
    form.append('file', now, now.name)
    form.append('settled', JSON.stringify(settled.value))
    reading.value = true
    const found = await posted<Schemas['Taken']>('/api/projects/import/read', form, under.signal)
    if (number !== asked) return
    reading.value = false
    problem.value = found.problem && `${now.name} was not taken in. ${found.problem}`
    if (found.data) offered.value = found.data
  }
  async function open(given: File) {
    close()
    if (given.size > LARGEST) {
      problem.value = `${given.name} is larger than 8 MB.`
      return
    }
    file.value = given
    settled.value = [...begin, ...(kept.value[kindOf(given.name)] ?? [])]
    await read()
    // what is kept may fit this file no more
    if (!offered.value && settled.value.length > begin.length) await anew()
  }
  async function settle(choice: Settling) {
    const before = settled.value
    settled.value = [...before.filter((s) => s.of !== choice.of || s.field !== choice.field), choice]
    await read()
    // what was refused is as it was, with the reason beside it
    if (problem.value) settled.value = before
  }
  async function anew() {
    settled.value = [...begin]
    await read()
  }
  /** It was taken: its choices are those that the next file of its kind begins with. */
  function keep() {
    if (!file.value) return
    const kind = kindOf(file.value.name)
    const now = settled.value.filter((s) => s.of)
    const before = (kept.value[kind] ?? []).filter((k) => !now.some((s) => s.of === k.of && s.field === k.field))
    kept.value = { ...kept.value, [kind]: [...before, ...now].slice(-KEPT) }
  }
  function close() {
    offered.value = file.value = null
    reading.value = false
    problem.value = ''
    asked++
    under?.abort()
  }
  const name = computed(() => file.value?.name ?? '')
  return { offered, name, settled, reading, problem, open, settle, anew, keep, close }
}
export type TakingIn = ReturnType<typeof useTakingIn>
