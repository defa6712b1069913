import { describe, expect, it } from 'vitest'
import { typed } from '../src/api/client'
import { movedTo, nextOf, snappedTo, stated, stretchOf } from '../src/lib/loadPlaces'

const load = (more: object) =>
  typed('MemberLoad', {
    case: 'Q',
    member: 'm',
    run: [],
    kind: 'line',
    value: [0, 0, -5],
    start: 0,
    ratio: false,
    axes: 'global',
    ...more,
  })

describe('where a load acts on its member', () => {
  it('is in metres, whatever it is stated in', () => {
    expect(stretchOf(load({}), 8)).toEqual({ start: 0, end: 8 })
    expect(stretchOf(load({ start: 0.25, end: 0.5, ratio: true }), 8)).toEqual({ start: 2, end: 4 })
    expect(stretchOf(load({ kind: 'force', start: 3 }), 8)).toEqual({ start: 3, end: 3 })
  })
  it('counts along all of a run, and is none of its own where it is all over', () => {
    expect(stretchOf(load({ run: ['n'], start: 0.25, ratio: true }), 20)).toEqual({ start: 5, end: 20 })
    expect(stretchOf(load({ kind: 'temperature' }), 8)).toBeNull()
  })
  it('goes by ends, middle, thirds and restraints that are near, else by round figures, never beyond', () => {
    expect(snappedTo(3.93, 8, [], 0.1)).toBe(4)
    expect(snappedTo(2.6, 8, [], 0.1)).toBe(2.6667)
    expect(snappedTo(5.02, 8, [4.97], 0.1)).toBe(4.97)
    expect(snappedTo(1.13, 8, [], 0.1)).toBe(1.15)
    expect(snappedTo(9, 8, [], 0.1)).toBe(8)
    expect(snappedTo(-1, 8, [], 0.1)).toBe(0)
    // the end of a member is its length, not a figure beyond it
    expect(snappedTo(8.5, 8.48528137, [], 0.1)).toBe(8.48528137)
  })
  it('moves by one end or as a whole, and stays a stretch on its member', () => {
    const now = { start: 2, end: 5 }
    expect(movedTo(now, 'start', 1, 8)).toEqual({ start: 1, end: 5 })
    expect(movedTo(now, 'start', 6, 8)).toEqual({ start: 4.95, end: 5 })
    expect(movedTo(now, 'end', 1, 8)).toEqual({ start: 2, end: 2.05 })
    expect(movedTo(now, 'whole', 7, 8)).toEqual({ start: 5, end: 8 })
    expect(movedTo({ start: 3, end: 3 }, 'start', 6, 8)).toEqual({ start: 6, end: 6 })
  })
  it('is stated in its own measure', () => {
    expect(stated(load({ ratio: true }), { start: 2, end: 4 }, 8)).toEqual({ start: 0.25, end: 0.5 })
    expect(stated(load({ kind: 'force' }), { start: 2, end: 2 }, 8)).toEqual({ start: 2 })
    // what reaches to the end of its member goes on doing so
    expect(stated(load({}), { start: 1, end: 8 }, 8)).toEqual({ start: 1 })
    expect(stated(load({}), { start: 1, end: 7 }, 8)).toEqual({ start: 1, end: 7 })
    const long = 8.4852819
    expect(stated(load({ end: 5 }), { start: 1, end: long }, long).end).toBe(8.485281)
    expect(stated(load({ end: 5, start: 1 / 3 }), { start: 1 / 3, end: 5 }, long).start).toBe(0.333333)
  })
  it('is found one after the other', () => {
    expect(nextOf([0, 3], null)).toBe(0)
    expect(nextOf([0, 3], 0)).toBe(3)
    expect(nextOf([0, 3], 3)).toBe(0)
    expect(nextOf([], 3)).toBeNull()
  })
})
