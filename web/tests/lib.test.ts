import { describe, expect, it } from 'vitest'
import { curve, extremes, fit, path, roundFigure } from '../src/lib/drawing'
import { freshness, LINKS } from '../src/lib/stages'
import { apart, compare, csv, tabbed } from '../src/lib/table'
import { figures, OXIDE, temper } from '../src/lib/temper'

describe('the temper scale', () => {
  it('changes colour at its steps', () => {
    expect(temper(0.5)).toBe('#b9c4cb')
    expect(temper(0.501)).toBe('#9fb0ae')
    expect(temper(1.0)).toBe('#8a5a7d')
    expect(temper(1.0001)).toBe(OXIDE)
  })
  it('never writes a failing figure as 1.00', () => {
    expect(figures(1.0)).toBe('1.00')
    expect(figures(1.0004)).toBe('1.01')
    expect(figures(null)).toBe('–')
  })
})

describe('the elevation', () => {
  const box = { width: 800, height: 600, left: 100, right: 100, top: 100, bottom: 100 }
  it('keeps both directions to one scale and stays in its box', () => {
    const sheet = fit([0, 0], [24, 8], box)
    const [x0, y0] = sheet.at(0, 0)
    const [x1, y1] = sheet.at(24, 8)
    expect((x1 - x0) / 24).toBeCloseTo((y0 - y1) / 8, 9)
    expect(x0).toBeGreaterThanOrEqual(100)
    expect(x1).toBeLessThanOrEqual(700)
    expect(y1).toBeGreaterThanOrEqual(100)
  })
  it('draws a sagging moment below a beam and a hogging one above', () => {
    const sheet = fit([0, 0], [10, 5], box)
    const points = [sheet.at(0, 5), sheet.at(10, 5)]
    const [first, last] = curve(points, [0, 1], [10, -10], 2)
    const level = sheet.at(0, 5)[1]
    expect(first![1]).toBeCloseTo(level + 20)
    expect(last![1]).toBeCloseTo(level - 20)
  })
  it('finds extremes and round figures', () => {
    expect(extremes([1, -4, 3, 2])).toEqual([2, 1])
    expect(roundFigure(37)).toBe(20)
    expect(roundFigure(0.6)).toBe(0.5)
    expect(
      path(
        [
          [0, 0],
          [1, 2],
        ],
        true,
      ),
    ).toBe('M0.0 0.0L1.0 2.0Z')
  })
})

describe('freshness', () => {
  const prints = { structure: 'a', loading: 'b', combinations: 'c', response: 'd', verification: 'e' }
  const link = (key: string) => LINKS.find((l) => l.key === key)!
  it('is a comparison of fingerprints', () => {
    const chain = { fingerprints: prints, problem: null, broken_stage: '' }
    const edited = { fingerprints: { ...prints, verification: 'x' } }
    expect(freshness(link('verification'), edited, chain, true)).toBe('refreshing')
    expect(freshness(link('verification'), edited, chain, false)).toBe('behind')
    expect(freshness(link('response'), edited, chain, true)).toBe('current')
  })
  it('says from which link on the chain is broken', () => {
    const chain = { fingerprints: prints, problem: { message: 'a mechanism', place: '' }, broken_stage: 'response' }
    expect(freshness(link('frame'), { fingerprints: prints }, chain, false)).toBe('current')
    expect(freshness(link('response'), { fingerprints: prints }, chain, false)).toBe('broken')
    expect(freshness(link('verification'), { fingerprints: prints }, chain, false)).toBe('broken')
  })
})

describe('tables', () => {
  it('go to a spreadsheet', () => {
    expect(tabbed(['a', 'b'], [['x\ty', 1]])).toBe('a\tb\nx y\t1')
    expect(csv(['a', 'b'], [['x, "y"', null]])).toBe('a,b\r\n"x, ""y""",\r\n')
  })
  it('cannot smuggle in a formula', () => {
    expect(csv(['a'], [['=1+1']])).toBe("a\r\n'=1+1\r\n")
    for (const text of ['+cmd', '-cmd', '@sum', '\t=1', '\r=1', '+1+cmd'])
      expect(tabbed(['a'], [[text]])).toBe(`a\n'${text.replace(/[\t\r]/g, ' ')}`)
    for (const number of ['-1.5', '+2', '−3 kN', 4, -5]) expect(tabbed(['a'], [[number]])).toBe(`a\n${number}`)
  })
})

it('takes figures and the combinations they bear apart', () => {
  const head = ['Member', 'N kN most', 'Length']
  const rows = [
    ['Rafter 1', '−47.7 C181', '6.00'],
    ['Rafter 2', '3.0 C2', null],
  ]
  expect(apart(head, rows)).toEqual({
    head: ['Member', 'N kN most', 'N kN most, in', 'Length'],
    rows: [
      ['Rafter 1', -47.7, 'C181', 6],
      ['Rafter 2', 3, 'C2', null],
    ],
  })
})

it('takes places apart too', () => {
  expect(apart(['M_y most'], [['47.7 C181 at 3.21'], ['−2.0 C4 at 0.00']])).toEqual({
    head: ['M_y most', 'M_y most, in', 'M_y most, at m'],
    rows: [
      [47.7, 'C181', 3.21],
      [-2, 'C4', 0],
    ],
  })
})

describe('the order of a ledger', () => {
  it('goes by numbers and their signs, not by letters', () => {
    expect(['0.84', '0.10', '0.27'].sort(compare)).toEqual(['0.10', '0.27', '0.84'])
    expect(['−3.2', '−45', '−120', '7'].sort(compare)).toEqual(['−120', '−45', '−3.2', '7'])
    expect(['47.7 C181', '5.1 C2', '−8 C9'].sort(compare)).toEqual(['−8 C9', '5.1 C2', '47.7 C181'])
    expect(['C10', 'C9', ''].sort(compare)).toEqual(['', 'C9', 'C10'])
    expect(['beam', 2, '1.5'].sort(compare)).toEqual(['1.5', 2, 'beam'])
  })
})
