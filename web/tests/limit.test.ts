import { describe, expect, it } from 'vitest'
import { limitText, readLimit } from '../src/lib/limit'

describe('limits of movement', () => {
  it('are read as they are written', () => {
    expect(readLimit('')).toEqual({ ratio: null, mm: null })
    expect(readLimit('250')).toEqual({ ratio: 250, mm: null })
    expect(readLimit('L/250')).toEqual({ ratio: 250, mm: null })
    expect(readLimit('L/600, 25 mm')).toEqual({ ratio: 600, mm: 25 })
    expect(readLimit('2,5 cm; 600')).toEqual({ ratio: 600, mm: 25 })
    expect(readLimit('12.5mm')).toEqual({ ratio: 0, mm: 12.5 })
    expect(readLimit('0')).toEqual({ ratio: 0, mm: null })
  })
  it('say what is wrong', () => {
    expect(readLimit('wide')).toContain('not a number')
    expect(readLimit('250, 300')).toBe('A ratio is stated twice.')
    expect(readLimit('5 mm, 6 mm')).toBe('Millimetres are stated twice.')
    expect(readLimit('-250')).toBe('A limit is not negative.')
  })
  it('are written as they are read', () => {
    for (const text of ['', '250', '250, 25 mm', '12.5 mm', '0']) {
      const found = readLimit(text)
      expect(typeof found === 'string' ? found : limitText(found)).toBe(text)
    }
  })
})
