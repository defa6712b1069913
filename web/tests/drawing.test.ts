import { describe, expect, it } from 'vitest'
import { across, flat, place } from '../src/lib/drawing'
import { feet, nearest, snaps, touches, typedPoint } from '../src/lib/snaps'
import { readHaunch } from '../src/lib/haunches'
import { readEnd, readHold } from '../src/lib/releases'
import { balanceOf } from '../src/lib/actionTables'
import { readDirections } from '../src/lib/steelTables'
import { typed } from '../src/api/client'
import { tabsOf, ledger } from '../src/lib/ledger'
import { readSpacings, writeSpacings } from '../src/lib/spacings'
import { readVector, writeVector } from '../src/lib/vectors'
import { legend, painter } from '../src/lib/colours'
import type { Member } from '../src/stores/workbench'

const slope = { origin: [0, 0, 6], u: [0, 1, 0], v: [0.8, 0, 0.6] }

describe('planes', () => {
  it('lays places flat and puts them back', () => {
    const p = [4, 7, 9]
    expect(flat(slope, p)).toEqual([7, 5])
    place(slope, [7, 5]).forEach((x, i) => expect(x).toBeCloseTo(p[i]!, 12))
    expect(across(slope, [0, 0, 1])).toEqual([0, 0.6])
  })
})

describe('spacings', () => {
  it('are read with repeats and written with them', () => {
    expect(readSpacings('2*6 + 4*7.2 + 6')).toEqual({ value: [6, 6, 7.2, 7.2, 7.2, 7.2, 6] })
    expect(readSpacings('3 × 5,5')).toEqual({ value: [5.5, 5.5, 5.5] })
    expect(writeSpacings([6, 6, 7.2, 6])).toBe('2*6 + 7.2 + 6')
    for (const list of [[4], [4, 4.25, 4.25], [1, 2, 3]]) {
      const read = readSpacings(writeSpacings(list))
      expect(typeof read === 'string' ? read : read.value).toEqual(list)
    }
  })
  it('say what is wrong with them', () => {
    expect(readSpacings('2*six')).toContain('“2*six” is not a spacing')
    expect(readSpacings('')).toContain('At least one')
    expect(readSpacings('500*6')).toContain('At most 119')
    expect(readSpacings('6 + -3')).toContain('not a spacing')
  })
})

describe('places typed', () => {
  const basis = { u: [1, 0, 0], v: [0, 0, 1] }
  it('are coordinates, steps, or a length and a direction in the plane', () => {
    expect(typedPoint('1, 2, 3', null, basis)).toEqual([1, 2, 3])
    expect(typedPoint('@ 1 0 −2', [1, 1, 5], basis)).toEqual([2, 1, 3])
    const polar = typedPoint('2 < 90', [1, 1, 1], basis) as number[]
    expect(polar[0]).toBeCloseTo(1)
    expect(polar[2]).toBeCloseTo(3)
  })
  it('or refused with a reason', () => {
    // two numbers lie in the plane, to the right and up
    expect(typedPoint('1, 2', null, { origin: [0, 6, 0], u: [1, 0, 0], v: [0, 0, 1] })).toEqual([1, 6, 2])
    expect(typedPoint('1', null, basis)).toContain('Three numbers')
    expect(typedPoint('2 < 30', null, basis)).toContain('to start from')
    expect(typedPoint('@1,1,1', null, basis)).toContain('to start from')
    expect(readVector('1, a, 2')).toContain('Three numbers')
    expect(writeVector([1, 2.5, 0])).toBe('1, 2.5, 0')
  })
})

describe('snaps', () => {
  const all = snaps({
    nodes: [{ name: 'n1', at: [0, 0] }],
    lines: [
      [
        [0, 0],
        [6, 0],
      ],
    ],
    upright: [
      { name: 'A', at: 0 },
      { name: 'B', at: 6 },
    ],
    level: [{ name: 'Eaves', at: 4 }],
  })
  const same = (p: readonly [number, number]) => p
  it('prefers a node, then grid crossings and middles', () => {
    expect(nearest(all, [0.1, 0.1], same, 1)?.node).toBe('n1')
    expect(nearest(all, [6, 4.2], same, 1)?.words).toBe('B · Eaves')
    expect(nearest(all, [3.1, 0], same, 2)?.words).toBe('middle')
    expect(nearest(all, [50, 50], same, 1)).toBeNull()
  })
  it('finds feet of perpendiculars on the lines, not beyond their ends nor at the point itself', () => {
    const lines = [
      [
        [0, 0],
        [10, 0],
      ],
      [
        [4, 0],
        [10, 0],
      ],
      [
        [3, 5],
        [3, 9],
      ],
    ] as const
    expect(feet([3, 5], lines).map((s) => s.at)).toEqual([[3, 0]])
  })
  it('reads haunches as written', () => {
    expect(readHaunch('2.4 × 0.30')).toMatchObject({ length: 2.4, depth: 0.3, section: null })
    expect(readHaunch('2x0.25 IPE 450')).toMatchObject({ length: 2, depth: 0.25, section: 'IPE 450' })
    expect(readHaunch('2.4')).toContain('no haunch')
    expect(readHaunch('0 x 1')).toContain('no haunch')
  })
  it('reads what holds a node', () => {
    expect(readHold('x y z+ ry=5000')).toEqual({ fixed: ['x', 'y', 'z'], springs: { ry: 5000 }, one_way: ['z'] })
    expect(readHold('')).toEqual({ fixed: [], springs: {}, one_way: [] })
    expect(readHold('up')).toContain('not understood')
  })
})

