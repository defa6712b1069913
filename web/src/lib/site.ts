import type { Schemas } from '../api/client'
import type { Point } from './drawing'

/** The side of the building that each wind comes from, as a unit vector in its own plan: x across, y along. */
export const FROM: Record<string, Point> = { left: [-1, 0], right: [1, 0], front: [0, -1], back: [0, 1] }

/** Compass bearing that a wind comes from, where the bearing from front to back is known: across lies 90° clockwise of along. */
export function bearingOf(direction: string, bearing: number): number {
  const turn = { left: -90, right: 90, front: 180, back: 0 }[direction] ?? 0
  return (((bearing + turn) % 360) + 360) % 360
}

/** From the building's plan (m from its middle) to the drawing, north up: along points where the bearing says, to the right where
 * none is known. */
export function turned(bearing: number | null | undefined, scale: number, middle: Point) {
  const angle = ((bearing ?? 90) * Math.PI) / 180
  const along: Point = [Math.sin(angle), -Math.cos(angle)]
  const across: Point = [-along[1], along[0]]
  return ([x, y]: Point): Point => [
    middle[0] + (x * across[0] + y * along[0]) * scale,
    middle[1] + (x * across[1] + y * along[1]) * scale,
  ]
}

/** The length of a scale bar in metres: a round one that is about so long. */
export function roundLength(about: number): number {
  const power = 10 ** Math.floor(Math.log10(about))
  return [5, 2, 1].map((n) => n * power).find((n) => n <= about) ?? power
}

/** Winds that have one course of q_p over the height, told together. */
export function courses(winds: Schemas['UpwindOut'][]) {
  const found = new Map<string, Schemas['UpwindOut'][]>()
  for (const w of winds) {
    const key = JSON.stringify(w.course)
    found.set(key, [...(found.get(key) ?? []), w])
  }
  return [...found.values()].map((own) => ({ ...own[0]!, directions: own.map((w) => w.direction) }))
}
