import { describe, expect, it } from 'vitest'
import { craneCases } from '../src/lib/craneCases'

const rails = {
  name: 'Crane 1',
  pairs: [
    [0, 1],
    [2, 3],
  ] as [number, number][],
  across: [0, 1, 0] as [number, number, number],
}
const nodes = ['a1', 'b1', 'a2', 'b2']

describe('cases of a crane', () => {
  it('press most on either rail and push either way, half on each', () => {
    const { cases, loads } = craneCases(rails, [1], { most: 90, least: 30, across: 12 }, nodes, 1)
    expect(cases.map((c) => c.name)).toEqual([
      'Crane 1 at 2, first rail, →',
      'Crane 1 at 2, first rail, ←',
      'Crane 1 at 2, second rail, →',
      'Crane 1 at 2, second rail, ←',
    ])
    expect(cases.every((c) => c.nature === 'crane' && c.excludes === 'Crane 1')).toBe(true)
    const of = (k: number) => loads.filter((l) => l.case === cases[k]!.name).map((l) => [l.node, ...l.force!])
    expect(of(0)).toEqual([
      ['a2', 0, 6, -90],
      ['b2', 0, 6, -30],
    ])
    expect(of(3)).toEqual([
      ['a2', 0, -6, -30],
      ['b2', 0, -6, -90],
    ])
  })
  it('are two for each frame where nothing pushes across, in the unit of the document', () => {
    const { cases, loads } = craneCases(rails, [0, 1], { most: 90, least: 30, across: 0 }, nodes, 1000)
    expect(cases).toHaveLength(4)
    expect(loads[0]).toEqual({ case: 'Crane 1 at 1, first rail', node: 'a1', force: [0, 0, -90_000] })
  })
})
