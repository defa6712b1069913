import type { Point } from './drawing'

/** A place that the pen is drawn to: in plane coordinates, with the node that stands there, and what it is in words. */
export interface Snap {
  at: Point
  node?: string
  words: string
  rank: number
}
interface Line {
  name: string
  at: number
}
interface Plan {
  nodes: { name: string; at: Point }[]
  lines: readonly (readonly [Point, Point])[]
  upright: Line[]
  level: Line[]
}

/** Snaps of a plane: nodes first, then crossings of grid lines and levels, middles and thirds of members. */
export function snaps(plan: Plan): Snap[] {
  const found: Snap[] = plan.nodes.map((n) => ({ at: n.at, node: n.name, words: `node ${n.name}`, rank: 0 }))
  for (const u of plan.upright)
    for (const v of plan.level) found.push({ at: [u.at, v.at], words: `${u.name} · ${v.name}`, rank: 1 })
  for (const [a, b] of plan.lines)
    for (const [share, words] of [
      [1 / 2, 'middle'],
      [1 / 3, 'third'],
      [2 / 3, 'third'],
      [1 / 4, 'quarter'],
      [3 / 4, 'quarter'],
    ] as const)
      found.push({
        at: [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share],
        words,
        rank: share === 1 / 2 ? 2 : 3,
      })
  return found
}

/** The snap nearest to a point of the sheet within reach (px); of those as near, the one of first rank. */
export function nearest(all: readonly Snap[], at: Point, onSheet: (p: Point) => Point, reach: number): Snap | null {
  let best: Snap | null = null
  let least = reach
  for (const snap of all) {
    const [x, y] = onSheet(snap.at)
    const away = Math.hypot(x - at[0], y - at[1]) + snap.rank * 0.5
    if (away < least) {
      least = away
      best = snap
    }
  }
  return best
}

/** Feet of the perpendiculars from a point on lines, where they lie between a line's ends and not at the point itself. */
export function feet(p: Point, lines: readonly (readonly [Point, Point])[]): Snap[] {
  return lines.flatMap(([a, b]) => {
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
    const t = ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy)
    const at: Point = [a[0] + t * dx, a[1] + t * dy]
    const away = Math.hypot(at[0] - p[0], at[1] - p[1])
    return t > 0 && t < 1 && away > 1e-3 ? [{ at, words: 'foot of the perpendicular', rank: 2 }] : []
  })
}

/** Whether a line lies inside a window, or, when crossing is enough, touches it. */
export function touches([a, b]: readonly [Point, Point], from: Point, to: Point, crossing: boolean): boolean {
  const [x0, x1] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])]
  const [y0, y1] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])]
  const inside = ([x, y]: Point) => x >= x0 && x <= x1 && y >= y0 && y <= y1
  if (!crossing) return inside(a) && inside(b)
  // clip the line by the four sides (Liang and Barsky)
  let [low, high] = [0, 1]
  for (const [d, q] of [
    [a[0] - b[0], a[0] - x0],
    [b[0] - a[0], x1 - a[0]],
    [a[1] - b[1], a[1] - y0],
    [b[1] - a[1], y1 - a[1]],
  ] as const) {
    if (d === 0) {
      if (q < 0) return false
    } else if (d < 0) low = Math.max(low, q / d)
    else high = Math.min(high, q / d)
  }
  return low <= high
}

/** A typed point: “x, y, z” in metres, “@ dx, dy, dz” from the last one, or “length < angle” in the plane, from the last. */
export function typedPoint(
  text: string,
  last: readonly number[] | null,
  basis: { origin?: readonly number[]; u: readonly number[]; v: readonly number[] },
): [number, number, number] | string {
  const polar = /^\s*@?\s*(-?[\d.]+)\s*<\s*(-?[\d.]+)\s*$/.exec(text.replace('−', '-'))
  if (polar) {
    if (!last) return 'A length and a direction need a point to start from.'
    const [length, angle] = [Number(polar[1]), (Number(polar[2]) * Math.PI) / 180]
    const at = (i: number) => last[i]! + length * (Math.cos(angle) * basis.u[i]! + Math.sin(angle) * basis.v[i]!)
    return [at(0), at(1), at(2)]
  }
  const relative = text.trim().startsWith('@')
  const parts = text
    .replace('@', '')
    .replace(/−/g, '-')
    .split(/[,;\s]+/)
    .filter(Boolean)
    .map(Number)
  // two numbers lie in the plane that is looked at: to the right and up
  const { origin = [0, 0, 0], u, v } = basis
  if (parts.length === 2 && parts.every((x) => Number.isFinite(x))) {
    const from = relative ? last : origin
    if (!from) return 'A step needs a point to start from.'
    const [a, b] = parts as [number, number]
    return [0, 1, 2].map((i) => from[i]! + a * u[i]! + b * v[i]!) as [number, number, number]
  }
  if (parts.length !== 3 || parts.some((x) => !Number.isFinite(x)))
    return 'Three numbers are needed: x, y, z in metres; or two in the plane; or length < angle.'
  if (!relative) return parts as [number, number, number]
  if (!last) return 'A step needs a point to start from.'
  return parts.map((x, i) => x + last[i]!) as [number, number, number]
}
