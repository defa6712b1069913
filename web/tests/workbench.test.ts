import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

type Answer = { status: number; body: unknown }
const answers: Record<string, (body: Record<string, unknown>) => Answer | Promise<Answer>> = {}
const asked: string[] = []

vi.stubGlobal('document', { cookie: 'csrftoken=abc123' })
vi.stubGlobal('fetch', async (input: Request) => {
  const url = new URL(input.url)
  const key = `${input.method} ${url.pathname.replace('/api/projects/p1', '')}`
  asked.push(`${key} ${input.headers.get('X-CSRFToken') ?? ''}`.trim())
  const text = await input.text()
  const answer = await (answers[key] ?? (() => ({ status: 404, body: {} })))(text ? JSON.parse(text) : {})
  return new Response(JSON.stringify(answer.body), {
    status: answer.status,
    headers: { 'Content-Type': 'application/json' },
  })
})
const { useWorkbench } = await import('../src/stores/workbench')

const hall = { spacings: [6, 6, 6] }
const project = (number: number) => ({
  id: 'p1',
  name: 'Shed',
  archived: false,
  owner: 'ada',
  role: 'owner',
  revision: { number, label: '', author: 'ada', created: '' },
  can_undo: number > 1,
  can_redo: false,
  fingerprints: { structure: `s${number}` },
  document: { hall },
})
const member = (name: string, frame: number, utilisation: number) => ({
  name,
  frame,
  utilisation,
  role: 'rafter',
  checks: [{ criterion: 'section', combination: 'C1', utilisation }],
})
const chain = (revision: number) => ({
  revision,
  problem: null,
  fingerprints: { structure: `s${revision}` },
  members: [member('a', 1, 0.4), member('b', 3, 0.9), member('c', 2, 0.7)],
  planes: [1, 2, 3, 4].map((n) => ({ key: `frame-${n}`, kind: 'frame', members: [[0], [2], [1], []][n - 1] })),
})

beforeEach(() => {
  setActivePinia(createPinia())
  asked.length = 0
  for (const key of Object.keys(answers)) delete answers[key]
  answers['GET '] = () => ({ status: 200, body: project(1) })
  answers['GET /api/catalogue'] = () => ({ status: 200, body: [] })
  answers['GET /chain'] = () => ({ status: 200, body: chain(1) })
  answers['GET /diagrams'] = () => ({
    status: 200,
    body: { revision: 1, state: 'C1', kind: 'combination', formula: '', runs: [], loads: [] },
  })
})

describe('opening', () => {
  it('shows the worst member and its frame', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    expect(bench.selected).toBe('b')
    expect(bench.plane).toBe('frame-3')
    expect(bench.worstFirst().map((m) => m.name)).toEqual(['b', 'c', 'a'])
    expect(bench.stale).toBe(false)
  })
  it('says when a project is not there', async () => {
    answers['GET '] = () => ({ status: 404, body: {} })
    const bench = useWorkbench()
    await bench.open('p1')
    expect(bench.message).toContain('no such project')
    expect(bench.project).toBeNull()
  })
})

