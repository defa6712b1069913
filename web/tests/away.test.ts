import { describe, expect, it } from 'vitest'
import { fetchPatiently } from '../src/lib/away'

const broken = () => Promise.reject(new TypeError('Failed to fetch'))

/** A server whose first connections break. */
function breaking(times: number) {
  let asked = 0
  const send = () => (++asked <= times ? broken() : Promise.resolve(new Response('numbers')))
  return { send, asked: () => asked }
}

describe('a connection that breaks', () => {
  it('is made once more for what is only read', async () => {
    const server = breaking(1)
    const answer = await fetchPatiently(new Request('http://localhost/a'), server.send)
    expect(await answer.text()).toBe('numbers')
    expect(server.asked()).toBe(2)
  })

  it('is told when it breaks again', async () => {
    const server = breaking(2)
    await expect(fetchPatiently(new Request('http://localhost/a'), server.send)).rejects.toThrow('Failed to fetch')
    expect(server.asked()).toBe(2)
  })

  it('is never made again for what changes something', async () => {
    const server = breaking(1)
    const post = new Request('http://localhost/a', { method: 'POST' })
    await expect(fetchPatiently(post, server.send)).rejects.toThrow('Failed to fetch')
    expect(server.asked()).toBe(1)
  })
})
