/** The movement of a building as lines beside its members. */

import * as THREE from 'three'

interface Run {
  member: string
  points: number[][]
  displacement: number[][]
}

/** The largest movement of runs, in metres. */
export const farthest = (runs: Run[]): number =>
  Math.max(0, ...runs.flatMap((r) => r.displacement.map((d) => Math.hypot(d[0]!, d[1]!, d[2]!))))

/** Lines that `put` brings to a share of their movement, drawn `scale` times as large. */
export function movement(runs: Run[], scale: number): { line: THREE.LineSegments; put: (share: number) => void } {
  const still: number[] = []
  const by: number[] = []
  for (const run of runs)
    for (let i = 1; i < run.points.length; i++)
      for (const k of [i - 1, i]) {
        still.push(...run.points[k]!)
        by.push(...run.displacement[k]!.map((d) => d * scale))
      }
  const place = new Float32Array(still)
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(place, 3))
  const line = new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: '#1d6480' }))
  line.frustumCulled = false
  return {
    line,
    put(share) {
      for (let i = 0; i < place.length; i++) place[i] = still[i]! + by[i]! * share
      geometry.attributes.position!.needsUpdate = true
    },
  }
}
