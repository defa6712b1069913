import { describe, expect, it } from 'vitest'
import { MEASURES, thousands, varied } from '../src/lib/studyChart'
import type { Point } from '../src/stores/study'

const point = (values: Record<string, number | string | boolean>, more: Partial<Point> = {}) =>
  ({ values, tonnage: 30, cost: 60000, area: 1000, ...more }) as Point

describe('charts of a study', () => {
  it('lay out what differs, in the order in which it came', () => {
    const points = [
      point({ spacing: 5, pitch: 8, grade: 'S355' }),
      point({ spacing: 6, pitch: 8, grade: 'S275' }),
      point({ spacing: 6, pitch: 8, grade: 'S355', ends: true }),
    ]
    expect(varied(points)).toEqual(['spacing', 'grade', 'ends'])
    expect(varied(points.slice(1, 2))).toEqual([])
    expect(varied([])).toEqual([])
  })
  it('measure steel and cost, in all and by the plan', () => {
    const p = point({})
    expect(MEASURES.steel.of(p)).toBe(30)
    expect(MEASURES.area.of(p)).toBe(30)
    expect(MEASURES.cost.of(p)).toBe(60000)
    expect(MEASURES.costArea.of(p)).toBe(60)
    expect(thousands(60000)).toBe('60\u202f000')
  })
})
