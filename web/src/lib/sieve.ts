import { numberIn, type Cell } from './table'

/** One condition of a filter: words anywhere in a row, or on one column: `section: ipe`, `utilisation > 0.9`. */
interface Condition {
  column: number
  test: (cell: Cell) => boolean
}

const plain = (text: string) => text.toLowerCase().trim()
const COMPARE: Record<string, (a: number, b: number) => boolean> = {
  '>': (a, b) => a > b,
  '<': (a, b) => a < b,
  '>=': (a, b) => a >= b,
  '<=': (a, b) => a <= b,
}

/** The column that words stand for: the one that is called so, else the first that begins so; −1 for none. */
function columnOf(words: string, heads: readonly string[]): number {
  const wanted = plain(words)
  if (!wanted) return -1
  const names = heads.map(plain)
  const exact = names.indexOf(wanted)
  return exact >= 0 ? exact : names.findIndex((name) => name.startsWith(wanted))
}

function condition(part: string, heads: readonly string[]): Condition {
  const found = /^(.*?)\s*(>=|<=|>|<|:)\s*(.*)$/.exec(part)
  const column = found ? columnOf(found[1]!, heads) : -1
  if (!found || column < 0) return { column: -1, test: (cell) => plain(String(cell ?? '')).includes(plain(part)) }
  const [, , sign, value] = found as unknown as [string, string, string, string]
  if (sign === ':') return { column, test: (cell) => plain(String(cell ?? '')).includes(plain(value)) }
  const limit = numberIn(value)
  return { column, test: (cell) => COMPARE[sign]!(numberIn(cell), limit) }
}

/** A test of rows by what is typed: words that must all be there, and after commas conditions on columns. */
export function sieve(query: string, heads: readonly string[]): (cells: readonly Cell[]) => boolean {
  const parts = query.split(/[,;]\s+|[,;]$/).flatMap((part) => {
    const named = /[:<>]/.test(part)
    return named ? [part] : part.split(/\s+/)
  })
  const conditions = parts.filter((part) => plain(part)).map((part) => condition(part, heads))
  return (cells) => conditions.every(({ column, test }) => test(column < 0 ? cells.join(' ') : (cells[column] ?? null)))
}
