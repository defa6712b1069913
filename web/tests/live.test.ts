import { describe, expect, it } from 'vitest'
import type { Schemas } from '../src/api/client'
import { follow, isActive, laidUnder, progress, type Asked, type Running } from '../src/lib/live'

const running = (state: string, more: Partial<Schemas['RunningOut']> = {}): Asked => ({
  status: 202,
  running: { revision: 3, state, stage: '', done: 0, of: 0, attempts: 1, message: '', ...more },
})
const chain = { revision: 3, fingerprints: {} } as Schemas['ChainOut']

async function followed(answers: (Asked | 'lost')[], wanted = () => true) {
  const told: string[] = []
  const pauses: number[] = []
  let k = 0
  const found = await follow(
    3,
    async () => {
      const answer = answers[k++]!
      if (answer === 'lost') throw new Error('no network')
      return answer
    },
    (state) => told.push(state.state),
    wanted,
    async (ms) => void pauses.push(ms),
  )
  return { found, told, pauses }
}

describe('following a run', () => {
  it('asks until the chain is there', async () => {
    const { found, told } = await followed([running('waiting'), running('running'), { status: 200, chain }])
    expect(found).toBe(chain)
    expect(told).toEqual(['waiting', 'running'])
  })
  it('asks a server that does not answer less and less often, and recovers', async () => {
    const down: Asked = { status: 503, message: 'The database does not answer.' }
    const { found, told, pauses } = await followed(['lost', 'lost', down, { status: 200, chain }])
    expect(found).toBe(chain)
    expect(told).toEqual(['unreachable', 'unreachable', 'unreachable'])
    expect(pauses).toEqual([250, 500, 1000])
  })
  it('ends where nobody computes', async () => {
    for (const state of ['paused', 'cancelled', 'failed']) expect((await followed([running(state)])).found).toBeNull()
    const refused = await followed([{ status: 404 }])
    expect(refused.told).toEqual(['failed'])
  })
  it('ends when a newer revision is wanted', async () => {
    let asked = 0
    const { found } = await followed([running('running'), { status: 200, chain }], () => ++asked < 3)
    expect(found).toBeNull()
  })
})

it('says where a run is', () => {
  const at = (state: string, more = {}) => progress({ ...running(state, more).running!, since: 0 } as Running)
  expect(at('waiting')).toBe('waiting for a worker')
  expect(at('waiting', { attempts: 2 })).toBe('taken up again')
  expect(at('running', { stage: 'response', done: 12, of: 90 })).toBe('response 12 of 90')
  expect(at('unreachable', { message: 'The server does not answer.' })).toContain('Trying again')
  expect(isActive({ ...running('paused').running!, since: 0 })).toBe(false)
})

it('lays what stands now under the older numbers', () => {
  const member = (name: string, more = {}) => ({ name, utilisation: null, status: '', checks: [], ...more })
  const old = {
    revision: 2,
    fingerprints: { structure: 'a', response: 'b' },
    members: [member('one', { utilisation: 0.7, status: 'passes', length: 5 }), member('gone')],
    roles: [{ role: 'rafter', worst: 0.7, status: 'passes', count: 2 }],
    cases: [{ symbol: 'G1' }],
  } as unknown as Schemas['ChainOut']
  const bare = {
    revision: 3,
    fingerprints: { structure: 'c' },
    members: [member('one', { length: 6 }), member('new')],
    roles: [{ role: 'rafter', worst: null, status: '', count: 3 }],
  } as unknown as Schemas['ChainOut']
  const both = laidUnder(bare, old)
  expect(both.revision).toBe(2)
  expect(both.fingerprints).toEqual({ structure: 'c', response: 'b' })
  expect(both.members!.map((m) => [m.name, m.length, m.utilisation])).toEqual([
    ['one', 6, 0.7],
    ['new', undefined, null],
  ])
  expect(both.roles![0]).toMatchObject({ count: 3, worst: 0.7 })
  expect(both.cases).toHaveLength(1)
  expect(laidUnder(bare, null)).toBe(bare)
})
