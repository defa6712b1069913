import { useLocalStorage } from '@vueuse/core'
import { computed, type Ref } from 'vue'

/** Something by table that this browser remembers. */
function remembered<T>(name: string, tab: Ref<string>, none: T) {
  const all = useLocalStorage<Record<string, T>>(name, {})
  return computed<T>({
    get: () => all.value[tab.value] ?? none,
    set(value) {
      all.value = { ...all.value, [tab.value]: value }
    },
  })
}

/** The least width of a column, in pixels. */
const LEAST = 40

/** Columns of the ledger: those that are not shown, and those whose width was changed, by table. */
export function useColumns(tab: Ref<string>) {
  const hidden = remembered<string[]>('lorica.columns', tab, [])
  const widths = remembered<Record<string, number>>('lorica.widths', tab, {})
  const off = computed(() => new Set(hidden.value))
  function showColumn(name: string) {
    const next = new Set(off.value)
    if (!next.delete(name)) next.add(name)
    hidden.value = [...next]
  }
  /** Make a column so many pixels wide; null: as wide as what stands in it. */
  function widen(name: string, width: number | null) {
    const others = Object.entries(widths.value).filter(([own]) => own !== name)
    const mine = width === null ? [] : [[name, Math.max(LEAST, Math.round(width))] as const]
    widths.value = Object.fromEntries([...others, ...mine])
  }
  return { off, widths, showColumn, widen }
}

/** Follow the edge of a column's head from where it was taken: its width at each move. */
export function dragged(event: PointerEvent, to: (width: number) => void) {
  const edge = event.currentTarget as HTMLElement
  const from = event.clientX - edge.parentElement!.getBoundingClientRect().width
  const move = (next: PointerEvent) => to(next.clientX - from)
  edge.setPointerCapture(event.pointerId)
  edge.addEventListener('pointermove', move)
  edge.addEventListener('lostpointercapture', () => edge.removeEventListener('pointermove', move), { once: true })
  event.preventDefault()
}
