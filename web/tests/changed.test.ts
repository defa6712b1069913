import { expect, test } from 'vitest'
import { changesOf, seen } from '../src/lib/changed'

test('members by what becomes of their groups', () => {
  const groups = ['A', 'B', 'C', 'D'].map((name) => ({ name, members: [`${name}1`, `${name}2`] }))
  const mass = (name: string, before: number, after: number) => ({ name, mass_before: before, mass_after: after })
  const sized = [mass('A', 100, 80), mass('B', 100, 130), mass('C', 100, 100.2), mass('D', 100, 100)]
  const found = changesOf(groups, sized, new Set(['A', 'B', 'C']))
  const say = (name: string) => found.get(name)?.change
  expect(['A1', 'B2', 'C1', 'D2'].map(say)).toEqual(['lighter', 'heavier', 'other', 'kept'])
  expect(found.get('B2')?.group).toBe('B')
})

test('a building fits its box, up is up', () => {
  const cube = [0, 6].flatMap((x) => [0, 30].flatMap((y) => [0, 8].map((z) => [x, y, z])))
  const found = seen(cube, 228, 25, [200, 150], 10)
  for (const [x, y] of found) {
    expect(x).toBeGreaterThanOrEqual(9.999)
    expect(x).toBeLessThanOrEqual(190.001)
    expect(y).toBeGreaterThanOrEqual(9.999)
    expect(y).toBeLessThanOrEqual(140.001)
  }
  expect(found[1]![1]).toBeLessThan(found[0]![1])
  expect(found[1]![0]).toBeCloseTo(found[0]![0])
  expect(seen([], 0, 0, [1, 1], 0)).toEqual([])
})
