import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'

/** What the server is asked, and who answers it when. */
interface Asked {
  name: string
  settled: { of: string; field: string; value: string }[]
  answer: (status: number, body: object) => void
  ended: boolean
}
const asked: Asked[] = []
const storage = new Map<string, unknown>()
vi.stubGlobal('document', { cookie: 'csrftoken=abc123' })
vi.stubGlobal('fetch', (path: string, init: RequestInit) => {
  expect(path).toBe('/api/projects/import/read')
  expect((init.headers as Record<string, string>)['X-CSRFToken']).toBe('abc123')
  const form = init.body as FormData
  return new Promise<Response>((resolve, reject) => {
    const one: Asked = {
      name: (form.get('file') as File).name,
      settled: JSON.parse(form.get('settled') as string),
      answer: (status, body) => resolve(new Response(JSON.stringify(body), { status })),
      ended: false,
    }
    init.signal?.addEventListener('abort', () => {
      one.ended = true
      reject(new Error('aborted'))
    })
    asked.push(one)
  })
})
vi.mock('@vueuse/core', () => ({
  useLocalStorage: (key: string, begin: unknown) => {
    if (!storage.has(key)) storage.set(key, ref(begin))
    return storage.get(key)
  },
}))
const { useTakingIn } = await import('../src/lib/takingIn')

const file = (name: string) => new File(['x'], name)
const taken = (words: string) => ({ document: {}, understood: [words], choices: [], problems: [] })
const role = (of: string, value: string) => ({ of, field: 'role', value })
const turns = async () => {
  for (let k = 0; k < 20; k++) await Promise.resolve()
}
afterEach(() => {
  asked.length = 0
  storage.clear()
})

describe('a file of others', () => {
  it('is read anew with each choice, and answers to fewer choices are dropped', async () => {
    const taking = useTakingIn()
    void taking.open(file('a.dxf'))
    asked[0]!.answer(200, taken('first'))
    await turns()
    expect(taking.offered.value?.understood).toEqual(['first'])
    void taking.settle(role('A', ''))
    void taking.settle(role('B', 'column'))
    expect(asked.map((a) => a.settled.length)).toEqual([0, 1, 2])
    expect(asked[1]!.ended).toBe(true)
    expect(taking.reading.value).toBe(true)
    asked[2]!.answer(200, taken('both'))
    await turns()
    expect(taking.offered.value?.understood).toEqual(['both'])
    expect([taking.reading.value, taking.problem.value]).toEqual([false, ''])
  })

  it('stands as it was where a choice is refused, and the reason is said', async () => {
    const taking = useTakingIn()
    void taking.open(file('a.dxf'))
    asked[0]!.answer(200, taken('first'))
    await turns()
    void taking.settle(role('A', 'nothing'))
    expect(taking.settled.value).toHaveLength(1)
    asked[1]!.answer(422, { message: 'That is no role.' })
    await turns()
    expect(taking.settled.value).toEqual([])
    expect(taking.problem.value).toBe('a.dxf was not taken in. That is no role.')
    expect(taking.offered.value?.understood).toEqual(['first'])
  })

  it('begins with what was settled of layers of its kind before, not of the whole file', async () => {
    const first = useTakingIn()
    void first.open(file('a.dxf'))
    asked[0]!.answer(200, taken(''))
    await turns()
    void first.settle({ of: '', field: 'unit', value: 'ft' })
    void first.settle(role('A', 'column'))
    asked[2]!.answer(200, taken(''))
    await turns()
    first.keep()
    const second = useTakingIn([{ of: '', field: 'feet', value: 'none' }])
    void second.open(file('b.DXF'))
    expect(asked[3]!.settled).toEqual([{ of: '', field: 'feet', value: 'none' }, role('A', 'column')])
    // what is kept may not fit: it is read without
    asked[3]!.answer(422, { message: 'That is no role.' })
    await turns()
    expect(asked[4]!.settled).toEqual([{ of: '', field: 'feet', value: 'none' }])
    asked[4]!.answer(200, taken('plain'))
    await turns()
    expect([second.offered.value?.understood, second.problem.value]).toEqual([['plain'], ''])
    const table = useTakingIn()
    void table.open(file('c.xlsx'))
    expect(asked[5]!.settled).toEqual([])
  })

  it('is not sent when it is too large, and nobody waits for one that was closed', async () => {
    const taking = useTakingIn()
    const large = file('large.dxf')
    Object.defineProperty(large, 'size', { value: 9 * 1024 * 1024 })
    void taking.open(large)
    expect([asked.length, taking.problem.value]).toEqual([0, 'large.dxf is larger than 8 MB.'])
    void taking.open(file('a.dxf'))
    taking.close()
    await turns()
    expect([asked[0]!.ended, taking.reading.value, taking.offered.value, taking.problem.value]).toEqual([
      true,
      false,
      null,
      '',
    ])
  })
})
