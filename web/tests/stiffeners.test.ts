import { describe, expect, it } from 'vitest'
import { platesText, readPlates } from '../src/lib/stiffeners'

describe('plates of stiffeners', () => {
  it('are read as they are written', () => {
    expect(readPlates('80x8')).toEqual({ width: 80, thickness: 8, post: 0 })
    expect(readPlates(' 80 × 8 mm, 200 mm ')).toEqual({ width: 80, thickness: 8, post: 200 })
    expect(readPlates('')).toBeNull()
    for (const text of ['80 × 8', '80 × 8, 200', '62.5 × 6']) {
      const read = readPlates(text)
      if (typeof read !== 'string') expect(platesText(read)).toBe(text)
    }
    expect(platesText(null)).toBe('')
  })

  it('that are none say how to write them', () => {
    for (const text of ['80', '80 × 0', '0 × 8', 'a × b', '80 × 8, x', '80 × 8 × 3'])
      expect(readPlates(text)).toMatch(/write width × thickness/)
    expect(readPlates('1200 × 8')).toMatch(/^Up to/)
  })
})
