import * as THREE from 'three'
import { describe, expect, it } from 'vitest'
import { dots, hinges } from '../src/view/marks'

const nodes = [
  [0, 0, 0],
  [6, 0, 0],
]
const middles = (found: THREE.Object3D[]) => {
  const box = new THREE.Box3()
  for (const object of found) box.expandByObject(object)
  return box.getCenter(new THREE.Vector3()).toArray()
}

describe('hinges in three dimensions', () => {
  it('are rings beside the end that lets go', () => {
    const near = (at: number[], x: number) => at.forEach((v, i) => expect(v).toBeCloseTo(i ? 0 : x, 6))
    near(middles(hinges([{ line: [0, 1], hinged: [true, false] }], nodes, 0.1)), 0.16)
    near(middles(hinges([{ line: [0, 1], hinged: [false, true] }], nodes, 0.1)), 5.84)
  })
  it('are none of rigid ends, and of members too short to show them', () => {
    expect(hinges([{ line: [0, 1], hinged: [false, false] }], nodes, 0.1)).toEqual([])
    expect(hinges([{ line: [0, 1], hinged: [true, true] }], nodes, 2)).toEqual([])
  })
  it('nodes are dots', () => {
    expect((dots(nodes)[0] as THREE.Points).geometry.getAttribute('position').count).toBe(2)
    expect(dots([])).toEqual([])
  })
})
