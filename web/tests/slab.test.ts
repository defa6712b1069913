import { describe, expect, test } from 'vitest'
import type { Schemas } from '../src/api/client'
import { bandsOf, coloursOf, levelsOf, roundUp, trianglesOf, valueIn, type Corner } from '../src/lib/isobands'
import { along, integral, peaks, placesOf, surfaceOf, valueAt } from '../src/lib/slab'

const area = (polygon: readonly Corner[]) =>
  Math.abs(
    polygon.reduce((sum, a, i) => {
      const b = polygon[(i + 1) % polygon.length]!
      return sum + a.x * b.y - b.x * a.y
    }, 0),
  ) / 2

describe('bands', () => {
  test('lie at round numbers, zero among them', () => {
    expect(roundUp(0.31)).toBe(0.5)
    expect(roundUp(2)).toBe(2)
    expect(levelsOf(-11.4, 15.2)).toEqual([-15, -10, -5, 0, 5, 10, 15, 20])
    expect(levelsOf(3, 3)).toEqual([3])
  })

  test('part a triangle without gap or overlap', () => {
    const triangle = [
      { x: 0, y: 0, value: 0 },
      { x: 4, y: 0, value: 8 },
      { x: 0, y: 3, value: 2 },
    ]
    const parts = bandsOf(triangle, [0, 2, 4, 6, 8])
    expect(parts.map((p) => p.band)).toEqual([0, 1, 2, 3])
    expect(parts.reduce((sum, p) => sum + area(p.polygon), 0)).toBeCloseTo(6, 9)
    // above 6 lies a quarter of the side from 0 to 8, a third of that from 2 to 8: 1/4 · 1/3 of the area
    expect(area(parts[3]!.polygon)).toBeCloseTo(6 / 12, 9)
  })

  test('an even surface has one', () => {
    const flat = [0, 1, 2].map((i) => ({ x: i, y: i * i, value: 5 }))
    expect(bandsOf(flat, levelsOf(5, 5))).toHaveLength(1)
  })

  test('are cool below zero and warm above', () => {
    const colours = coloursOf([-10, -5, 0, 5, 10])
    expect(new Set(colours).size).toBe(4)
    expect(colours[0]).not.toBe(colours[3])
  })
})

describe('a slab', () => {
  // two cells of 2 × 3 m side by side that are joined along a line: the value jumps there
  const slab = {
    points: [
      [0, 0],
      [2, 0],
      [4, 0],
      [0, 3],
      [2, 3],
      [4, 3],
    ],
    cells: [
      [0, 1, 4, 3],
      [1, 2, 5, 4],
    ],
    corner: [
      [0, 1, 2, 3],
      [4, 5, 6, 7],
    ],
  } as unknown as Schemas['SlabOut']
  const values = [0, 10, 10, 0, -10, 0, 0, -10]

  test('has its values where they lie', () => {
    const surface = surfaceOf(slab, values)
    expect(surface).toHaveLength(8)
    expect(valueAt(surface, 1, 1)).toBeCloseTo(5, 9)
    expect(valueAt(surface, 3, 2)).toBeCloseTo(-5, 9)
    expect(valueAt(surface, 5, 1)).toBeNull()
    expect(placesOf(slab)[4]).toEqual([2, 0])
    expect(peaks(values)).toEqual([1, 4])
  })

  test('is cut', () => {
    const surface = surfaceOf(slab, values)
    const found = along(surface, [0, 1.5], [2, 1.5], 200)
    expect(found.length).toBeCloseTo(2, 9)
    expect(integral(found.values, found.length)).toBeCloseTo(10, 6)
    const beyond = along(surface, [-1, 1.5], [0, 1.5], 10)
    expect(beyond.values.slice(0, -1).every((v) => v === null)).toBe(true)
  })

  test('of three corners is one triangle', () => {
    const corners = [0, 1, 2].map((i) => ({ x: i, y: i % 2, value: i }))
    expect(trianglesOf(corners)).toHaveLength(1)
    expect(valueIn(corners, 1, 0.5)).not.toBeNull()
    expect(valueIn([corners[0]!, corners[0]!, corners[1]!], 0, 0)).toBeNull()
  })
})
