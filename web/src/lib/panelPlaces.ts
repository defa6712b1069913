import type { Schemas } from '../api/client'
import type { Point } from './drawing'
import { STEP } from './loadPlaces'

/** Rows (a, b, c) by which x, y of a drawing become a + b x + c y, the panel's own coordinates. */
type Turn = readonly (readonly [number, number, number])[]

export const ownOf = (turn: Turn, [x, y]: Point): Point => {
  const at = (row: readonly number[]) => row[0]! + row[1]! * x + row[2]! * y
  return [at(turn[0]!), at(turn[1]!)]
}
/** A place of the panel on the drawing. */
export function drawnOf(turn: Turn, p: readonly number[]): Point {
  const [[a, b, c], [d, e, f]] = [turn[0]!, turn[1]!]
  const [x, y, det] = [p[0]! - a, p[1]! - d, b * f - c * e]
  return [(x * f - y * c) / det, (y * b - x * e) / det]
}

export type LiesOn = NonNullable<Schemas['PanelLoad']['kind']>
/** What is typed of where a load lies on a panel, and its unit. */
export const PLACES: Record<LiesOn, { typed: string; example: string; unit: string; label: string }> = {
  area: { typed: 'left, bottom, right, top', example: '0 0 6 2.5', unit: 'kN/m²', label: 'all of it, or a part' },
  line: { typed: 'x and y of both ends', example: '1 0 1 4', unit: 'kN/m', label: 'a line' },
  point: { typed: 'x and y', example: '3 2', unit: 'kN', label: 'a point' },
}

/** Its corners on the drawing of numbers as they are typed, none for all of the panel; in words what is wrong with them. */
export function placeTyped(kind: LiesOn, box: readonly number[]): Point[] | string {
  const wanted = kind === 'point' ? 2 : 4
  const wrong = `${{ area: 'A part', line: 'A line', point: 'A point' }[kind]} is ${kind === 'point' ? 'two' : 'four'} numbers in the drawing, in metres: ${PLACES[kind].typed}.`
  if (!box.length && kind === 'area') return []
  if (box.length !== wanted || !box.every(Number.isFinite)) return wrong
  const [x0, y0, x1, y1] = box as [number, number, number, number]
  if (kind === 'point') return [[x0, y0]]
  if (kind === 'line') return [[x0, y0], [x1, y1]] // prettier-ignore
  return [[x0, y0], [x1, y0], [x1, y1], [x0, y1]] // prettier-ignore
}

/** Corners nearer than this are one, m. */
const SAME = 1e-6

/** A part whose corner is moved: of a rectangle along the axes the neighbours follow, so that it stays one. */
export function cornerMoved(part: readonly Point[], k: number, to: Point): Point[] {
  const n = part.length
  const [a, b] = [part[(k + n - 1) % n]!, part[(k + 1) % n]!]
  const now = part[k]!
  const upright = (p: Point, q: Point) => Math.abs(p[0] - q[0]) < SAME
  const level = (p: Point, q: Point) => Math.abs(p[1] - q[1]) < SAME
  const opposite = part[(k + 2) % n]!
  const rectangle =
    n === 4 &&
    ((upright(a, now) && level(b, now) && level(a, opposite) && upright(b, opposite)) ||
      (level(a, now) && upright(b, now) && upright(a, opposite) && level(b, opposite)))
  return part.map((p, i) => {
    if (i === k) return to
    if (!rectangle || i === (k + 2) % n) return p
    return upright(p, now) ? [to[0], p[1]] : [p[0], to[1]]
  })
}

/** A part moved as a whole by as much, kept within the box of the panel. */
export function partMoved(part: readonly Point[], by: Point, outline: readonly (readonly number[])[]): Point[] {
  const kept = ([0, 1] as const).map((axis) => {
    const [own, all] = [part.map((p) => p[axis]), outline.map((p) => p[axis]!)]
    const [least, most] = [Math.min(...all) - Math.min(...own), Math.max(...all) - Math.max(...own)]
    return Math.min(Math.max(by[axis], Math.min(least, 0)), Math.max(most, 0))
  })
  return part.map((p) => [p[0] + kept[0]!, p[1] + kept[1]!])
}

/** A place on a panel: each coordinate at that of a corner, a carrier or the middle that is near, else at a round figure. */
export function snappedOn(
  [x, y]: Point,
  outline: readonly (readonly number[])[],
  lines: readonly (readonly (readonly number[])[])[],
  near: number,
): Point {
  const at = (value: number, axis: 0 | 1) => {
    const own = outline.map((p) => p[axis]!)
    const [least, most] = [Math.min(...own), Math.max(...own)]
    const along = lines.filter((l) => Math.abs(l[0]![axis]! - l.at(-1)![axis]!) < 1e-3).map((l) => l[0]![axis]!)
    const close = [...own, ...along, (least + most) / 2].reduce((best, v) =>
      Math.abs(v - value) < Math.abs(best - value) ? v : best,
    )
    const found = Math.abs(close - value) <= near ? close : Number((Math.round(value / STEP) * STEP).toFixed(4))
    return Math.min(Math.max(found, least), most)
  }
  return [at(x, 0), at(y, 1)]
}
