import type { Schemas } from '../api/client'

type Load = Schemas['MemberLoad']
/** A stretch of a member that a load acts along, m from its start; a concentrated one begins and ends at one place. */
export interface Stretch {
  start: number
  end: number
}
export type Grip = 'start' | 'end' | 'whole'
/** Round figures that places go by where nothing is near, m. */
export const STEP = 0.05
/** Places nearer than this are one; shorter a load is none, m. */
const [SAME, SHORTEST] = [1e-3, 0.05]

/** Where a load acts on its member or run of them, of that length; null of one that is all over. */
export function stretchOf(load: Load, length: number): Stretch | null {
  if (load.kind === 'temperature') return null
  const unit = load.ratio ? length : 1
  const start = load.start * unit
  if (load.kind !== 'line') return { start, end: start }
  return { start, end: load.end == null ? length : load.end * unit }
}

/** A place on a member: at what is near of its ends, its middle, its thirds and other places, else at a round figure. */
export function snappedTo(at: number, length: number, others: readonly number[], near: number): number {
  const places = [0, length, length / 2, length / 3, (2 * length) / 3, ...others]
  const close = places.reduce((best, x) => (Math.abs(x - at) < Math.abs(best - at) ? x : best), Infinity)
  const found = Math.abs(close - at) <= near ? close : Math.round(at / STEP) * STEP
  // the very end is the length itself: a figure rounded upwards would lie beyond it
  return Math.min(Math.max(Number(found.toFixed(4)), 0), length)
}

/** A stretch whose start, end or all of it is moved to a place, kept on its member: of all of it the start is told. */
export function movedTo(stretch: Stretch, grip: Grip, to: number, length: number): Stretch {
  const long = stretch.end - stretch.start
  if (long < SAME) return { start: to, end: to }
  if (grip === 'start') return { start: Math.min(to, stretch.end - SHORTEST), end: stretch.end }
  if (grip === 'end') return { start: stretch.start, end: Math.max(to, stretch.start + SHORTEST) }
  const start = Math.min(Math.max(to, 0), length - long)
  return { start, end: start + long }
}

/** The same in the load's own measure, as an operation states it; what reaches to the end of its member, whatever its length, goes on doing so. */
export function stated(load: Load, stretch: Stretch, length: number): { start: number; end?: number } {
  const unit = load.ratio ? length : 1
  const own = (x: number) => Math.floor((x / unit) * 1e6 + (x > length - SAME ? 0 : 0.5)) / 1e6
  const open = load.kind !== 'line' || (load.end == null && stretch.end > length - SAME)
  return { start: own(stretch.start), ...(open ? {} : { end: own(stretch.end) }) }
}

/** The next of several in turn. */
export const nextOf = (numbers: readonly number[], now: number | null): number | null =>
  numbers.length ? numbers[(numbers.indexOf(now ?? -1) + 1) % numbers.length]! : null
