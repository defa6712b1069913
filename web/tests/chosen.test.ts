import { describe, expect, it } from 'vitest'
import { commonOf, degreesOf, neighboursOf } from '../src/lib/chosen'
import type { Member } from '../src/stores/workbench'

const member = (name: string, line: number[], more: Partial<Member> = {}) =>
  ({
    name,
    line,
    label: name,
    section: 'IPE 300',
    material: 'S355',
    group: '',
    roll: 0,
    role: 'column',
    behaviour: 'beam',
    jig: 'hall',
    mass: 100.4,
    ...more,
  }) as Member

describe('what is chosen', () => {
  it('has a value in common, or says that they are mixed', () => {
    const found = commonOf([member('a', [0, 1]), member('b', [1, 2], { section: 'IPE 400', jig: '' })])
    expect(found.section).toBe('')
    expect(found.mixed.section).toBe('mixed')
    expect(found.material).toBe('S355')
    expect(found.mixed.material).toBe('')
    expect(found.from).toBe('mixed')
    expect(found.mass).toBe(201)
    // no turn and no group are values too
    expect(found.roll).toBe(0)
    expect(found.mixed.roll).toBe('')
  })
  it('meets what passes one of its nodes, members that bend first', () => {
    const one = member('one', [0, 1, 2])
    const others = [member('brace', [1, 9], { behaviour: 'bar' }), member('beam', [2, 5]), member('far', [7, 8])]
    expect(neighboursOf(one, [one, ...others]).map((m) => m.name)).toEqual(['beam', 'brace'])
  })
  it('reads a turn in degrees', () => {
    expect(degreesOf('90')).toBe(90)
    expect(degreesOf('')).toBe(0)
    expect(typeof degreesOf('quarter')).toBe('string')
  })
})
