import { describe, expect, it } from 'vitest'
import { readSteps, spanPatterns } from '../src/lib/loads'
import {
  freeName,
  lineNames,
  overColumns,
  readBraced,
  readOpenings,
  readStoreys,
  storeyChanges,
  writeBraced,
  writeOpenings,
} from '../src/lib/storeys'

describe('storeys as written', () => {
  it('heights one above the other, or so many up to a level', () => {
    expect(readStoreys('3*3.5 + 4', 4)).toEqual({ value: [3.5, 3.5, 3.5, 4] })
    expect(readStoreys('3 to 14,5', 4)).toEqual({ value: [3.5, 3.5, 3.5] })
    expect(readStoreys('none', 4)).toEqual({ value: [] })
    expect(readStoreys('4 to 5', 4)).toContain('no room')
    expect(readStoreys('high', 4)).toContain('not a spacing')
  })
  it('keeps what each storey says of itself', () => {
    const storey = (height: number) => ({ height, imposed: 2 }) as never
    const now = [storey(3.5), storey(3.5)]
    expect(storeyChanges('jigs.0.storeys', now, [3.5, 4, 3])).toEqual([
      { path: 'jigs.0.storeys.1.height', value: 4 },
      { path: 'jigs.0.storeys', do: 'add', value: { height: 3 } },
    ])
    expect(storeyChanges('s', now, [3.5])).toEqual([{ path: 's', do: 'remove', value: now[1] }])
  })
  it('reads braced fields', () => {
    const found = readBraced('A:1, D:−1 12:3') as { value: { line: string; bay: number }[] }
    expect(found.value).toEqual([
      { line: 'A', bay: 1 },
      { line: 'D', bay: -1 },
      { line: '12', bay: 3 },
    ])
    expect(writeBraced(found.value)).toBe('A:1 D:-1 12:3')
    expect(readBraced('A1')).toContain('no field')
  })
  it('reads openings', () => {
    const found = readOpenings('1:2 1 2 2.6 4; 3:1 0 0 1,2 1.2') as { value: never[] }
    expect(found.value).toEqual([
      { field: [1, 2], corner: [1, 2], size: [2.6, 4] },
      { field: [3, 1], corner: [0, 0], size: [1.2, 1.2] },
    ])
    expect(writeOpenings(found.value)).toBe('1:2 1 2 2.6 4; 3:1 0 0 1.2 1.2')
    expect(readOpenings('1:2 1 2 3')).toContain('no opening')
  })
  it('names the outer lines as the jig does, beside those that stand', () => {
    expect(lineNames([], 'X', [6, 6, 6])).toEqual(['A', 'D'])
    expect(lineNames([], 'Y', [6, 6])).toEqual(['1', '3'])
    const hall = [
      { name: 'A', axis: 'X', at: 0 },
      { name: 'B', axis: 'X', at: 24 },
      { name: '1', axis: 'Y', at: 0 },
      { name: '2', axis: 'Y', at: 6 },
    ]
    expect(lineNames(hall, 'X', [6, 6, 6])).toEqual(['A', 'E'])
    expect(lineNames(hall, 'Y', [6, 6])).toEqual(['1', '3'])
  })
  it('finds a free name', () => {
    expect(freeName('floor', ['floor-1', 'floor-3'])).toBe('floor-2')
  })
})

describe('a truss over columns', () => {
  const grid = (ys: number[]) =>
    ys.flatMap((y) => [
      { name: `a${y}`, head: [0, y, 6] },
      { name: `b${y}`, head: [15, y, 6] },
    ])
  it('repeats as far as pairs of columns stand', () => {
    const all = [...grid([0, 5, 10, 15]), { name: 'odd', head: [0, 20, 6] }]
    const found = overColumns([all[1]!, all[0]!], all)
    expect(found).toEqual({ on: ['a0', 'b0'], count: 4, step: [0, 5, 0] })
  })
  it('runs the other way from the last pair, and stands alone where nothing follows', () => {
    const all = grid([0, 5, 10])
    expect(overColumns([all[4]!, all[5]!], all)).toEqual({ on: ['a10', 'b10'], count: 3, step: [0, -5, 0] })
    expect(overColumns([all[0]!, all[1]!], all.slice(0, 2)).count).toBe(1)
    const uneven = overColumns([all[0]!, all[1]!], grid([0, 5, 11]))
    expect([uneven.count, uneven.step]).toEqual([2, [0, 5, 0]])
  })
})

describe('steps along a member', () => {
  it('from one end to the next', () => {
    expect(readSteps('-6:3 −2:8.2 1')).toEqual([
      { start: 0, end: 3, first: -6, last: -6, ratio: false },
      { start: 3, end: 8.2, first: -2, last: -2, ratio: false },
      { start: 8.2, end: null, first: 1, last: 1, ratio: false },
    ])
    expect(readSteps('2/5:40% 0:60% 3')).toEqual([
      { start: 0, end: 0.4, first: 2, last: 5, ratio: true },
      { start: 0.6, end: null, first: 3, last: 3, ratio: true },
    ])
    expect(readSteps('5')).toBeNull()
    for (const [text, words] of [
      ['6:3 2:2', 'ends where it starts'],
      ['6:3 2 1:9', 'does not say how far'],
      ['6:3 2:50%', 'all of them in %'],
      ['6:3 x:4', 'is no step'],
      ['6:120%', 'ends at 100'],
    ])
      expect(readSteps(text!)).toContain(words)
  })
})

describe('patterns of spans', () => {
  it('load all, every other, and two that follow', () => {
    expect(spanPatterns(2).map((p) => p.words)).toEqual(['all spans', 'odd spans', 'even spans'])
    const three = spanPatterns(3)
    expect(three.map((p) => p.words)).toContain('spans 2 and 3')
    expect(three.find((p) => p.words === 'odd spans')!.takes).toEqual([true, false, true])
  })
})
