import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { useFollowing } from '../src/lib/following'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())
const said = (status: number, data?: unknown) => Promise.resolve({ data, response: { status } as Response })

test('it asks again until what is followed rests', async () => {
  const { follow } = useFollowing(() => 'hall')
  const answers = [1, 2, 3]
  const took: unknown[] = []
  await follow(
    () => said(200, answers.shift()),
    (data) => took.push(data) < 3,
  )
  expect(took).toEqual([1, 2, 3])
})

test('where the server is away it waits longer each time, and goes on; what is refused it leaves', async () => {
  const { follow } = useFollowing(() => 'hall')
  let asked = 0
  const done = follow(
    () => (++asked === 1 ? Promise.reject(new Error('away')) : asked === 2 ? said(503) : said(404)),
    () => true,
  )
  await vi.advanceTimersByTimeAsync(249)
  expect(asked).toBe(1)
  await vi.advanceTimersByTimeAsync(1)
  expect(asked).toBe(2)
  await vi.advanceTimersByTimeAsync(499)
  expect(asked).toBe(2)
  await vi.advanceTimersByTimeAsync(1)
  await done
  expect(asked).toBe(3)
})

test('an answer to an older call, or of a project that was left, is not taken', async () => {
  let open = 'hall'
  const { follow, leave } = useFollowing(() => open)
  const took: string[] = []
  let answer: (of: string) => void = () => undefined
  const late = () =>
    new Promise<{ data?: unknown; response: Response }>((done) => {
      answer = (of) => done({ data: of, response: { status: 200 } as Response })
    })
  const take = (data: unknown) => {
    took.push(data as string)
    return false
  }
  for (const end of [leave, () => (open = 'shed'), () => void follow(() => said(200, 'newer'), take)]) {
    open = 'hall'
    const done = follow(late, take)
    end()
    answer('older')
    await done
  }
  expect(took).toEqual(['newer'])
})
