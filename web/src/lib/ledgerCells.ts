import { ref, type ComputedRef, type Ref } from 'vue'
import { useWorkbench } from '../stores/workbench'
import type { Row, Table } from './ledgerTypes'

/** Cells of the ledger that can be written: double click or F2; a table from a spreadsheet goes in at the cell last pointed at. */
export function useCells(table: ComputedRef<Table>, rows: ComputedRef<Row[]>, wrong: Ref<string>) {
  const bench = useWorkbench()
  const editing = ref<{ key: string; column: number; text: string } | null>(null)
  const pointed = ref<{ at: number; column: number } | null>(null)
  function startEdit(row: Row, column: number) {
    if (!table.value.head[column]?.write) return
    wrong.value = ''
    editing.value = { key: row.key, column, text: String(row.cells[column] ?? '') }
  }
  async function write(cells: { key: string; column: number; text: string }[], words: string) {
    wrong.value = ''
    const operations = []
    for (const cell of cells) {
      const column = table.value.head[cell.column]
      const row = table.value.rows.find((r) => r.key === cell.key)
      if (!column || !row || String(row.cells[cell.column] ?? '') === cell.text) continue
      if (!column.write) {
        wrong.value = `“${column.text}” follows from the rest and cannot be written.`
        return
      }
      const found = column.write(cell.key, cell.text)
      if (typeof found === 'string') {
        wrong.value = `${row.cells[0]}: ${found}`
        return
      }
      operations.push(found)
    }
    if (!operations.length) return
    const done = await bench.operate(words, ...operations)
    if (!done) wrong.value = bench.refusal?.message ?? ''
  }
  async function commit() {
    const cell = editing.value
    if (!cell) return
    editing.value = null
    await write([cell], `${table.value.head[cell.column]!.text} ${cell.text}`)
  }
  async function paste(event: ClipboardEvent) {
    const from = pointed.value
    if (!from || editing.value) return
    const lines = (event.clipboardData?.getData('text') ?? '').replace(/\r?\n$/, '').split(/\r?\n/)
    event.preventDefault()
    const cells = lines.flatMap((line, i) =>
      line.split('\t').flatMap((text, j) => {
        const row = rows.value[from.at + i]
        return row ? [{ key: row.key, column: from.column + j, text: text.trim() }] : []
      }),
    )
    await write(cells, `${cells.length} cells pasted`)
  }
  return { editing, pointed, startEdit, commit, paste }
}
