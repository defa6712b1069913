import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'

const asked: string[] = []
let later: (() => void)[] = []
let held = false

vi.stubGlobal('document', { cookie: 'csrftoken=abc123' })
vi.stubGlobal('fetch', async (input: Request) => {
  const url = new URL(input.url)
  asked.push(url.pathname + url.search)
  if (held) await new Promise<void>((go) => later.push(go))
  if (url.searchParams.get('member') === 'overtaken') return new Response(null, { status: 204 })
  const member = url.searchParams.get('member')
  const wrong = member === 'nobody'
  const body = wrong ? { message: 'There is no member “nobody”.', place: 'member' } : { member, revision: 1 }
  return new Response(JSON.stringify(url.pathname.endsWith('/kept') ? [{ id: asked.length }] : body), {
    status: wrong ? 422 : 200,
    headers: { 'Content-Type': 'application/json' },
  })
})
const { answer, cache, forget, keepOnly, useAnswer, useList } = await import('../src/api/queries')

const RIBBON = '/api/projects/{project_id}/ribbon'
const of = (member: string, revision = 1) => ({ path: { project_id: 'p1' }, query: { member, revision } })
/** Until what is on its way has come. */
const settle = async () => {
  for (let i = 0; i < 20; i++) await new Promise((go) => setTimeout(go, 1))
}
const within = <T>(use: () => T): T => effectScope().run(use)!

beforeEach(() => {
  cache.clear()
  asked.length = 0
  later = []
  held = false
})

describe('answers about a revision', () => {
  it('are asked once, and again for another one', async () => {
    await answer(RIBBON, of('a'))
    await answer(RIBBON, of('a'))
    expect(asked).toHaveLength(1)
    await answer(RIBBON, of('a', 2))
    expect(asked).toHaveLength(2)
  })

  it('follow what is asked for, and are there at once where they are known', async () => {
    const member = ref('a')
    const { data } = within(() => useAnswer(RIBBON, () => of(member.value)))
    expect(data.value).toBeNull()
    await settle()
    expect(data.value?.member).toBe('a')
    member.value = 'b'
    await settle()
    expect(data.value?.member).toBe('b')
    member.value = 'a'
    await nextTick()
    expect(data.value?.member).toBe('a')
    expect(asked).toHaveLength(2)
  })

  it('of an older question never stand under a newer one', async () => {
    held = true
    const member = ref('a')
    const { data } = within(() => useAnswer(RIBBON, () => of(member.value)))
    await settle()
    member.value = 'b'
    await settle()
    // the answer to the second comes first
    later[1]!()
    await settle()
    later[0]!()
    await settle()
    expect(data.value?.member).toBe('b')
  })

  it('stay in sight for the same thing until the next is there, where that is wanted', async () => {
    const revision = ref(1)
    const member = ref('a')
    const same = (before: { query: { member: string } }, now: { query: { member: string } }) =>
      before.query.member === now.query.member
    const { data } = within(() => useAnswer(RIBBON, () => of(member.value, revision.value), same))
    await settle()
    held = true
    revision.value = 2
    await settle()
    expect(data.value?.member).toBe('a')
    member.value = 'b'
    await settle()
    expect(data.value).toBeNull()
    later.forEach((go) => go())
    await settle()
  })

  it('say why there is none, and nothing while nothing is asked', async () => {
    const member = ref<string | null>('nobody')
    const { data, problem } = within(() => useAnswer(RIBBON, () => (member.value ? of(member.value) : null)))
    await settle()
    expect(data.value).toBeNull()
    expect(problem.value).toBe('There is no member “nobody”.')
    member.value = null
    await settle()
    expect(problem.value).toBe('')
    await expect(answer(RIBBON, of('nobody'))).rejects.toThrow('There is no member')
    await expect(answer(RIBBON, of('overtaken'))).rejects.toThrow('An edit came before the answer.')
  })
})

describe('answers about older revisions', () => {
  it('go when another one stands, but for what is in sight', async () => {
    const { data } = within(() => useAnswer(RIBBON, () => of('shown', 1)))
    await answer(RIBBON, of('a', 1))
    await answer(RIBBON, of('a', 2))
    await settle()
    expect(data.value?.member).toBe('shown')
    keepOnly(2)
    expect(cache.getQueryCache().getAll()).toHaveLength(2)
    asked.length = 0
    await answer(RIBBON, of('a', 2))
    await answer(RIBBON, of('shown', 1))
    expect(asked).toHaveLength(0)
    await answer(RIBBON, of('a', 1))
    expect(asked).toHaveLength(1)
  })
})

describe('lists that others may change', () => {
  it('are empty at first, and asked anew once they are forgotten', async () => {
    const kept = within(() => useList('/api/office/kept', () => ({})))
    expect(kept.value).toEqual([])
    await settle()
    expect(kept.value).toEqual([{ id: 1 }])
    await forget('/api/office/kept')
    await settle()
    expect(kept.value).toEqual([{ id: 2 }])
  })
})
