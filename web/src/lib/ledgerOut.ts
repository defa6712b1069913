import { useClipboard } from '@vueuse/core'
import { computed, type ComputedRef, type Ref } from 'vue'
import { useWorkbench } from '../stores/workbench'
import type { Row, Table } from './ledgerTypes'
import type { Tab } from './ledger'
import { apart, csv, save, spreadsheet, tabbed } from './table'
import { figures } from './temper'

/** The ledger as it is seen, out to the clipboard, a CSV file or a spreadsheet. */
export function useOut(tab: Ref<Tab>, table: ComputedRef<Table>, rows: ComputedRef<Row[]>) {
  const bench = useWorkbench()
  const clipboard = useClipboard({ copiedDuring: 1500 })
  const plain = (row: Row) =>
    row.cells.map((cell, i) => (table.value.head[i]?.use ? figures(cell as number | null) : cell))
  async function copy() {
    await clipboard.copy(
      tabbed(
        table.value.head.map((h) => h.text),
        rows.value.map(plain),
      ),
    )
  }
  const file = computed(
    () =>
      `${tab.value.toLowerCase().replaceAll(' ', '-')}-revision-${bench.chain?.revision}${bench.stale ? '-behind' : ''}`,
  )
  /** A head that only says “least” belongs to the quantity before it. */
  const said = computed(() =>
    table.value.head.map((h, j, all) => (h.text === 'least' ? all[j - 1]!.text.replace(' most', ' least') : h.text)),
  )
  const parted = () =>
    apart(
      said.value,
      rows.value.map((row) => row.whole ?? row.cells),
    )
  function download() {
    const { head, rows: body } = parted()
    save(`${file.value}.csv`, csv(bench.stale ? [...head, bench.origin(bench.chain?.revision)] : head, body))
  }
  async function downloadSheet() {
    const { head, rows: body } = parted()
    const title = `${bench.project?.name}: ${tab.value}, ${bench.origin(bench.chain?.revision)}`
    await spreadsheet(`${file.value}.xlsx`, title, head, body)
  }
  return { said, copied: clipboard.copied, copy, download, downloadSheet }
}