describe('windows', () => {
  const line = [
    [0, 0],
    [10, 10],
  ] as const
  it('take what they enclose, or what they touch', () => {
    expect(touches(line, [-1, -1], [11, 11], false)).toBe(true)
    expect(touches(line, [4, 4], [6, 6], false)).toBe(false)
    expect(touches(line, [4, 4], [6, 6], true)).toBe(true)
    expect(touches(line, [6, 0], [10, 3], true)).toBe(false)
    expect(
      touches(
        [
          [0, 5],
          [10, 5],
        ],
        [3, 4],
        [4, 6],
        true,
      ),
    ).toBe(true)
  })
})

describe('colours by kind', () => {
  const m = (section: string) => ({ section, material: 'S355', role: 'rafter', group: '', utilisation: 0.4 }) as Member
  it('name every kind, the most frequent first', () => {
    const found = legend([m('IPE 200'), m('HEA 200'), m('IPE 200')], 'section')
    expect(found.map((k) => [k.kind, k.count])).toEqual([
      ['IPE 200', 2],
      ['HEA 200', 1],
    ])
    const paint = painter([m('IPE 200'), m('HEA 200')], 'section')
    expect(paint(m('IPE 200'))).not.toBe(paint(m('HEA 200')))
    expect(painter([], 'nothing')(m('x'))).toBe('#56626c')
  })
})

describe('what is written of ends and supports', () => {
  it('is read freedom by freedom', () => {
    expect(readEnd('ry rz')).toEqual({ free: ['ry', 'rz'], springs: {} })
    expect(readEnd('RY=5000, z')).toEqual({ free: ['z'], springs: { ry: 5000 } })
    expect(readEnd('')).toEqual({ free: [], springs: {} })
    expect(readEnd('hinge')).toContain('“hinge” is not understood')
    expect(readEnd('ry=0')).toContain('greater than 0')
    expect(readDirections('pinned')).toEqual(['x', 'y', 'z', 'rz'])
    expect(readDirections('x, ry')).toEqual(['x', 'ry'])
    expect(readDirections('free')).toEqual([])
    expect(readDirections('up')).toContain('no direction')
  })
})

describe('the ledger', () => {
  it('says what a balance that does not hold loses', () => {
    expect(balanceOf({ holds: true, off: 0, tilted: [] })).toBe('holds')
    expect(balanceOf({ holds: false, off: 0.0123, tilted: [] })).toBe('off by 1.23 %')
    expect(balanceOf({ holds: false, off: 0, tilted: ['wall-A', 'deck'] })).toBe('loses the moment of wall-A, deck')
  })
  const chain = {
    node_names: ['a', 'b'],
    nodes: [
      [0, 0, 0],
      [0, 0, 4],
    ],
    supports: [
      {
        node: 'a',
        index: 0,
        fixed: ['x'],
        springs: { z: 500 },
        one_way: [],
        turn: 0,
        settlement: [0, 0, 0],
        own: true,
      },
    ],
    members: [],
  } as unknown as Parameters<typeof ledger>[1]
  it('writes cells as operations', () => {
    const nodes = ledger('Nodes', chain)
    expect(nodes.head[3]!.write!('b', '4.5m')).toEqual({ do: 'move', members: [], nodes: ['b'], step: [0, 0, 0.5] })
    expect(nodes.head[3]!.write!('b', 'high')).toContain('not a number')
    expect(nodes.head[0]!.write).toBeUndefined()
    const supports = ledger('Supports', chain)
    const settled = supports.head[5]!.write!('a', '12')
    expect(settled).toMatchObject({
      do: 'support',
      nodes: ['a'],
      fixed: ['x'],
      springs: { z: 500 },
      settlement: [0, 0, -0.012],
    })
    expect(supports.head[1]!.write!('a', 'sideways')).toContain('no direction')
    const steel = ledger('Steelwork', chain)
    expect(steel.head[6]!.write!('m', 'rope')).toContain('tension-only')
    expect(steel.head[2]!.write!('m', 'IPE 300')).toEqual({
      do: 'change',
      members: ['m'],
      change: { section: 'IPE 300' },
    })
  })
  it('puts the pieces of one design member into one row, with the worst of them', () => {
    const member = (name: string, utilisation: number, status = 'passes') =>
      typed('MemberOut', {
        ...chain!.members[0]!,
        name,
        label: name,
        length: 3,
        mass: 10,
        utilisation,
        status,
        not_covered: status === 'not covered' ? ['no'] : [],
        governs: 'Shear',
        combination: 'C1',
        checks: [],
      })
    const members = [member('a', 0.4), member('b', 0.9), member('c', 0.7)]
    const table = ledger('Design members', typed('ChainOut', { ...chain!, members, lines: [[0, 1]] }))
    expect(table.rows.map((r) => [r.key, r.cells[0], r.cells[2], r.cells[3], r.cells[5], r.use])).toEqual([
      ['a', 'a … b', 2, '6.00', 'b', 0.9],
      ['c', 'c', 1, '3.00', '', 0.7],
    ])
    const open = [member('a', 0.4, 'not covered'), member('b', 0.9)]
    expect(
      ledger('Design members', typed('ChainOut', { ...chain!, members: open, lines: [[0, 1]] })).rows[0]!.status,
    ).toBe('not covered')
  })
  it('has tables for every stage', () => {
    expect(tabsOf('frame')).toContain('Steelwork')
    expect(tabsOf('verification')).toContain('Balance')
  })
})
