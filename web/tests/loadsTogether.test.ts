import { describe, expect, it } from 'vitest'
import { typed } from '../src/api/client'
import { inCase, timed, without } from '../src/lib/loadsTogether'

const line = { case: 'Q', member: 'm', run: [], kind: 'line', start: 0, ratio: false, axes: 'global' }
const document = typed('Document', {
  member_loads: [
    { ...line, value: [0, 0, -5] },
    { ...line, value: [0, 0, -2], value_end: [0, 0, -4.2] },
  ],
  node_loads: [{ case: 'Q', node: 'n', force: [10, 0, 0], moment: [0, 0, 0.1] }],
  panel_loads: [{ case: 'Q', panel: 'p', pressure: 0.3, axes: 'normal', part: [], label: '' }],
})
const all = [
  { key: 'member_loads', number: 1 },
  { key: 'node_loads', number: 0 },
  { key: 'panel_loads', number: 0 },
] as const

describe('loads together', () => {
  it('are multiplied in every component that they have', () => {
    expect(timed(document, all, 3)).toEqual([
      { path: 'member_loads.1.value', value: [0, 0, -6] },
      { path: 'member_loads.1.value_end', value: [0, 0, -12.6] },
      { path: 'node_loads.0.force', value: [30, 0, 0] },
      { path: 'node_loads.0.moment', value: [0, 0, 0.3] },
      { path: 'panel_loads.0.pressure', value: 0.9 },
    ])
  })
  it('come into one case, and are deleted, each by itself', () => {
    expect(inCase(all.slice(1), 'W')).toEqual([
      { path: 'node_loads.0.case', value: 'W' },
      { path: 'panel_loads.0.case', value: 'W' },
    ])
    expect(without(document, all).map((c) => [c.path, c.do])).toEqual([
      ['member_loads', 'remove'],
      ['node_loads', 'remove'],
      ['panel_loads', 'remove'],
    ])
  })
})
