import * as THREE from 'three'
import { describe, expect, test } from 'vitest'
import { areas, grid, inside } from '../src/view/areas'

const L = [
  [0, 0],
  [6, 0],
  [6, 2],
  [2, 2],
  [2, 4],
  [0, 4],
].map(([x, y]) => new THREE.Vector2(x, y))

describe('what lies on a slab', () => {
  test('has arrows within its outline alone', () => {
    expect(inside(new THREE.Vector2(1, 3), L)).toBe(true)
    expect(inside(new THREE.Vector2(4, 3), L)).toBe(false)
    const found = grid(L)
    expect(found.every((p) => inside(p, L))).toBe(true)
    // squares of a metre: 12 below, 4 above
    expect(found).toHaveLength(16)
    expect(grid([new THREE.Vector2(1, 1)])).toEqual([])
  })

  test('is as high as it is heavy, and says how heavy', () => {
    const corners = L.map((p) => [p.x + 10, p.y, 3.2] as [number, number, number])
    const lying = (p: number) => ({
      panel: 'slab',
      corners,
      force: corners.map(() => [0, 0, -p] as [number, number, number]),
    })
    const { objects, figures } = areas([lying(5), lying(2.5)], 0.8, '#123456')
    expect(figures.map((f) => f.text)).toEqual(['5.00 kN/m²', '2.50 kN/m²'])
    expect(figures[0]!.at.z).toBeCloseTo(4.0)
    expect(figures[1]!.at.z).toBeCloseTo(3.6)
    expect(objects).toHaveLength(2)
    expect(areas([], 1, '#000').objects).toEqual([])
  })
})
