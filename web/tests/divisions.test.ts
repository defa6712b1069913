import { describe, expect, it } from 'vitest'
import { divisions } from '../src/lib/handwork'

describe('where a member is divided', () => {
  it('is into equal parts by a whole number', () => {
    expect(divisions('3', 8)).toEqual({ parts: 3 })
    expect(divisions('2.5', 8)).toContain('A number of parts')
  })
  it('is at shares, or at distances by its length', () => {
    expect(divisions('30 % 70 %', 8)).toEqual({ at: [0.3, 0.7] })
    expect(divisions('0,3', 8)).toEqual({ at: [0.3] })
    expect(divisions('2 4 m', 8)).toEqual({ at: [0.25, 0.5] })
  })
  it('is refused beyond the ends, and where it says nothing', () => {
    expect(divisions('9 m', 8)).toContain('Between the ends')
    expect(divisions('0 %', 8)).toContain('Between the ends')
    for (const text of ['', 'x', '1 x m']) expect(divisions(text, 8)).toContain('A number of parts')
  })
})
