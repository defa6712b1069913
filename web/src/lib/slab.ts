import type { Schemas } from '../api/client'
import type { Corner } from './isobands'
import { trianglesOf, valueIn } from './isobands'

/** What is drawn within a slab. */

export const SLAB_QUANTITIES = {
  w: { words: 'movement w', sign: 'w', unit: 'mm', line: 'mm' },
  mx: { words: 'moment m_x', sign: 'm_x', unit: 'kNm/m', line: 'kNm' },
  my: { words: 'moment m_y', sign: 'm_y', unit: 'kNm/m', line: 'kNm' },
  mxy: { words: 'twisting moment m_xy', sign: 'm_xy', unit: 'kNm/m', line: 'kNm' },
  m1: { words: 'greater principal moment m_1', sign: 'm_1', unit: 'kNm/m', line: 'kNm' },
  m2: { words: 'lesser principal moment m_2', sign: 'm_2', unit: 'kNm/m', line: 'kNm' },
  vx: { words: 'shear v_x', sign: 'v_x', unit: 'kN/m', line: 'kN' },
  vy: { words: 'shear v_y', sign: 'v_y', unit: 'kN/m', line: 'kN' },
  nx: { words: 'force n_x', sign: 'n_x', unit: 'kN/m', line: 'kN' },
  ny: { words: 'force n_y', sign: 'n_y', unit: 'kN/m', line: 'kN' },
  nxy: { words: 'shear in its plane n_xy', sign: 'n_xy', unit: 'kN/m', line: 'kN' },
  n1: { words: 'greater principal force n_1', sign: 'n_1', unit: 'kN/m', line: 'kN' },
  n2: { words: 'lesser principal force n_2', sign: 'n_2', unit: 'kN/m', line: 'kN' },
} as const
export type SlabQuantity = keyof typeof SLAB_QUANTITIES
type Slab = Schemas['SlabOut']
type Spot = readonly [number, number]

/** The triangles of a slab with a value at each corner, in its own metres. */
export function surfaceOf(slab: Slab, values: readonly number[]): Corner[][] {
  return slab.cells.flatMap((cell, c) =>
    trianglesOf(
      cell.map((p, i) => ({ x: slab.points[p]![0], y: slab.points[p]![1], value: values[slab.corner[c]![i]!]! })),
    ),
  )
}

/** Values along a line through a slab, at even steps; null where it has none. length: in metres. */
export function along(triangles: readonly Corner[][], a: Spot, b: Spot, steps = 120) {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1])
  const [x0, x1] = [Math.min(a[0], b[0]) - 1e-6, Math.max(a[0], b[0]) + 1e-6]
  const [y0, y1] = [Math.min(a[1], b[1]) - 1e-6, Math.max(a[1], b[1]) + 1e-6]
  const near = triangles.filter(
    (t) => t.some((c) => c.x >= x0) && t.some((c) => c.x <= x1) && t.some((c) => c.y >= y0) && t.some((c) => c.y <= y1),
  )
  const values = Array.from({ length: steps + 1 }, (_, i) => {
    const [x, y] = [a[0] + ((b[0] - a[0]) * i) / steps, a[1] + ((b[1] - a[1]) * i) / steps]
    return valueAt(near, x, y)
  })
  return { length, values }
}

/** The value at a place, null beside the slab. */
export function valueAt(triangles: readonly Corner[][], x: number, y: number): number | null {
  for (const triangle of triangles) {
    const value = valueIn(triangle, x, y)
    if (value !== null) return value
  }
  return null
}

/** The integral of values at even steps over a length, by trapezia; what is beside the slab counts nothing. */
export function integral(values: readonly (number | null)[], length: number): number {
  const step = length / (values.length - 1)
  return values.slice(1).reduce<number>((sum, v, i) => sum + (step * ((v ?? 0) + (values[i] ?? 0))) / 2, 0)
}

/** Where the greatest and the least value lie: the numbers of these values. */
export function peaks(values: readonly number[]): [number, number] {
  let [most, least] = [0, 0]
  values.forEach((v, i) => {
    if (v > values[most]!) most = i
    if (v < values[least]!) least = i
  })
  return [most, least]
}

/** The place of each value. */
export function placesOf(slab: Slab): Spot[] {
  const found: Spot[] = []
  slab.cells.forEach((cell, c) => cell.forEach((p, i) => (found[slab.corner[c]![i]!] = slab.points[p]!)))
  return found
}
