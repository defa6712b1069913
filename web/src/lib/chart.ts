import type { Quantity } from '../stores/workbench'

/** A row of a member's chart. down: positive values are drawn downwards (moments, on the tension side of a beam). */
export interface Series {
  key: Quantity
  least: `least_${Quantity}`
  word: string
  unit: string
  down: boolean
  always: boolean
}
const series = (key: Quantity, word: string, unit: string, down = false, always = false): Series => ({
  key,
  least: `least_${key}`,
  word,
  unit,
  down,
  always,
})
export const SERIES: readonly Series[] = [
  series('N', 'N', 'kN', false, true),
  series('Vz', 'V_z', 'kN', false, true),
  series('My', 'M_y', 'kNm', true, true),
  series('Vy', 'V_y', 'kN'),
  series('Mz', 'M_z', 'kNm', true),
  series('T', 'T', 'kNm'),
]

/** The largest size of values. */
export const extent = (values: readonly number[]) => values.reduce((most, v) => Math.max(most, Math.abs(v)), 0)

/** The value at a place between stations, linear between them. Places ascend; where two coincide the later one counts. */
export function at(x: readonly number[], values: readonly number[], place: number): number {
  let k = 0
  while (k < x.length - 2 && x[k + 1]! <= place) k++
  const [a, b] = [x[k]!, x[k + 1] ?? x[k]!]
  const share = b > a ? Math.min(Math.max((place - a) / (b - a), 0), 1) : 0
  return values[k]! + share * ((values[k + 1] ?? values[k]!) - values[k]!)
}

/** The outline of a band: the greatest values there, the least ones back. */
export function bars(x: readonly number[], most: readonly number[], least: readonly number[]) {
  return { x: [...x, ...[...x].reverse()], values: [...most, ...[...least].reverse()] }
}

/** Movements across a member as they are, or from the chord between its ends. */
export function straightened(x: readonly number[], values: readonly number[], chord: boolean): number[] {
  const [first, last, end] = [values[0] ?? 0, values.at(-1) ?? 0, x.at(-1) || 1]
  return chord ? values.map((v, i) => v - first - ((last - first) * x[i]!) / end) : [...values]
}
