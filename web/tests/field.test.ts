import { nextTick, ref } from 'vue'
import { describe, expect, it } from 'vitest'
import { useTyped } from '../src/lib/field'

/** A field on a value that answers when it is told to. */
function field(start: string) {
  const written = ref(start)
  const posts: string[] = []
  let answer: (reason: string) => void = () => {}
  const post = (text: string) => {
    posts.push(text)
    return new Promise<string>((done) => (answer = done))
  }
  const made = useTyped(() => written.value, post)
  return { ...made, written, posts, answer: (reason: string) => answer(reason) }
}

describe('a field', () => {
  it('shows what is written and posts what is typed, once', async () => {
    const f = field('24')
    expect(f.typed.value).toBe('24')
    await f.commit()
    expect(f.posts).toEqual([])
    f.typed.value = '3*7.2'
    const entered = f.commit()
    void f.commit()
    f.written.value = '21.6'
    await nextTick()
    f.answer('')
    await entered
    expect(f.posts).toEqual(['3*7.2'])
    expect(f.typed.value).toBe('21.6')
  })
  it('keeps what is typed while an edit is under way, and posts it', async () => {
    const f = field('6')
    f.typed.value = '7'
    const first = f.commit()
    f.typed.value = '8'
    f.written.value = '7'
    await nextTick()
    f.answer('')
    await first
    expect(f.typed.value).toBe('8')
    const second = f.commit()
    f.written.value = '8'
    f.answer('')
    await second
    expect(f.posts).toEqual(['7', '8'])
  })
  it('keeps refused text with its reason until it is left', async () => {
    const f = field('6')
    f.typed.value = 'wide'
    const entered = f.commit()
    f.answer('not a number')
    await entered
    expect([f.typed.value, f.wrong.value]).toEqual(['wide', 'not a number'])
    f.leave()
    expect([f.typed.value, f.wrong.value]).toEqual(['6', ''])
  })
  it('follows a value that changes elsewhere', async () => {
    const f = field('6')
    f.written.value = '9'
    await nextTick()
    expect(f.typed.value).toBe('9')
  })
})
