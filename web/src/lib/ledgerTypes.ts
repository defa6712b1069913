import type { Schemas } from '../api/client'
import type { Cell } from './table'

export type Operation = Schemas['Operate']['operations'][number]
export interface Column {
  text: string
  number?: boolean
  use?: boolean
  /** What a typed value does to the row of that key; a sentence when it cannot be. */
  write?: (key: string, text: string) => Operation | string
}
/** whole: the cells as they are saved, where these say more than is shown; titles: what cells say when pointed at; member: the
 * one it stands for, where that is not the key. */
export interface Row {
  key: string
  cells: Cell[]
  whole?: Cell[]
  titles?: string[]
  member?: string
  /** the state that it is about: a case or a combination */
  state?: string | null
  /** what is chosen together with the row */
  members?: string[]
  use?: number | null
  status?: string
  bad?: boolean
}
export interface Table {
  head: Column[]
  rows: Row[]
  empty: string
}
/** How near combinations come to what governs, by name, and whether those that govern nothing are hidden. */
export interface Marks {
  of: ReadonlyMap<string, Schemas['MarkOut']>
  onlyGoverning: boolean
}
