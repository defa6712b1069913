import { describe, expect, it } from 'vitest'
import { at, bars, extent, straightened } from '../src/lib/chart'

describe('a chart of a member', () => {
  it('reads between stations, and the later one where two coincide', () => {
    const x = [0, 1, 2, 2, 3]
    const values = [0, 10, 20, -5, -8]
    expect(at(x, values, 0.5)).toBe(5)
    expect(at(x, values, 2)).toBe(-5)
    expect(at(x, values, 2.5)).toBe(-6.5)
    expect(at(x, values, 9)).toBe(-8)
  })
  it('knows the largest size and the outline of a band', () => {
    expect(extent([3, -7, 2])).toBe(7)
    expect(extent([])).toBe(0)
    expect(bars([0, 1], [2, 3], [-1, -4])).toEqual({ x: [0, 1, 1, 0], values: [2, 3, -4, -1] })
  })
})

it('measures from the chord or as it is', () => {
  expect(straightened([0, 5, 10], [2, 9, 4], true)).toEqual([0, 6, 0])
  expect(straightened([0, 5, 10], [2, 9, 4], false)).toEqual([2, 9, 4])
})
