import * as THREE from 'three'

/** What lies over a picture at its top and bottom, as shares of its height. */
export interface Covered {
  top: number
  bottom: number
}
/** Share of the picture's width that is used. */
const WIDE = 0.96
/** No more of its height than this counts as covered at either side. */
const MOST = 0.3

/** How far to stand from a target, and where it is, so that all points are seen clear of what covers the picture. way: unit vector to
 * the eye; middle: of the points; fov: of the height, in radians. */
export function allSeen(
  points: readonly THREE.Vector3[],
  middle: THREE.Vector3,
  way: THREE.Vector3,
  fov: number,
  aspect: number,
  covered: Covered,
): { away: number; target: THREE.Vector3 } {
  const right = new THREE.Vector3(0, 0, 1).cross(way).normalize()
  const above = way.clone().cross(right)
  const half = Math.tan(fov / 2)
  const [low, high] = [-1 + 2 * Math.min(covered.bottom, MOST), 1 - 2 * Math.min(covered.top, MOST)]
  const seen = points.map((p) => p.clone().sub(middle))
  const nearest = Math.max(...seen.map((p) => p.dot(way)), 0)
  let away = Math.max(...seen.map((p) => p.length()), 1) * 4
  let [aside, up] = [0, 0]
  for (let turn = 0; turn < 30; turn++) {
    const depth = seen.map((p) => away - p.dot(way))
    const x = seen.map((p, i) => (p.dot(right) - aside) / (depth[i]! * half * aspect))
    const y = seen.map((p, i) => (p.dot(above) - up) / (depth[i]! * half))
    const [x0, x1, y0, y1] = [Math.min(...x), Math.max(...x), Math.min(...y), Math.max(...y)]
    aside += ((x0 + x1) / 2) * away * half * aspect
    up += ((y0 + y1 - low - high) / 2) * away * half
    away = Math.max(away * Math.max((x1 - x0) / (2 * WIDE), (y1 - y0) / (high - low)), nearest + 1)
  }
  return { away, target: middle.clone().addScaledVector(right, aside).addScaledVector(above, up) }
}
