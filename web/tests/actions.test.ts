import { describe, expect, it } from 'vitest'
import { readFactors } from '../src/lib/combinations'
import { components, inRun, readStretch } from '../src/lib/loads'
import { area, letterPlace, tint } from '../src/lib/surfaces'

const CASES = [
  { symbol: 'G1', name: 'Self-weight of steel' },
  { symbol: 'G2', name: 'Cladding' },
  { symbol: 'S1', name: 'Snow, undrifted' },
]
describe('factors of a combination', () => {
  it('reads a formula in symbols', () => {
    expect(readFactors('1.35 (G1 + G2) + 1,5 S1', CASES)).toEqual({
      'Self-weight of steel': 1.35,
      Cladding: 1.35,
      'Snow, undrifted': 1.5,
    })
    expect(readFactors('G1 − 0.5 S1', CASES)).toEqual({ 'Self-weight of steel': 1, 'Snow, undrifted': -0.5 })
  })
  it('reads names with spaces and commas, also those that begin as another does', () => {
    const cases = [
      ...CASES,
      { symbol: 'Q1', name: 'Crane' },
      { symbol: 'Q2', name: 'Crane in bay 2' },
      { symbol: 'Q3', name: '2 t hoist' },
    ]
    expect(readFactors('1.35 (Cladding + Self-weight of steel) + 1,5 Snow, undrifted', cases)).toEqual({
      Cladding: 1.35,
      'Self-weight of steel': 1.35,
      'Snow, undrifted': 1.5,
    })
    expect(readFactors('1.5 crane in bay 2 + 0.9 Crane − 2 2 t hoist', cases)).toEqual({
      'Crane in bay 2': 1.5,
      Crane: 0.9,
      '2 t hoist': -2,
    })
    expect(readFactors('1.5 Crane in bay 3', cases)).toContain('not understood')
  })
  it('says what is wrong', () => {
    expect(readFactors('', CASES)).toContain('needed')
    expect(readFactors('1.2 S7', CASES)).toBe('There is no case “S7”.')
    expect(readFactors('G1 + G1', CASES)).toContain('twice')
    expect(readFactors('1.2 + ', CASES)).toContain('not understood')
  })
})
describe('loads', () => {
  it('run over members that follow one another, whichever way they point', () => {
    const members = [
      { name: 'b', nodes: [3, 2] },
      { name: 'c', nodes: [3, 7, 4] },
      { name: 'a', nodes: [1, 2] },
    ]
    expect(inRun(members)).toEqual(['c', 'b', 'a'])
    expect(inRun([...members, { name: 'd', nodes: [2, 9] }])).toContain('end to end')
    expect(inRun([members[0]!, { name: 'e', nodes: [8, 9] }])).toContain('end to end')
    expect(
      inRun([
        { name: 'a', nodes: [1, 2] },
        { name: 'b', nodes: [2, 3] },
        { name: 'c', nodes: [3, 1] },
      ]),
    ).toContain('ring')
  })
  it('have a direction and axes', () => {
    expect(components('down', 5)).toEqual({ value: [0, 0, -5], axes: 'global' })
    expect(components('y', 2)).toEqual({ value: [0, 2, 0], axes: 'local' })
    expect(components('plan', 1).axes).toBe('projected')
  })
  it('have a place on the member', () => {
    expect(readStretch('')).toEqual({ start: 0, end: null, ratio: false })
    expect(readStretch('1 – 3,5')).toEqual({ start: 1, end: 3.5, ratio: false })
    expect(readStretch('50 %')).toEqual({ start: 0.5, end: null, ratio: true })
    expect(readStretch('25-75 %')).toEqual({ start: 0.25, end: 0.75, ratio: true })
    expect(readStretch('25-175 %')).toContain('100 %')
    expect(readStretch('here')).toContain('no stretch')
  })
})
describe('surfaces', () => {
  const square = [
    [0, 0],
    [4, 0],
    [4, 2],
    [0, 2],
  ] as const
  it('have an area and a middle', () => {
    expect(area(square)).toBe(8)
    expect(letterPlace(square)).toEqual([2, 1])
  })
  it('are blue under suction, green under pressure, deeper with the size', () => {
    const blue = (text: string) => text.match(/\d+/g)!.map(Number)
    const [r, g, b] = blue(tint(-2, 2))
    expect(b).toBeGreaterThan(r!)
    const [r2, g2, b2] = blue(tint(2, 2))
    expect(g2).toBeGreaterThan(b2!)
    expect(blue(tint(-0.2, 2))[0]).toBeGreaterThan(r!)
    expect([g, r2].every(Number.isFinite)).toBe(true)
  })
})
