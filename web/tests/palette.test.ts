import { expect, it } from 'vitest'
import { fitting, MOST, type Entry } from '../src/lib/palette'

const entry = (kind: Entry['kind'], label: string, detail = ''): Entry => ({
  key: `${kind} ${label}`,
  kind,
  label,
  detail,
  run: () => 0,
})
const entries = [
  entry('Stage', 'Actions'),
  entry('Command', 'Undo'),
  entry('View', 'Frame on grid 2'),
  entry('Member', 'Column 2·A', 'HEA 450'),
  entry('Member', 'Rafter 2·AB', 'IPE 500'),
  entry('Combination', 'C2', '1.35 G1 + 1.5 S1'),
  entry('Case', 'S1', 'Snow on the whole roof'),
]
const labels = (query: string, recent: string[] = []) => fitting(entries, query, recent).map((e) => e.label)

it('finds by every word, in any order, in name, detail or kind', () => {
  expect(labels('a column')).toEqual(['Column 2·A'])
  expect(labels('450 column')).toEqual(['Column 2·A'])
  expect(labels('member ipe')).toEqual(['Rafter 2·AB'])
  expect(labels('snow')).toEqual(['S1'])
  expect(labels('nothing of this')).toEqual([])
})

it('takes the words for the beginnings of names before it takes them for anything else', () => {
  const rafters = [entry('Member', 'Rafter 1·AB', 'IPE 300'), entry('Member', 'Rafter 3·AB', 'IPE 100')]
  expect(fitting(rafters, 'rafter 3', []).map((e) => e.label)).toEqual(['Rafter 3·AB', 'Rafter 1·AB'])
  expect(fitting(rafters, '3 raf', [])[0]?.label).toBe('Rafter 3·AB')
})

it('puts what is named so before what only mentions it', () => {
  expect(labels('s1')).toEqual(['S1', 'C2'])
  expect(labels('c2')[0]).toBe('C2')
  expect(labels('2 a')[0]).toBe('Column 2·A')
})

it('shows what was chosen last before anything is typed, and no members beside', () => {
  expect(labels('', ['Member Rafter 2·AB', 'Case S1'])).toEqual([
    'Rafter 2·AB',
    'S1',
    'Actions',
    'Undo',
    'Frame on grid 2',
  ])
  expect(labels('', ['Member that is gone'])).toEqual(['Actions', 'Undo', 'Frame on grid 2'])
})

it('lists no more than can be looked through', () => {
  const many = Array.from({ length: 500 }, (_, i) => entry('Member', `Purlin ${i}`))
  expect(fitting(many, 'purlin', []).length).toBe(MOST)
})
