import { describe, expect, it } from 'vitest'
import { typed } from '../src/api/client'
import { FILTERS, fitting, mostOf } from '../src/lib/filters'
import { alike, compressed, marks, repeated, roomFor, snapped } from '../src/lib/ribbon'

const ribbon = typed('RibbonOut', {
  member: 'm',
  length: 12,
  combination: 'C1',
  outer: [0, 3, 6, 9, 12],
  inner: [0, 6, 12],
  x: [0, 4, 8, 12],
  My: [-30, 10, 10, -30],
  outer_spans: [],
  inner_spans: [],
  values: [],
})

describe('moments in figures', () => {
  it('writes the larger of two that are too near on one side, and both where they are apart or on either side', () => {
    const at = (x: number, value: number) => ({ x, value })
    expect(roomFor([at(0, -96), at(610, 52.4), at(630, 52)], 40)).toEqual([0, 1])
    expect(roomFor([at(600, 50), at(630, 52)], 40)).toEqual([1])
    expect(roomFor([at(600, -50), at(630, 52)], 40)).toEqual([0, 1])
    expect(roomFor([at(580, 50), at(630, 52)], 40)).toEqual([0, 1])
  })
})

describe('restraints on the ribbon', () => {
  it('leaves the ends out: they are held by what they meet', () => {
    expect(marks(ribbon, 'outer')).toEqual([3, 6, 9])
    expect(marks(ribbon, 'inner')).toEqual([6])
  })
  it('puts a stay at a purlin that is near, else at a round figure, never where one is or at an end', () => {
    expect(snapped(ribbon, 'inner', 3.1, 0.2)).toBe(3)
    expect(snapped(ribbon, 'inner', 4.234, 0.2)).toBe(4.25)
    expect(snapped(ribbon, 'inner', 6.01, 0.2)).toBeNull()
    expect(snapped(ribbon, 'outer', 0.01, 0.2)).toBeNull()
    expect(snapped(ribbon, 'outer', 11.99, 0.2)).toBeNull()
  })
  it('repeats at a spacing to the end, past what is held already', () => {
    expect(repeated(ribbon, 'inner', 2, 2)).toEqual([2, 4, 8, 10])
    expect(repeated(ribbon, 'inner', 2, 0)).toEqual([])
  })
  it('finds where each flange is compressed, between the points where the moment changes its sign', () => {
    expect(compressed(ribbon.x, ribbon.My, 'outer')).toEqual([[3, 9]])
    expect(compressed(ribbon.x, ribbon.My, 'inner')).toEqual([
      [0, 3],
      [9, 12],
    ])
    expect(compressed([0, 1, 2], [0, 0, 0], 'outer')).toEqual([])
  })
})

const member = (name: string, kinds: Record<string, number>, more: object = {}) =>
  typed('MemberOut', {
    name,
    role: 'rafter',
    section: 'IPE 300',
    length: 6,
    status: 'passes',
    utilisation: Math.max(...Object.values(kinds)),
    checks: Object.entries(kinds)
      .map(([kind, utilisation]) => ({ kind, utilisation }))
      .sort((a, b) => b.utilisation - a.utilisation),
    ...more,
  })

describe('filters of members', () => {
  const all = [
    member('a', { section: 0.95, stability: 0.4 }),
    member('b', { stability: 1.2, service: 0.3 }, { status: 'fails' }),
    member('c', { service: 0.5 }),
    member('d', { stability: 0.2 }, { status: 'not covered', section: 'L 80x8' }),
  ]
  it('lights up what fits any of those that are on', () => {
    expect(fitting(all, new Set())).toBeNull()
    expect([...fitting(all, new Set(['above'] as const))!]).toEqual(['a', 'b'])
    expect([...fitting(all, new Set(['service', 'uncovered'] as const))!]).toEqual(['c', 'd'])
    expect([...fitting(all, new Set(['stability'] as const))!]).toEqual(['b'])
    expect(FILTERS.length).toBe(6)
  })
  it('splits by what checks are about', () => {
    expect(mostOf(all[0]!, 'section')).toBe(0.95)
    expect(mostOf(all[2]!, 'stability')).toBeNull()
  })
  it('finds members alike, by role, section and length', () => {
    expect(alike(all, all[0]!)).toEqual(['b', 'c'])
  })
})
