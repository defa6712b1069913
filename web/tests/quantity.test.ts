import { describe, expect, it } from 'vitest'
import { fixed, parseQuantity, shown } from '../src/lib/quantity'

describe('numbers as engineers write them', () => {
  it.each([
    ['6', 6],
    ['6m', 6],
    ['7200mm', 7.2],
    ['7200 mm', 7.2],
    ['3*7.2', 21.6],
    ['3 × 7.2 m', 21.6],
    ['20ft', 6.096],
    ['2*(3+1.5)', 9],
    ['6m + 250mm', 6.25],
    ['12/4', 3],
    ['7,2', 7.2],
    ['−1.5', -1.5],
    ['1e1', 10],
  ])('%s is %d m', (text, value) => {
    expect(parseQuantity(text, 'length')).toBeCloseTo(value, 9)
  })

  it('knows slopes, pressures and speeds', () => {
    expect(parseQuantity('20%', 'angle')).toBeCloseTo(11.30993, 4)
    expect(parseQuantity('750 N/m²', 'pressure')).toBeCloseTo(0.75, 9)
    expect(parseQuantity('90 km/h', 'speed')).toBeCloseTo(25, 9)
  })

  it.each([
    ['', 'length', 'needed'],
    ['wide', 'length', 'not a number'],
    ['6 kg', 'length', 'not understood'],
    ['(6', 'length', 'bracket'],
    ['6/0', 'length', 'zero'],
    ['2.5', 'count', 'whole number'],
    ['6m', 'count', 'not understood'],
    ['Infinity', 'length', 'not a number'],
    ['NaN', 'length', 'not a number'],
  ] as const)('refuses “%s”', (text, kind, reason) => {
    expect(parseQuantity(text, kind)).toContain(reason)
  })

  it('writes numbers', () => {
    expect(shown(24)).toBe('24')
    expect(shown(0.1 + 0.2)).toBe('0.3')
    expect(fixed(-3.14159, 1)).toBe('−3.1')
    expect(fixed(-0.001, 1)).toBe('0.0')
  })
})
