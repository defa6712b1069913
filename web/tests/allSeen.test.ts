import * as THREE from 'three'
import { describe, expect, it } from 'vitest'
import { allSeen } from '../src/view/allSeen'

const WAY = new THREE.Vector3(-0.62, -0.68, 0.42).normalize()

/** Corners of a box, and where they are in the picture, by the camera that draws it. */
function pictured(size: [number, number, number], aspect: number, top: number, bottom: number) {
  const corners = [0, 1].flatMap((i) =>
    [0, 1].flatMap((j) => [0, 1].map((k) => new THREE.Vector3(i * size[0], j * size[1], k * size[2]))),
  )
  const middle = new THREE.Vector3(...size).multiplyScalar(0.5)
  const camera = new THREE.PerspectiveCamera(32, aspect, 0.5, 2000)
  const found = allSeen(corners, middle, WAY, (32 * Math.PI) / 180, aspect, { top, bottom })
  camera.up.set(0, 0, 1)
  camera.position.copy(found.target).addScaledVector(WAY, found.away)
  camera.lookAt(found.target)
  camera.updateMatrixWorld()
  return corners.map((c) => c.clone().project(camera))
}

describe('seeing all of a building', () => {
  it('keeps it clear of what lies over the picture, and fills what is left', () => {
    for (const [size, aspect, top, bottom] of [
      [[12, 15, 11], 1.4, 0.18, 0.08],
      [[60, 24, 8], 2.4, 0.3, 0.1],
      [[6, 6, 60], 0.8, 0, 0],
      [[120, 6, 4], 1, 0.1, 0.2],
    ] as [[number, number, number], number, number, number][]) {
      const at = pictured(size, aspect, top, bottom)
      const [x, y] = [at.map((p) => p.x), at.map((p) => p.y)]
      const room = [
        (Math.max(...x) - Math.min(...x)) / 1.92,
        (Math.max(...y) - Math.min(...y)) / (2 - 2 * top - 2 * bottom),
      ]
      expect(Math.max(...y)).toBeLessThan(1 - 2 * top + 0.01)
      expect(Math.min(...y)).toBeGreaterThan(-1 + 2 * bottom - 0.01)
      expect(Math.max(...x.map(Math.abs))).toBeLessThan(0.97)
      expect(Math.max(...room)).toBeGreaterThan(0.98)
    }
  })
})
