import * as THREE from 'three'
import { describe, expect, test } from 'vitest'
import { areas, endsOf, grid, inside } from '../src/view/areas'

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
      kind: 'area' as const,
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

  test('stands along a line as on a beam, and at a point as an arrow, pointed at as its slab', () => {
    const strip: [number, number, number][] = [[1, 2, 3], [1, 2.001, 3], [4, 2.001, 3], [4, 2, 3]] // prettier-ignore
    const line = { panel: 'slab', kind: 'line' as const, corners: strip, force: strip.map(() => [0, 0, -6] as [number, number, number]) } // prettier-ignore
    const square: [number, number, number][] = [[2, 3, 3], [2.001, 3, 3], [2.001, 3.001, 3], [2, 3.001, 3]] // prettier-ignore
    const point = { ...line, kind: 'point' as const, corners: square, force: square.map(() => [0, 0, -8] as [number, number, number]) } // prettier-ignore
    const { figures, bands, shafts } = areas([line, point], 0.8, '#123456')
    expect(figures.map((f) => f.text).sort()).toEqual(['6.00 kN/m', '8.0 kN'])
    expect(bands[0]!.userData.bears[0]).toEqual({ on: 'panel', panel: 'slab' })
    expect(shafts[0]!.bears).toEqual({ on: 'panel', panel: 'slab' })
    expect(shafts[0]!.tip.toArray().map((v) => Number(v.toFixed(4)))).toEqual([2.0005, 3.0005, 3])
    const [a, b] = endsOf(strip.map((c) => new THREE.Vector3(...c)))
    expect([a.x, b.x].sort()).toEqual([1, 4])
  })
})