describe('editing', () => {
  it('posts against the base that is seen, with the CSRF token, and takes the new head', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    let sent: Record<string, unknown> = {}
    answers['POST /edits'] = (body) => {
      sent = body
      return { status: 200, body: project(2) }
    }
    answers['GET /chain'] = () => ({ status: 200, body: chain(2) })
    expect(await bench.edit('Span 30 m', [{ path: 'hall.span', value: 30 }])).toBe(true)
    expect(sent).toEqual({ base: 1, label: 'Span 30 m', changes: [{ path: 'hall.span', value: 30 }] })
    expect(asked).toContain('POST /edits abc123')
    expect(bench.project?.revision.number).toBe(2)
    expect(bench.chain?.revision).toBe(2)
  })
  it('keeps everything when the edit is refused, and says why and where', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    answers['POST /edits'] = () => ({
      status: 422,
      body: { message: 'hall.span: must be at least 4, not 1.', place: 'hall.span' },
    })
    expect(await bench.edit('Span', [{ path: 'hall.span', value: 1 }])).toBe(false)
    expect(bench.refusal).toEqual({
      place: 'hall.span',
      message: 'Hall, span: must be at least 4, not 1.',
      reason: 'Must be at least 4, not 1.',
    })
    expect(bench.project?.revision.number).toBe(1)
  })
  it('shows a conflict and catches up when asked', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    answers['POST /edits'] = () => ({
      status: 409,
      body: { message: 'ben made revision 2', number: 2, author: 'ben', differences: [] },
    })
    expect(await bench.edit('Span', [{ path: 'hall.span', value: 30 }])).toBe(false)
    expect(bench.conflict?.author).toBe('ben')
    expect(bench.project?.revision.number).toBe(1)
    answers['GET '] = () => ({ status: 200, body: project(2) })
    answers['GET /chain'] = () => ({ status: 200, body: chain(2) })
    await bench.catchUp()
    expect(bench.conflict).toBeNull()
    expect(bench.project?.revision.number).toBe(2)
  })
  it('takes over by itself what somebody else did, but not under a conflict', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    answers['GET /head'] = () => ({ status: 200, body: { ...project(2).revision, author: 'ben', label: 'Span 30 m' } })
    answers['GET '] = () => ({ status: 200, body: project(2) })
    answers['GET /chain'] = () => ({ status: 200, body: chain(2) })
    bench.conflict = { message: 'ben made revision 2', number: 2, author: 'ben', differences: [] } as never
    await bench.watchHead()
    expect(bench.project?.revision.number).toBe(1)
    expect(bench.elsewhere?.author).toBe('ben')
    bench.conflict = null
    await bench.watchHead()
    expect(bench.project?.revision.number).toBe(2)
    expect(bench.elsewhere).toBeNull()
    expect(bench.arrived?.label).toBe('Span 30 m')
  })
  it('sends nothing for who may only look, and says whose the project is', async () => {
    answers['GET '] = () => ({ status: 200, body: { ...project(1), role: 'checker' } })
    const bench = useWorkbench()
    await bench.open('p1')
    const words = 'ada’s project: you are checker, and may not change it.'
    expect(bench.readOnly).toBe(words)
    expect(await bench.edit('Span', [{ path: 'hall.span', value: 30 }])).toBe(false)
    expect(bench.refusal).toEqual({ place: 'hall.span', message: words, reason: words })
    expect(asked.some((a) => a.startsWith('POST'))).toBe(false)
  })
  it('loses nothing when the server cannot be reached', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    answers['POST /edits'] = () => Promise.reject(new TypeError('network'))
    expect(await bench.edit('Span', [{ path: 'hall.span', value: 30 }])).toBe(false)
    expect(bench.message).toContain('cannot be reached')
    expect(bench.project?.revision.number).toBe(1)
  })
  it('posts one edit after the other, each against the head that the one before made', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    const bases: unknown[] = []
    answers['POST /edits'] = async (body) => {
      bases.push(body.base)
      await new Promise((done) => setTimeout(done, 5))
      return { status: 200, body: project((body.base as number) + 1) }
    }
    const taken = await Promise.all([1, 2, 3].map((n) => bench.edit(`${n}`, [{ path: 'name', value: `${n}` }])))
    expect(bases).toEqual([1, 2, 3])
    expect(taken).toEqual([true, true, true])
    expect(bench.conflict).toBeNull()
  })
  it('goes on after a post that failed', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    answers['POST /edits'] = () => Promise.reject(new TypeError('network'))
    const first = bench.edit('a', [{ path: 'name', value: 'a' }])
    answers['POST /operate'] = () => ({ status: 200, body: project(2) })
    expect(await bench.operate('b', { do: 'remove', members: ['a'] })).toBe(true)
    expect(await first).toBe(false)
  })
  it('lets a newer edit supersede a chain under way', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    let release: (a: Answer) => void = () => {}
    let calls = 0
    answers['GET /chain'] = () => {
      calls += 1
      // the first answer, of revision 2, comes only after the one of revision 3
      return calls === 1 ? new Promise<Answer>((resolve) => (release = resolve)) : { status: 200, body: chain(3) }
    }
    answers['POST /edits'] = (body) => ({ status: 200, body: project((body.base as number) + 1) })
    const first = bench.edit('a', [{ path: 'hall.span', value: 25 }])
    await vi.waitFor(() => expect(calls).toBe(1))
    expect(bench.refreshing).toBe(true)
    expect(bench.stale).toBe(true)
    await bench.edit('b', [{ path: 'hall.span', value: 26 }])
    expect(bench.chain?.revision).toBe(3)
    release({ status: 200, body: chain(2) })
    await first
    expect(bench.chain?.revision).toBe(3)
    expect(bench.refreshing).toBe(false)
  })
})

describe('undo', () => {
  it('does nothing on the first revision', async () => {
    const bench = useWorkbench()
    await bench.open('p1')
    await bench.step('undo')
    expect(asked.some((a) => a.includes('undo'))).toBe(false)
  })
  it('steps back from a later one', async () => {
    answers['GET '] = () => ({ status: 200, body: project(2) })
    answers['GET /chain'] = () => ({ status: 200, body: chain(2) })
    const bench = useWorkbench()
    await bench.open('p1')
    answers['POST /undo'] = () => ({ status: 200, body: project(1) })
    answers['GET /chain'] = () => ({ status: 200, body: chain(1) })
    await bench.step('undo')
    expect(bench.project?.revision.number).toBe(1)
  })
})
