import { expect, test } from 'vitest'
import { numbers } from '../src/lib/numbers'

test('lists and ranges of numbers', () => {
  expect(numbers('5, 6;7.5 8')).toEqual([5, 6, 7.5, 8])
  expect(numbers('5 to 8 by 1.5')).toEqual([5, 6.5, 8])
  expect(numbers('0.1 to 0.3 by 0.1')).toEqual([0.1, 0.2, 0.3])
  expect(numbers('')).toEqual([])
  for (const wrong of ['five', '5 to 8', '8 to 5 by 1', '1 to 100 by 1', '5 to 8 by 0'])
    expect(numbers(wrong)).toBeNull()
})
