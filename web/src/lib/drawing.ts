/** Geometry of the elevation: from the frame's plane (x across, z up, metres) to the sheet (pixels, y down). */

export type Point = readonly [number, number]
export type Place = readonly [number, number, number]

export interface Sheet {
  scale: number
  at: (x: number, z: number) => Point
}

export interface Box {
  width: number
  height: number
  left: number
  right: number
  top: number
  bottom: number
}

/** The largest true-to-scale placing of a frame in a box, standing on its lower margin. */
export function fit(span: number, height: number, box: Box): Sheet {
  const across = Math.max(box.width - box.left - box.right, 10)
  const up = Math.max(box.height - box.top - box.bottom, 10)
  const scale = Math.min(across / Math.max(span, 0.1), up / Math.max(height, 0.1))
  const x0 = box.left + (across - span * scale) / 2
  const y0 = box.top + up - (up - height * scale) / 2
  return { scale, at: (x, z) => [x0 + x * scale, y0 - z * scale] }
}

/** The curve of values along a run, drawn at right angles to it: towards −z local when positive (the tension side). */
export function curve(
  sheet: Sheet,
  points: readonly Place[],
  axisZ: Place,
  values: readonly number[],
  scale: number,
): Point[] {
  return points.map((p, i) => {
    const off = -(values[i] ?? 0) * scale
    const [x, y] = sheet.at(p[0], p[2])
    return [x + axisZ[0] * off, y - axisZ[2] * off]
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
