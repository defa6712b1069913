import type { Point } from './drawing'

/** Area of a polygon by the shoelace formula. */
export function area(polygon: readonly (readonly number[])[]): number {
  let twice = 0
  polygon.forEach((p, i) => {
    const q = polygon[(i + 1) % polygon.length]!
    twice += p[0]! * q[1]! - q[0]! * p[1]!
  })
  return Math.abs(twice) / 2
}

/** Whether a place lies within a polygon. */
export function within(polygon: readonly (readonly number[])[], [x, y]: Point): boolean {
  let found = false
  polygon.forEach((a, i) => {
    const b = polygon[(i + 1) % polygon.length]!
    if (a[1]! > y !== b[1]! > y && x < a[0]! + ((y - a[1]!) / (b[1]! - a[1]!)) * (b[0]! - a[0]!)) found = !found
  })
  return found
}

/** How far a place lies from a line through points. */
export function awayFrom(line: readonly (readonly number[])[], [x, y]: Point): number {
  const far = line.map((a, i) => {
    const b = line[i + 1] ?? a
    const [dx, dy] = [b[0]! - a[0]!, b[1]! - a[1]!]
    const t = ((x - a[0]!) * dx + (y - a[1]!) * dy) / Math.max(dx * dx + dy * dy, 1e-12)
    const on = Math.min(Math.max(t, 0), 1)
    return Math.hypot(a[0]! + on * dx - x, a[1]! + on * dy - y)
  })
  return Math.min(...far)
}

/** Where a polygon's letter stands: its centroid. */
export function letterPlace(polygon: readonly Point[]): Point {
  let [twice, x, y] = [0, 0, 0]
  polygon.forEach((p, i) => {
    const q = polygon[(i + 1) % polygon.length]!
    const cross = p[0] * q[1] - q[0] * p[1]
    twice += cross
    x += (p[0] + q[0]) * cross
    y += (p[1] + q[1]) * cross
  })
  if (Math.abs(twice) < 1e-9) return polygon[0] ?? [0, 0]
  return [x / (3 * twice), y / (3 * twice)]
}

const mix = (a: number[], b: number[], share: number) =>
  `rgb(${a.map((v, i) => Math.round(v + (b[i]! - v) * share)).join(' ')})`

/** Fill of a pressure or coefficient: frost blue for suction, moss for pressure, deeper towards `most`. */
export function tint(value: number, most: number): string {
  const share = Math.min(Math.abs(value) / most, 1)
  return value < 0 ? mix([240, 244, 246], [112, 160, 183], share) : mix([243, 246, 236], [150, 178, 110], share)
}
