import { describe, expect, it } from 'vitest'
import { sieve } from '../src/lib/sieve'

const HEADS = ['Member', 'Section', 'Length m', 'Governs', 'Utilisation']
const ROWS = [
  ['Column 1·A', 'IPE 550', '6.00', 'Sway', 0.95],
  ['Rafter 1·AB-L', 'IPE 450', '12.19', 'Buckling under N + M', 0.61],
  ['Roof brace 1', 'CHS 114.3x4', '8.55', 'Buckling under N + M', 0.6947],
  ['Beam', 'HEA 200', '4.00', '–', null],
]
const left = (query: string) => ROWS.filter((row) => sieve(query, HEADS)(row)).map((row) => row[0])

describe('the filter of the ledger', () => {
  it('takes words anywhere, all of them', () => {
    expect(left('buckling 1')).toEqual(['Rafter 1·AB-L', 'Roof brace 1'])
    expect(left('')).toHaveLength(4)
    expect(left('nothing of the kind')).toEqual([])
  })
  it('takes words in one column, by the beginning of its name', () => {
    expect(left('section: ipe')).toEqual(['Column 1·A', 'Rafter 1·AB-L'])
    expect(left('member: ipe')).toEqual([])
  })
  it('compares numbers, and a row without one never fits', () => {
    expect(left('util > 0.6')).toEqual(['Column 1·A', 'Rafter 1·AB-L', 'Roof brace 1'])
    expect(left('utilisation>=0.95')).toEqual(['Column 1·A'])
    expect(left('length < 6')).toEqual(['Beam'])
  })
  it('takes several conditions', () => {
    expect(left('section: ipe, length > 10')).toEqual(['Rafter 1·AB-L'])
    expect(left('buckling, utilisation < 0.65')).toEqual(['Rafter 1·AB-L'])
  })
  it('takes a colon that names no column as words', () => {
    expect(left('depth: 4')).toEqual([])
  })
})
