import { describe, expect, it } from 'vitest'
import { placeWords, refused } from '../src/lib/refused'

const document = { jigs: [{ name: 'roof', columns: 0.2 }], hall: { bays: [{ span: 1 }] } }

describe('what is refused', () => {
  it('says at the field why, and elsewhere where', () => {
    expect(refused('jigs.0.columns', 'jigs.0.columns: must be at least 0.5, not 0.2.', document)).toEqual({
      place: 'jigs.0.columns',
      message: 'Jigs “roof”, columns: must be at least 0.5, not 0.2.',
      reason: 'Must be at least 0.5, not 0.2.',
    })
  })
  it('keeps sentences that name the thing themselves', () => {
    const found = refused('members', 'There is no member “C9”.', document)
    expect([found.message, found.reason]).toEqual(['There is no member “C9”.', 'There is no member “C9”.'])
  })
  it('counts what has no name from one', () => {
    expect(placeWords('hall.bays.0.span', document)).toBe('Hall, bays 1, span')
    expect(placeWords('analysis.bears_at')).toBe('Analysis, bears at')
  })
})
