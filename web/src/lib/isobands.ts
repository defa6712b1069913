/** Coloured bands of a value that runs linearly over triangles. */

export interface Corner {
  x: number
  y: number
  value: number
}

/** A number that people read easily, not below another: 1, 2 or 5 times a power of ten. */
export function roundUp(value: number): number {
  if (!(value > 0)) return 1
  const power = 10 ** Math.floor(Math.log10(value))
  return [1, 2, 5, 10].map((k) => k * power).find((k) => k >= value * (1 - 1e-9))!
}

/** Levels that part values from least to most into about `count` bands, at round numbers; zero is one of them where it lies within. */
export function levelsOf(least: number, most: number, count = 10): number[] {
  const span = most - least
  if (!(span > 0)) return [least]
  const step = roundUp(span / count)
  const first = Math.floor(least / step + 1e-9)
  const last = Math.ceil(most / step - 1e-9)
  return Array.from({ length: last - first + 1 }, (_, i) => (first + i) * step)
}

/** The part of a polygon where its value is at least, or at most, a level. */
function clipped(polygon: readonly Corner[], level: number, above: boolean): Corner[] {
  const inside = (c: Corner) => (above ? c.value >= level : c.value <= level)
  const found: Corner[] = []
  polygon.forEach((a, i) => {
    const b = polygon[(i + 1) % polygon.length]!
    if (inside(a)) found.push(a)
    if (inside(a) !== inside(b)) {
      const t = (level - a.value) / (b.value - a.value)
      found.push({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t, value: level })
    }
  })
  return found
}

/** The parts of a triangle by band: the number of the band, between levels k and k + 1, with its polygon. */
export function bandsOf(triangle: readonly Corner[], levels: readonly number[]): { band: number; polygon: Corner[] }[] {
  const values = triangle.map((c) => c.value)
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const found: { band: number; polygon: Corner[] }[] = []
  for (let k = 0; k < Math.max(levels.length - 1, 1); k++) {
    const [from, to] = [levels[k]!, levels[k + 1] ?? Infinity]
    if (high < from || low > to) continue
    const polygon = low >= from && high <= to ? [...triangle] : clipped(clipped(triangle, from, true), to, false)
    if (polygon.length > 2) found.push({ band: k, polygon })
    if (high <= to) break
  }
  return found
}

/** A cell with a corner in its middle, as triangles. */
export function trianglesOf(cell: readonly Corner[]): Corner[][] {
  if (cell.length === 3) return [[...cell]]
  const mean = (of: (c: Corner) => number) => cell.reduce((sum, c) => sum + of(c), 0) / cell.length
  const middle = { x: mean((c) => c.x), y: mean((c) => c.y), value: mean((c) => c.value) }
  return cell.map((c, i) => [c, cell[(i + 1) % cell.length]!, middle])
}

/** The value at a place in a triangle, null outside it. */
export function valueIn(triangle: readonly Corner[], x: number, y: number): number | null {
  const [a, b, c] = [triangle[0]!, triangle[1]!, triangle[2]!]
  const whole = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y)
  if (Math.abs(whole) < 1e-12) return null
  const s = ((x - a.x) * (c.y - a.y) - (c.x - a.x) * (y - a.y)) / whole
  const t = ((b.x - a.x) * (y - a.y) - (x - a.x) * (b.y - a.y)) / whole
  const off = -1e-9
  return s >= off && t >= off && s + t <= 1 - off ? a.value + s * (b.value - a.value) + t * (c.value - a.value) : null
}

/** From slate for what is negative over paper to rust for what is positive. */
const COOL = ['#e6e9e6', '#c3d2d4', '#93b1b8', '#5f8c99', '#3a6779', '#234659']
const WARM = ['#f0e8d8', '#e6cfa2', '#d7aa66', '#c07f42', '#9b5433', '#6d3328']

/** The colour of every band between levels: the farther from zero, the deeper. */
export function coloursOf(levels: readonly number[]): string[] {
  const most = Math.max(...levels.map(Math.abs), 1e-12)
  return levels.slice(0, Math.max(levels.length - 1, 1)).map((from, k) => {
    const middle = (from + (levels[k + 1] ?? from)) / 2
    const ramp = middle < 0 ? COOL : WARM
    return ramp[Math.min(Math.floor((Math.abs(middle) / most) * ramp.length), ramp.length - 1)]!
  })
}
