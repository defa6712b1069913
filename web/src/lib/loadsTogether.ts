import type { Schemas } from '../api/client'
import { removed, type Change } from './changes'

/** Loads by hand that are changed together. */
type Document = Pick<Schemas['Document'], 'member_loads' | 'node_loads' | 'panel_loads' | 'area_loads' | 'settlements'>
interface Place {
  key: keyof Document
  number: number
}
/** What of a load is a size, by its list. */
const SIZES = {
  member_loads: ['value', 'value_end'],
  node_loads: ['force', 'moment'],
  panel_loads: ['pressure'],
  area_loads: ['pressure'],
  settlements: ['movement'],
} as const
const plain = (x: number) => Number(x.toPrecision(12))

/** All of them so many times as large. */
export function timed(document: Document, places: readonly Place[], factor: number): Change[] {
  return places.flatMap(({ key, number }) => {
    const load = document[key]?.[number] as Record<string, unknown> | undefined
    return SIZES[key].flatMap((size): Change[] => {
      const path = `${key}.${number}.${size}`
      const now = load?.[size]
      if (typeof now === 'number') return [{ path, value: plain(now * factor) }]
      if (!Array.isArray(now)) return []
      return [{ path, value: now.map((x: number) => plain(x * factor)) }]
    })
  })
}

/** All of them in one case. */
export const inCase = (places: readonly Place[], name: string): Change[] =>
  places.map(({ key, number }) => ({ path: `${key}.${number}.case`, value: name }))

/** All of them removed. */
export const without = (document: Document, places: readonly Place[]): Change[] =>
  places.flatMap(({ key, number }) => removed(key, document[key]?.[number]))
