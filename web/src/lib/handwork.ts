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

/** Where members are divided, as written: “3” into as many equal parts, “30 % 70 %” or “0.3 0.7” at shares of the length, “2.5 4 m” at
 * distances from the start, each member of its own length; or what is wrong. */
export function divisions(text: string, length: number): { parts: number } | { at: number[] } | string {
  const wrong = 'A number of parts, shares such as 30 % or 0.3, or distances such as 2.5 m.'
  const unit = /%\s*$/.test(text) ? 0.01 : /m\s*$/.test(text) ? 1 / length : 1
  const numbers = text
    .replace(/[%m]/g, ' ')
    .replaceAll(',', '.')
    .split(/[\s;]+/)
    .filter(Boolean)
    .map(Number)
  if (!numbers.length || !numbers.every(Number.isFinite)) return wrong
  const [first] = numbers
  if (unit === 1 && numbers.length === 1 && first! >= 2) return Number.isInteger(first) ? { parts: first! } : wrong
  const at = numbers.map((x) => Number((x * unit).toFixed(9)))
  return at.every((share) => share > 0 && share < 1) ? { at } : 'Between the ends: no share or distance beyond them.'
}
