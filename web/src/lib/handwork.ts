import { ref } from 'vue'
import { useWorkbench } from '../stores/workbench'
import { readVector } from './vectors'

export type Vector = [number, number, number]

/** Work by hand from what is typed: numbers and vectors read, operations made, and what is wrong with them. */
export function useHandwork() {
  const bench = useWorkbench()
  const wrong = ref('')
  function vector(text: string): Vector | null {
    const found = readVector(text)
    wrong.value = typeof found === 'string' ? found : ''
    return typeof found === 'string' ? null : (found.value as Vector)
  }
  function numberOf(text: string, what: string): number | null {
    const value = Number(text.replace(',', '.').replace('−', '-'))
    const sound = text.trim() !== '' && Number.isFinite(value)
    wrong.value = sound ? '' : `${what}: a number is needed.`
    return sound ? value : null
  }
  async function operate(
    label: string,
    ...operations: Parameters<typeof bench.operate> extends [string, ...infer O] ? O : never
  ) {
    wrong.value = ''
    const done = await bench.operate(label, ...operations)
    if (!done) wrong.value = bench.refusal?.message ?? ''
  }
  return { wrong, vector, numberOf, operate }
}
