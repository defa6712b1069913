import type { Schemas } from '../api/client'
import type { Quantity } from '../stores/workbench'
import { at } from './chart'

/** Diagrams between their stations, as the loads make them: a shear is a parabola that encloses the difference of its moments,
 * a moment the cubic with the shears as its slopes, an axial force a parabola that encloses its own integral. Envelopes run straight from station to station. */

type Run = Schemas['RunOut']
const SHEAR = { My: 'Vz', Mz: 'Vy' } as const
const MOMENT = { Vz: 'My', Vy: 'Mz' } as const
/** Stations nearer than this share of the member stand before and behind a concentrated load, where forces jump. */
const ACROSS = 4e-6
/** Polynomial in t, from 0 at a station to 1 at the next. */
type Piece = readonly [number, number, number, number]

const value = ([a, b, c, d]: Piece, t: number) => a + t * (b + t * (c + t * d))

function piece(run: Run, key: Quantity, i: number, straight: boolean): Piece {
  const [a, b] = [run[key][i]!, run[key][i + 1]!]
  // pieces of a haunch are longer than their share of the member's line
  const h = (run.x[i + 1]! - run.x[i]!) * (run.stretch[i] ?? 1)
  if (straight || h < ACROSS * (run.x.at(-1)! - run.x[0]!)) return [a, b - a, 0, 0]
  if (key === 'My' || key === 'Mz') {
    const shear = run[SHEAR[key]]
    const [u, v] = [shear[i]! * h, shear[i + 1]! * h]
    return [a, u, 3 * (b - a) - 2 * u - v, 2 * (a - b) + u + v]
  }
  const moment = key === 'Vz' || key === 'Vy' ? run[MOMENT[key]] : key === 'N' && run.pulled?.length ? run.pulled : null
  if (moment) {
    const c = 3 * (a + b) - (6 * (moment[i + 1]! - moment[i]!)) / h
    return [a, b - a - c, c, 0]
  }
  return [a, b - a, 0, 0]
}

/** Where a piece turns, strictly between its stations. */
function turns([, b, c, d]: Piece): number[] {
  const inside = (t: number) => t > 1e-6 && t < 1 - 1e-6
  if (Math.abs(d) < 1e-12) return Math.abs(c) < 1e-12 ? [] : [-b / (2 * c)].filter(inside)
  const root = c * c - 3 * b * d
  if (root < 0) return []
  const r = Math.sqrt(root)
  return [(-c - r) / (3 * d), (-c + r) / (3 * d)].filter(inside).sort((p, q) => p - q)
}

/** A diagram with what lies between the stations: where it turns, and points enough to draw it as a curve. */
export function refined(run: Run, key: Quantity, straight = false): { x: number[]; values: number[] } {
  const x: number[] = []
  const values: number[] = []
  const most = Math.max(...run[key].map(Math.abs), 1e-9)
  for (let i = 0; i < run.x.length; i++) {
    x.push(run.x[i]!)
    values.push(run[key][i]!)
    if (straight || i === run.x.length - 1) continue
    const p = piece(run, key, i, straight)
    const found = turns(p).filter((t) => Math.abs(value(p, t)) > 1e-9 * most)
    // a curve is drawn through its quarters
    const bent = Math.abs(value(p, 0.5) - (p[0] + value(p, 1)) / 2) > 2e-3 * most
    const ts = [...new Set([...found, ...(bent ? [0.25, 0.5, 0.75] : [])])].sort((a, b) => a - b)
    for (const t of ts) {
      x.push(run.x[i]! + t * (run.x[i + 1]! - run.x[i]!))
      values.push(value(p, t))
    }
  }
  return { x, values }
}

/** The value at a place along the member. */
export function read(run: Run, key: Quantity, place: number, straight = false): number {
  if (straight) return at(run.x, run[key], place)
  let k = 0
  while (k < run.x.length - 2 && run.x[k + 1]! <= place) k++
  const [a, b] = [run.x[k]!, run.x[k + 1] ?? run.x[k]!]
  const t = b > a ? Math.min(Math.max((place - a) / (b - a), 0), 1) : 0
  return k + 1 < run.x.length ? value(piece(run, key, k, false), t) : run[key][k]!
}
