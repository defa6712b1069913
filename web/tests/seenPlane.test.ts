import { describe, expect, it } from 'vitest'
import * as THREE from 'three'
import { seenPlane } from '../src/lib/seenPlane'
import { seenFrom } from '../src/view/space'

const camera = new THREE.PerspectiveCamera(32, 1.6, 0.5, 2000)
camera.up.set(0, 0, 1)
camera.position.set(30, -40, 25)
camera.lookAt(5, 5, 3)
camera.updateMatrixWorld()
const eye = seenFrom(camera, 1280, 800)

describe('a plane seen in perspective', () => {
  // a roof of 1 in 2 that climbs with X
  const roof = { origin: [1, 2, 4], u: [0, -1, 0], v: [2 / Math.sqrt(5), 0, 1 / Math.sqrt(5)] }

  it('places are where the camera sees them, and pixels come back to them', () => {
    const sheet = seenPlane(roof, [3, 2], eye)!
    for (const [x, y] of [
      [0, 0],
      [7, 0],
      [7, -4],
      [-3, 5],
      [3, 2],
    ] as const) {
      const space = [1, 2 - x, 4].map((o, k) => o + y * roof.v[k]!)
      const seen = eye(space)!
      const [px, py] = sheet.at(x, y)
      expect([px, py]).toEqual([expect.closeTo(seen[0], 6), expect.closeTo(seen[1], 6)])
      expect(sheet.back(px, py)).toEqual([expect.closeTo(x, 6), expect.closeTo(y, 6)])
    }
  })

  it('its scale is that of a small square there', () => {
    const sheet = seenPlane(roof, [3, 2], eye)!
    const [a, b, c] = [sheet.at(3, 2), sheet.at(3.001, 2), sheet.at(3, 2.001)]
    const area = Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 1e-6
    expect(sheet.scale ** 2).toBeCloseTo(area, 0)
  })

  it('is none behind who looks, and none edge on', () => {
    expect(seenPlane({ ...roof, origin: [60, -90, 50] }, [0, 0], eye)).toBeNull()
    const towards = new THREE.Vector3(5, 5, 3).sub(camera.position).normalize()
    const edge = { origin: [5, 5, 3], u: towards.toArray(), v: [0, 0, 1] }
    edge.v = new THREE.Vector3(...edge.v).addScaledVector(towards, -towards.z).normalize().toArray()
    // a plane that holds the eye itself
    expect(seenPlane(edge, [0, 0], eye)).toBeNull()
  })
})
