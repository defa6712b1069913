import { describe, expect, it } from 'vitest'
import { bearingOf, courses, roundLength, turned } from '../src/lib/site'
import { opening, SITE } from '../src/stores/looks'

describe('the building in its surroundings', () => {
  it('knows where a wind comes from by the bearing of its length', () => {
    // front to back points at 76°: the left side faces 346°
    expect(bearingOf('left', 76)).toBe(346)
    expect(bearingOf('right', 76)).toBe(166)
    expect(bearingOf('front', 76)).toBe(256)
    expect(bearingOf('back', 76)).toBe(76)
  })

  it('is drawn with north up', () => {
    const close = (found: readonly number[], wanted: number[]) =>
      found.forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!))
    // front to back points north: along is up, across to the right
    close(turned(0, 2, [100, 100])([0, 10]), [100, 80])
    close(turned(0, 2, [100, 100])([10, 0]), [120, 100])
    // not stated: as on the key plan, along to the right, across downwards
    close(turned(null, 2, [100, 100])([0, 10]), [120, 100])
    close(turned(null, 2, [100, 100])([10, 0]), [100, 120])
  })

  it('has a scale bar of a round length', () => {
    expect([7.3, 24, 55, 100, 0.7].map(roundLength)).toEqual([5, 20, 50, 100, 0.5])
  })

  it('tells equal courses of the wind once', () => {
    const wind = (direction: string, value: number) => ({
      direction,
      terrain: 'II',
      directional: 1,
      height: 8,
      peak: value,
      course: [[0, value]] as [number, number][],
    })
    const found = courses([wind('left', 0.8), wind('right', 0.6), wind('front', 0.8)])
    expect(found.map((w) => w.directions)).toEqual([['left', 'front'], ['right']])
  })
})

describe('what a stage opens with', () => {
  const chain = {
    cases: [
      { symbol: 'G1', nature: 'permanent' },
      { symbol: 'W1', nature: 'wind' },
      { symbol: 'S1', nature: 'snow' },
    ],
  } as Parameters<typeof opening>[2]

  it('is its own subject on the plane that was looked at', () => {
    expect(opening('site', 'frame-2', chain).plane).toBe(SITE)
    expect(opening('frame', 'frame-2', chain)).toMatchObject({ plane: 'frame-2', colouring: 'role' })
    expect(opening('frame', SITE, chain).plane).toBe('whole')
    expect([...opening('frame', 'whole', chain).overlays]).toEqual([])
    expect(opening('actions', 'whole', chain)).toMatchObject({ state: 'S1', colouring: 'nothing' })
    expect([...opening('verification', 'whole', chain).overlays]).toEqual(['moment'])
  })

  it('is what governs most in Combinations, while no member is selected', () => {
    const members = [
      { utilisation: 0.4, combination: 'C1' },
      { utilisation: 0.9, combination: 'C7' },
    ]
    const known = { ...chain, members } as Parameters<typeof opening>[2]
    expect(opening('combinations', 'whole', known).state).toBe('C7')
    expect(opening('combinations', 'whole', known, true).state).toBe('')
  })

  it('is the first case there is where nothing acts but weight', () => {
    expect(opening('actions', 'whole', { ...chain!, cases: chain!.cases!.slice(0, 1) }).state).toBe('G1')
    expect(opening('actions', 'whole', null).state).toBe('')
  })
})
