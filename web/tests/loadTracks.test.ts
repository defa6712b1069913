import { describe, expect, it } from 'vitest'
import { typed } from '../src/api/client'
import { alongThere, alongTrack, lineAlong, piecesOf, placesOn, spotOn, trackOf } from '../src/lib/loadTracks'

// a column of 4 m, a rafter drawn from the ridge down to it, and a lone beam
const members = [
  { name: 'c', line: [0, 1], length: 4 },
  { name: 'r', line: [2, 5, 1], length: 5 },
  { name: 'b', line: [3, 4], length: 6 },
]
const places: [number, number][] = [[0, 400], [0, 0], [400, -300], [0, 0], [0, 0], [200, -150]] // prettier-ignore
const run = () => trackOf(piecesOf(['c', 'r'], members)!, (n) => places[n]!)!

describe('the track of a load', () => {
  it('is one member from its start', () => {
    expect(piecesOf(['r'], members)).toEqual([{ name: 'r', from: 0, length: 5, ends: [2, 1], turned: false }])
  })
  it('passes a run from the free end of the first, whichever way its members point', () => {
    expect(piecesOf(['c', 'r'], members)!.map((p) => [p.from, p.ends, p.turned])).toEqual([
      [0, [0, 1], false],
      [4, [1, 2], true],
    ])
    expect(piecesOf(['r', 'c'], members)!.map((p) => [p.from, p.ends, p.turned])).toEqual([
      [0, [2, 1], false],
      [5, [1, 0], true],
    ])
  })
  it('is none where a member is gone or does not follow', () => {
    expect(piecesOf(['c', 'b'], members)).toBeNull()
    expect(piecesOf(['c', 'x'], members)).toBeNull()
    expect(piecesOf([], members)).toBeNull()
  })
  it('is seen shorter where it is farther away', () => {
    // its start 1 m away, its end 3 m: of places (x, y, z) seen at x/z, (0, 0, 1) and (300, 0, 3) lie at 0 and 100
    const seen = trackOf(piecesOf(['b'], members)!, (n) => (n === 3 ? [0, 0, 1] : [100, 0, 3]))!
    // half-way is (150, 0, 2), seen at 75
    expect(spotOn(seen, 3)).toEqual([75, 0])
    expect(alongTrack(seen, [75, 40])).toBeCloseTo(3, 9)
    expect(alongTrack(seen, [0, 0])).toBe(0)
    expect(alongTrack(seen, [120, 0])).toBeCloseTo(6, 9)
    expect(trackOf(piecesOf(['b'], members)!, (n) => (n === 3 ? null : [0, 0, 1]))).toBeNull()
  })
  it('lies where its members lie', () => {
    expect(spotOn(run(), 2)).toEqual([0, 200])
    expect(spotOn(run(), 9)).toEqual([400, -300])
    expect(alongTrack(run(), [30, 300])).toBe(1)
    expect(alongTrack(run(), [400, -300])).toBe(9)
    expect(lineAlong(run(), 2, 6.5)).toEqual([
      [0, 200],
      [0, 0],
      [200, -150],
    ])
  })
  it('knows where its members begin and are held, counted along all of it', () => {
    const held = { c: [1], r: [2] }
    expect(placesOn(run(), (name) => held[name as 'c' | 'r'])).toEqual([0, 1, 4, 7])
  })
  it('of several loads those are meant that act where it is pointed at, lines or forces', () => {
    const load = (more: object) =>
      typed('MemberLoad', { case: 'Q', member: 'r', kind: 'line', value: [0, 0, -5], start: 0, ratio: false, axes: 'global', run: [], ...more }) // prettier-ignore
    const loads = [
      load({ end: 2 }),
      load({ start: 1 }),
      load({ case: 'G' }),
      // to 6 m along both: on the rafter from 3 m to its end, for it points the other way
      load({ member: 'c', run: ['r'], end: 6 }),
      load({ member: 'b' }),
      load({ kind: 'force', start: 4 }),
      load({ kind: 'temperature' }),
      // from the foot along the column alone
      load({ member: 'c', run: ['r'], end: 3 }),
    ]
    const found = (start: number, end: number) => alongThere(loads, { member: 'r', case: 'Q' }, { start, end }, members)
    expect(found(0, 0.5)).toEqual([0, 6])
    expect(found(2.5, 2.9)).toEqual([1, 6])
    expect(found(3.5, 5)).toEqual([1, 3, 6])
    expect(found(4, 4)).toEqual([5, 6])
  })
})
