import type { Schemas } from '../api/client'
import type { Point } from './drawing'
import { stretchOf, type Stretch } from './loadPlaces'

/** Members one after another, as a load over them counts along them: each from where on, m, and its nodes in the order they are passed. */
export interface Piece {
  name: string
  from: number
  length: number
  ends: readonly [number, number]
  turned: boolean
}
interface Line {
  name: string
  line: readonly number[]
  length: number
}

/**
 * The pieces of a load's track: one member from its start, or a run of them from the free end of the first, whichever way they
 * point. Null where one is not there, or does not follow.
 */
export function piecesOf(names: readonly string[], members: readonly Line[]): Piece[] | null {
  const found = names.map((name) => members.find((m) => m.name === name))
  if (!found.length || found.some((m) => !m)) return null
  const lines = found as Line[]
  const outer = (m: Line) => [m.line[0]!, m.line.at(-1)!] as const
  const [first, last] = outer(lines[0]!)
  let at = lines.length > 1 && !outer(lines[1]!).includes(last) ? last : first
  let from = 0
  const pieces: Piece[] = []
  for (const m of lines) {
    const [a, b] = outer(m)
    if (a !== at && b !== at) return null
    const turned = a !== at
    pieces.push({ name: m.name, from, length: m.length, ends: turned ? [b, a] : [a, b], turned })
    at = turned ? a : b
    from += m.length
  }
  return pieces
}

/** A place in pixels, and in perspective how far it lies from who looks. */
export type Seen = readonly [x: number, y: number, away?: number]
/** The same on a sheet: each piece between two points, in pixels; farther: how many times as far away its end is seen as its start. */
export interface Track {
  pieces: readonly (Piece & { a: Point; b: Point; farther: number })[]
  length: number
}
/** Null where a node cannot be seen. */
export function trackOf(pieces: readonly Piece[], at: (node: number) => Seen | null): Track | null {
  const ends = pieces.map((p) => ({ p, a: at(p.ends[0]), b: at(p.ends[1]) }))
  const last = pieces.at(-1)!
  const found = ends.flatMap(({ p, a, b }) =>
    a && b ? [{ ...p, a: [a[0], a[1]] as Point, b: [b[0], b[1]] as Point, farther: (b[2] ?? 1) / (a[2] ?? 1) }] : [],
  )
  return found.length === pieces.length ? { pieces: found, length: last.from + last.length } : null
}
export const pixels = (track: Track) =>
  track.pieces.reduce((sum, { a, b }) => sum + Math.hypot(b[0] - a[0], b[1] - a[1]), 0)

/** Where a distance along a track lies. */
export function spotOn(track: Track, x: number): Point {
  const piece = track.pieces.find((p) => x <= p.from + p.length) ?? track.pieces.at(-1)!
  const share = (x - piece.from) / piece.length
  // what is farther away looks shorter
  const t = (share * piece.farther) / (1 - share + share * piece.farther)
  return [piece.a[0] + (piece.b[0] - piece.a[0]) * t, piece.a[1] + (piece.b[1] - piece.a[1]) * t]
}

/** The distance along a track that is nearest to a point. */
export function alongTrack(track: Track, [x, y]: Point): number {
  let best = { far: Infinity, at: 0 }
  for (const { a, b, from, length, farther } of track.pieces) {
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
    const t = Math.min(Math.max(((x - a[0]) * dx + (y - a[1]) * dy) / Math.max(dx * dx + dy * dy, 1e-9), 0), 1)
    const far = Math.hypot(a[0] + t * dx - x, a[1] + t * dy - y)
    if (far < best.far - 1e-9) best = { far, at: from + (t / (t + (1 - t) * farther)) * length }
  }
  return best.at
}

/** A stretch of a track as a line, round its corners. */
export function lineAlong(track: Track, start: number, end: number): Point[] {
  const corners = track.pieces.map((p) => p.from).filter((x) => x > start && x < end)
  return [start, ...corners, end].map((x) => spotOn(track, x))
}

/** Places on a track where it begins anew, or where a member on it is held, m from its start. */
export function placesOn(track: Track, held: (name: string) => readonly number[]): number[] {
  return track.pieces.flatMap((p) => [
    p.from,
    ...held(p.name).map((x) => (p.turned ? p.from + p.length - x : p.from + x)),
  ])
}

type Load = Schemas['MemberLoad']
/** Places nearer than this are one, m. */
const SAME = 1e-3

/** Where a load acts on one of its members, m from that member's start; null where it does not, or is all over. */
export function stretchOn(load: Load, name: string, members: readonly Line[]): Stretch | null {
  const pieces = piecesOf([load.member, ...(load.run ?? [])], members)
  const piece = pieces?.find((p) => p.name === name)
  const last = pieces?.at(-1)
  const on = piece && stretchOf(load, last!.from + last!.length)
  if (!on) return null
  const [start, end] = [Math.max(on.start - piece.from, 0), Math.min(on.end - piece.from, piece.length)]
  if (end < start - SAME) return null
  return piece.turned ? { start: piece.length - end, end: piece.length - start } : { start, end }
}

/**
 * The loads on a member in a case, by their numbers, that act somewhere along a stretch of it; those over runs too, and those that are
 * all over. Of lines where it is a stretch, else of concentrated ones.
 */
export function alongThere(
  loads: readonly Load[],
  of: { member: string; case: string },
  there: Stretch,
  members: readonly Line[],
): number[] {
  const point = there.end - there.start < SAME
  return loads.flatMap((load, i) => {
    if (load.case !== of.case || (load.member !== of.member && !load.run?.includes(of.member))) return []
    if (load.kind === 'temperature') return [i]
    const own = (load.kind !== 'line') === point ? stretchOn(load, of.member, members) : null
    return own && own.start < there.end + SAME && own.end > there.start - SAME ? [i] : []
  })
}
