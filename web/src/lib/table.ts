/** Tables out of the application: for the clipboard (tabs) and for a file (CSV). */

export type Cell = string | number | null

export function tabbed(head: string[], rows: Cell[][]): string {
  return [head, ...rows]
    .map((row) => row.map((cell) => String(cell ?? '').replace(/[\t\n]/g, ' ')).join('\t'))
    .join('\n')
}

export function csv(head: string[], rows: Cell[][]): string {
  const quoted = (cell: Cell) => {
    const text = String(cell ?? '')
    const safe = typeof cell === 'string' && /^[=+@]/.test(text) ? `'${text}` : text
    return /[",\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe
  }
  return [head, ...rows].map((row) => row.map(quoted).join(',')).join('\r\n') + '\r\n'
}

export function save(name: string, text: string, type = 'text/csv'): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text], { type }))
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
