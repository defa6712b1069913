import { place, type Basis, type Point, type Sheet } from './drawing'
import type { Seen } from './loadTracks'

type Triple = [number, number, number]

/** Pixels to the metre below which a plane counts as seen edge on. */
const EDGE_ON = 0.5

const cross = (a: Triple, b: Triple): Triple => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
const dot = (a: Triple, b: Triple) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

/**
 * A plane as it is seen in perspective, as a sheet is: pixels of its places and back. Near a place of it, whose scale it takes; null where that
 * cannot be seen, or where the plane is seen edge on. Places in pixels times how far away they are seen go evenly with places of the plane.
 */
export function seenPlane(basis: Basis, [x0, y0]: Point, eye: (place: readonly number[]) => Seen | null): Sheet | null {
  const seen = (x: number, y: number): Triple | null => {
    const at = eye(place(basis, [x, y]))
    const away = at?.[2] ?? 1
    return at && [at[0] * away, at[1] * away, away]
  }
  const [here, beside, above] = [seen(x0, y0), seen(x0 + 1, y0), seen(x0, y0 + 1)]
  if (!here || !beside || !above) return null
  const b = beside.map((v, k) => v - here[k]!) as Triple
  const c = above.map((v, k) => v - here[k]!) as Triple
  const at = (x: number, y: number): Point => {
    const [px, py, away] = here.map((v, k) => v + (x - x0) * b[k]! + (y - y0) * c[k]!) as Triple
    return [px / away, py / away]
  }
  // how many square pixels a square metre is there: from the volume that the three span
  const volume = dot(here, cross(b, c))
  const scale = Math.sqrt(Math.abs(volume) / Math.abs(here[2]) ** 3)
  if (scale < EDGE_ON) return null
  return {
    scale,
    at,
    back: (px, py) => {
      const sight: Triple = [px, py, 1]
      const normal = cross(b, c)
      const away = volume / dot(sight, normal)
      // (x − x0) b + (y − y0) c
      const off = sight.map((v, k) => v * away - here[k]!) as Triple
      const size = dot(normal, normal)
      return [x0 + dot(cross(off, c), normal) / size, y0 + dot(cross(b, off), normal) / size]
    },
  }
}
