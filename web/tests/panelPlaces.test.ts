import { describe, expect, it } from 'vitest'
import { cornerMoved, drawnOf, ownOf, partMoved, placeTyped, snappedOn } from '../src/lib/panelPlaces'
import { awayFrom, within } from '../src/lib/surfaces'

const box: [number, number][] = [[1, 1], [4, 1], [4, 3], [1, 3]] // prettier-ignore
const outline: [number, number][] = [[0, 0], [10, 0], [10, 6], [0, 6]] // prettier-ignore

describe('a part of a panel', () => {
  it('is read in the drawing and stated in the panel’s own coordinates', () => {
    // drawn from the right: x runs the other way, and own x along the drawing's y
    const turn = [[2, 0, 1], [10, -1, 0]] as [number, number, number][] // prettier-ignore
    expect(ownOf(turn, [3, 4])).toEqual([6, 7])
    expect(drawnOf(turn, [6, 7])).toEqual([3, 4])
  })
  it('stays a rectangle when a corner of one is moved', () => {
    const moved: [number, number][] = [[2, 0], [4, 0], [4, 3], [2, 3]] // prettier-ignore
    expect(cornerMoved(box, 0, [2, 0])).toEqual(moved)
    expect(cornerMoved([...box].reverse(), 3, [2, 0])).toEqual([...moved].reverse())
  })
  it('moves one corner alone of any other shape', () => {
    const shape: [number, number][] = [[1, 1], [4, 1], [2, 3]] // prettier-ignore
    expect(cornerMoved(shape, 2, [3, 5])).toEqual([[1, 1], [4, 1], [3, 5]]) // prettier-ignore
  })
  it('moves as a whole, and stays on its panel', () => {
    expect(partMoved(box, [1, 1], outline)[0]).toEqual([2, 2])
    expect(partMoved(box, [99, -99], outline)).toEqual([[7, 0], [10, 0], [10, 2], [7, 2]]) // prettier-ignore
  })
  it('goes by corners, carriers and the middle that are near, else by round figures', () => {
    const lines = [[[2.53, 0], [2.53, 6]]] // prettier-ignore
    expect(snappedOn([9.95, 2.96], outline, lines, 0.1)).toEqual([10, 3])
    expect(snappedOn([2.5, 1.13], outline, lines, 0.1)).toEqual([2.53, 1.15])
    expect(snappedOn([12, -3], outline, lines, 0.1)).toEqual([10, 0])
  })
  it('holds what lies within it', () => {
    expect(within(box, [2, 2])).toBe(true)
    expect(within(box, [5, 2])).toBe(false)
  })
  it('is typed by its corners, a line by its ends, a point by its place', () => {
    expect(placeTyped('area', [])).toEqual([])
    expect(placeTyped('area', [0, 0, 6, 2])).toEqual([[0, 0], [6, 0], [6, 2], [0, 2]]) // prettier-ignore
    expect(placeTyped('line', [1, 0, 1, 4])).toEqual([[1, 0], [1, 4]]) // prettier-ignore
    expect(placeTyped('point', [3, 2])).toEqual([[3, 2]])
    expect(placeTyped('line', [])).toContain('A line is four numbers')
    expect(placeTyped('point', [3, NaN])).toContain('A point is two numbers')
  })
  it('of a line is away from a place as far as its nearest point', () => {
    const line: [number, number][] = [[0, 0], [4, 0], [4, 3]] // prettier-ignore
    expect(awayFrom(line, [2, 1])).toBe(1)
    expect(awayFrom(line, [7, 7])).toBe(5)
    expect(awayFrom([[1, 1]], [4, 5])).toBe(5)
  })
})
