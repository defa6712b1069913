/** Geometry of the elevation: from the frame's plane (x across, z up, metres) to the sheet (pixels, y down). */

export type Point = readonly [number, number]
export type Place = readonly [number, number, number]

/** A plane by a point of it and unit vectors to the right and upwards on the sheet. */
export interface Basis {
  origin: readonly number[]
  u: readonly number[]
  v: readonly number[]
}
const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!
/** A place in space as coordinates in a plane. */
export function flat(basis: Basis, p: readonly number[]): Point {
  const d = [p[0]! - basis.origin[0]!, p[1]! - basis.origin[1]!, p[2]! - basis.origin[2]!]
  return [dot(d, basis.u), dot(d, basis.v)]
}
/** A direction in space, turned into a plane. */
export function across(basis: Basis, d: readonly number[]): Point {
  return [dot(d, basis.u), dot(d, basis.v)]
}
/** A point of a plane, in space. */
export function place(basis: Basis, [a, b]: Point): Place {
  const at = (i: number) => basis.origin[i]! + a * basis.u[i]! + b * basis.v[i]!
  return [at(0), at(1), at(2)]
}
export interface Sheet {
  scale: number
  at: (x: number, z: number) => Point
  /** The coordinates of a pixel. */
  back: (x: number, y: number) => Point
}

export interface Box {
  width: number
  height: number
  left: number
  right: number
  top: number
  bottom: number
}

/** The largest true-to-scale placing of a rectangle (least and greatest coordinates) in a box. */
export function fit(least: Point, most: Point, box: Box): Sheet {
  const across = Math.max(box.width - box.left - box.right, 10)
  const up = Math.max(box.height - box.top - box.bottom, 10)
  const [span, height] = [most[0] - least[0], most[1] - least[1]]
  const scale = Math.min(across / Math.max(span, 0.1), up / Math.max(height, 0.1))
  const x0 = box.left + (across - span * scale) / 2
  const y0 = box.top + up - (up - height * scale) / 2
  return {
    scale,
    at: (x, z) => [x0 + (x - least[0]) * scale, y0 - (z - least[1]) * scale],
    back: (x, y) => [least[0] + (x - x0) / scale, least[1] + (y0 - y) / scale],
  }
}

/** The curve of values along a run of points on the sheet, drawn at right angles to it: towards −z local when positive (the
 * tension side). */
export function curve(points: readonly Point[], axis: Point, values: readonly number[], scale: number): Point[] {
  return points.map(([x, y], i) => {
    const off = -(values[i] ?? 0) * scale
    return [x + axis[0] * off, y - axis[1] * off]
  })
}

export function path(points: readonly Point[], closed = false): string {
  const text = points.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join('')
  return closed ? `${text}Z` : text
}

/** Indices of the largest and the smallest value. */
export function extremes(values: readonly number[]): [number, number] {
  let most = 0
  let least = 0
  values.forEach((value, i) => {
    if (value > values[most]!) most = i
    if (value < values[least]!) least = i
  })
  return [most, least]
}

/** A round number of metres, kN or mm near the given one, for scale bars. */
export function roundFigure(value: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(value, 1e-9)))
  return ([5, 2, 1].find((step) => step * power <= value) ?? 1) * power
}
