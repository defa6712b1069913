import { describe, expect, it } from 'vitest'
import { readPad } from '../src/lib/steelTables'

describe('a pad as written', () => {
  const before = { x: 1, y: 1, depth: 0.7, subgrade: 30000, friction: 0.5, clamped: true }
  it('has sides and a depth, on ground like the one before', () => {
    expect(readPad('2 × 1.5 × 0.5', before)).toEqual({ ...before, x: 2, y: 1.5, depth: 0.5 })
    expect(readPad('2x1.5', before)).toEqual({ ...before, x: 2, y: 1.5 })
    expect(readPad('2, 2', null)).toEqual({ x: 2, y: 2, depth: 0.5 })
    expect(readPad('  ', before)).toBeNull()
  })
  it('is refused in a sentence', () => {
    for (const text of ['2', '2 × −1', 'a × b', '1 × 2 × 3 × 4', '0 × 1'])
      expect(readPad(text, before)).toContain('is no pad')
  })
})
