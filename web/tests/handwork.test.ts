import { createPinia, setActivePinia } from 'pinia'
import { expect, test, vi } from 'vitest'
import { refused } from '../src/lib/refused'

vi.stubGlobal('document', { cookie: '' })
const { useHandwork } = await import('../src/lib/handwork')
const { useWorkbench } = await import('../src/stores/workbench')

test('what is said against an edit stays, though an earlier one ends well after it', async () => {
  setActivePinia(createPinia())
  const bench = useWorkbench()
  let first: (done: boolean) => void = () => undefined
  // taken at once, its numbers take a while
  bench.operate = vi
    .fn()
    .mockImplementationOnce(() => new Promise<boolean>((done) => (first = done)))
    .mockImplementationOnce(() => {
      bench.refusal = refused('members', 'There is no section “IPE 5000”.')
      return Promise.resolve(false)
    })
    .mockImplementationOnce(() => Promise.resolve(true))
  const hand = useHandwork()
  const good = hand.operate('IPE 500', { do: 'remove', members: ['m1'] })
  await hand.operate('IPE 5000', { do: 'remove', members: ['m2'] })
  expect(hand.wrong.value).toBe('There is no section “IPE 5000”.')
  first(true)
  await good
  expect(hand.wrong.value).toBe('There is no section “IPE 5000”.')
  await hand.operate('IPE 300', { do: 'remove', members: ['m3'] })
  expect(hand.wrong.value).toBe('')
})
