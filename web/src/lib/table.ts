/** Tables out of the application: for the clipboard (tabs) and for a file (CSV). */

export type Cell = string | number | null

/** The number that a cell shows, whatever unit or combination stands behind it; NaN where it shows none. */
export function numberIn(cell: Cell): number {
  if (typeof cell === 'number') return cell
  const found = /^\s*([−-]?)(\d+(?:\.\d+)?|∞)/.exec(cell ?? '')
  if (!found) return NaN
  const size = found[2] === '∞' ? Infinity : Number(found[2])
  return found[1] ? -size : size
}

/** Order of two cells: by their numbers where both show one, numbers before words, else by words. */
export function compare(a: Cell, b: Cell): number {
  const [x, y] = [numberIn(a), numberIn(b)]
  if (!Number.isNaN(x) && !Number.isNaN(y)) return x === y ? 0 : x < y ? -1 : 1
  if (Number.isNaN(x) !== Number.isNaN(y)) return Number.isNaN(x) ? 1 : -1
  return String(a ?? '').localeCompare(String(b ?? ''), undefined, { numeric: true })
}

/** A cell as text that no spreadsheet takes for a formula: names are typed by people. */
function inert(cell: Cell): string {
  const text = String(cell ?? '')
  return /^[=+@\t\r-]/.test(text) && !/^[+-]?\d+(\.\d+)?$/.test(text) ? `'${text}` : text
}

export function tabbed(head: string[], rows: Cell[][]): string {
  return [head, ...rows].map((row) => row.map((cell) => inert(cell).replace(/[\t\r\n]/g, ' ')).join('\t')).join('\n')
}

export function csv(head: string[], rows: Cell[][]): string {
  const quoted = (cell: Cell) => {
    const safe = inert(cell)
    return /[",\r\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe
  }
  return [head, ...rows].map((row) => row.map(quoted).join(',')).join('\r\n') + '\r\n'
}

export function save(name: string, text: string, type = 'text/csv'): void {
  saveBlob(name, new Blob([text], { type }))
}

export function saveBlob(name: string, blob: Blob): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}

const FIGURE = /^([−-]?\d+(?:\.\d+)?)(?: ([A-Z]+\d+))?(?: at (\d+(?:\.\d+)?))?$/

/** Columns of figures as numbers; where a figure bears the name of its combination and its place (“47.7 C181 at 3.21”), these
 * stand in columns of their own. */
export function apart(head: string[], rows: Cell[][]): { head: string[]; rows: Cell[][] } {
  const found = head.map((text, j) => {
    const cells = rows.map((row) => row[j] ?? null)
    const matches = cells.map((cell) => (typeof cell === 'string' ? FIGURE.exec(cell) : null))
    if (!cells.some((cell) => cell !== null) || !cells.every((cell, i) => cell === null || cell === '' || matches[i]))
      return { head: [text], columns: [cells] }
    const numbers = matches.map((m) => (m ? Number(m[1]!.replace('−', '-')) : null))
    if (!matches.some((m) => m?.[2])) return { head: [text], columns: [numbers] }
    const named = { head: [text, `${text}, in`], columns: [numbers, matches.map((m) => m?.[2] ?? null)] as Cell[][] }
    if (!matches.some((m) => m?.[3])) return named
    const places = matches.map((m) => (m?.[3] ? Number(m[3]) : null))
    return { head: [...named.head, `${text}, at m`], columns: [...named.columns, places] }
  })
  const columns = found.flatMap((f) => f.columns)
  return { head: found.flatMap((f) => f.head), rows: rows.map((_, i) => columns.map((column) => column[i] ?? null)) }
}

/** A spreadsheet file: a line that says what it is, the heads, then the rows with numbers as numbers. */
export async function spreadsheet(name: string, title: string, head: string[], rows: Cell[][]): Promise<void> {
  const { default: write } = await import('write-excel-file/browser')
  const data = [
    [{ value: title }],
    head.map((value) => ({ value, fontWeight: 'bold' as const })),
    ...rows.map((row) => row.map((value) => (value === null ? null : { value }))),
  ]
  const widths = head.map((text, j) => ({
    width: Math.min(60, Math.max(text.length, ...rows.slice(0, 200).map((row) => String(row[j] ?? '').length)) + 2),
  }))
  const blob = await write(data, { columns: widths, stickyRowsCount: 2 }).toBlob()
  saveBlob(name, blob)
}
