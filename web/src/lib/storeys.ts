import type { Schemas } from '../api/client'
import { added, removed, type Change } from './changes'
import { readSpacings, writeSpacings } from './spacings'

/** Heights of storeys as written: “3*3.5 + 4”, or “3 to 14.5”: so many equal ones up to a level. */
export function readStoreys(text: string, level: number): { value: number[] } | string {
  if (!text.trim() || /^(none|0)$/i.test(text.trim())) return { value: [] }
  const total = /^(\d+)\s*(?:up\s+)?to\s*(-?\d+(?:[.,]\d+)?)\s*m?$/i.exec(text.trim())
  if (!total) return readSpacings(text, 40)
  const [count, top] = [Number(total[1]), Number(total[2]!.replace(',', '.'))]
  if (count < 1 || count > 40) return 'Between 1 and 40 storeys can stand above a floor.'
  const height = Number(((top - level) / count).toFixed(6))
  if (height < 0.5) return `Up to ${top} m there is no room for ${count} storeys above ${level} m.`
  return { value: Array<number>(count).fill(height) }
}

export const writeStoreys = (storeys: readonly { height?: number }[]): string =>
  storeys.length ? writeSpacings(storeys.map((s) => s.height ?? 3.5)) : 'none'

/** The changes that give the storeys of a list these heights: each keeps what it says of itself, those too many go. */
export function storeyChanges(path: string, now: readonly Schemas['Storey'][], heights: readonly number[]): Change[] {
  return [
    ...now
      .slice(0, heights.length)
      .flatMap((storey, k) =>
        storey.height === heights[k] ? [] : [{ path: `${path}.${k}.height`, value: heights[k] }],
      ),
    ...removed(path, ...now.slice(heights.length)),
    ...added(path, ...heights.slice(now.length).map((height) => ({ height }))),
  ]
}

/** Braced fields as written: “A:1 D:1 1:-1”, a grid line and the number of the field along it. */
export function readBraced(text: string): { value: { line: string; bay: number }[] } | string {
  const found: { line: string; bay: number }[] = []
  for (const part of text
    .replaceAll('−', '-')
    .split(/[\s,;]+/)
    .filter(Boolean)) {
    const match = /^(.+):(-?\d+)$/.exec(part)
    if (!match) return `“${part}” is no field; write for instance A:1 for the first field along grid line A.`
    found.push({ line: match[1]!, bay: Number(match[2]) })
  }
  return { value: found }
}

export const writeBraced = (fields: readonly { line: string; bay?: number }[]): string =>
  fields.map((f) => `${f.line}:${f.bay ?? 1}`).join(' ')

interface Opening {
  field: [number, number]
  corner: [number, number]
  size: [number, number]
}

/** Openings as written: “1:2 1.0 2.0 2.6 4.0”, the field across and along, the corner from the field's own, the size; more of them
 * parted by semicolons. */
export function readOpenings(text: string): { value: Opening[] } | string {
  const found: Opening[] = []
  for (const part of text
    .split(';')
    .map((one) => one.trim())
    .filter(Boolean)) {
    const match = /^(\d+):(\d+)\s+(.+)$/.exec(part)
    const sizes = (match?.[3] ?? '').replaceAll(',', '.').split(/\s+/).map(Number)
    if (!match || sizes.length !== 4 || !sizes.every((x) => Number.isFinite(x)))
      return `“${part}” is no opening; write field, corner and size: 1:2 1.0 2.0 2.6 4.0.`
    const [x, y, dx, dy] = sizes as [number, number, number, number]
    found.push({ field: [Number(match[1]), Number(match[2])], corner: [x, y], size: [dx, dy] })
  }
  return { value: found }
}

export const writeOpenings = (openings: readonly { field: number[]; corner?: number[]; size: number[] }[]): string =>
  openings.map((o) => [o.field.join(':'), ...(o.corner ?? [0, 0]), ...o.size].join(' ')).join('; ')

/** A name that no other bears: “floor-3”. */
export function freeName(kind: string, taken: Iterable<string>): string {
  const names = new Set(taken)
  let n = 1
  while (names.has(`${kind}-${n}`)) n++
  return `${kind}-${n}`
}

/** Names of the first and the last grid line that spacings from 0 make: those of lines that stand there, else the next free ones, as
 * the floor jig names them. */
export function lineNames(
  grid: readonly { name: string; axis: string; at: number }[],
  axis: 'X' | 'Y',
  spacings: readonly number[],
): string[] {
  const taken = new Set(grid.map((g) => g.name))
  let n = 0
  const next = () => {
    for (;;) {
      const name = axis === 'X' ? String.fromCharCode(65 + (n % 26)) + (n >= 26 ? Math.floor(n / 26) : '') : `${n + 1}`
      n++
      if (!taken.has(name)) return name
    }
  }
  const places = spacings.reduce((all, by) => [...all, all.at(-1)! + by], [0])
  const names = places.map((at) => grid.find((g) => g.axis === axis && Math.abs(g.at - at) < 1e-6)?.name ?? next())
  return [names[0]!, names.at(-1)!]
}

type Point = readonly number[]
export interface Upright {
  name: string
  head: Point
}

/** Where a truss on two columns goes: the left one first, and how often it repeats over the columns beside them. */
export function overColumns(
  pair: readonly [Upright, Upright],
  all: readonly Upright[],
): { on: string[]; count: number; step: number[] } {
  const [a, b] = [...pair].sort((p, q) => p.head[0]! - q.head[0]! || p.head[1]! - q.head[1]!) as [Upright, Upright]
  const span = [b.head[0]! - a.head[0]!, b.head[1]! - a.head[1]!]
  const length = Math.hypot(...span) || 1
  const across = [-span[1]! / length, span[0]! / length]
  const same = (p: Point, x: number, y: number, z: number) =>
    Math.abs(p[0]! - x) < 1e-3 && Math.abs(p[1]! - y) < 1e-3 && Math.abs(p[2]! - z) < 1e-3
  const stands = (d: number) =>
    [a, b].every((c) =>
      all.some((u) => same(u.head, c.head[0]! + across[0]! * d, c.head[1]! + across[1]! * d, c.head[2]!)),
    )
  const places = all
    .map((u) => (u.head[0]! - a.head[0]!) * across[0]! + (u.head[1]! - a.head[1]!) * across[1]!)
    .map((d) => Number(d.toFixed(6)))
  const rows = [...new Set(places)]
    .filter((d) => Math.abs(d) > 0.1 && stands(d))
    .sort((p, q) => Math.abs(p) - Math.abs(q))
  const first = rows.find((d) => d > 0) ?? rows[0]
  if (first === undefined) return { on: [a.name, b.name], count: 1, step: [0, 6, 0] }
  let count = 1
  while (stands(first * count) && count < 200) count++
  return {
    on: [a.name, b.name],
    count,
    step: [Number((across[0]! * first).toFixed(6)), Number((across[1]! * first).toFixed(6)), 0],
  }
}
