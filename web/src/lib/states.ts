import { computed } from 'vue'
import { useWorkbench } from '../stores/workbench'

/** A case in a list: its symbol and its name; cases of one's own have their name alone. */
export const caseWords = (c: { symbol: string; name: string }) =>
  c.symbol === c.name ? c.name : `${c.symbol} · ${c.name}`

/** What can be shown: envelopes, cases, combinations, and the mode that is. */
export function useStates() {
  const bench = useWorkbench()
  /** Uses of combinations and natures of cases of which an envelope can be drawn. */
  const sets = computed(() => [
    ...new Set([
      ...bench.lists.combinations.map((c) => c.use).filter((u) => u !== 'strength' && u !== 'lost'),
      ...bench.lists.cases.map((c) => c.nature).filter((n) => n !== 'permanent' && n !== 'imperfection'),
    ]),
  ])
  return computed(() => [
    { value: '', label: bench.selected ? 'governing combination' : 'envelope' },
    { value: 'envelope', label: 'envelope of strength' },
    ...sets.value.map((s) => ({ value: `envelope:${s}`, label: `envelope of ${s}` })),
    ...bench.lists.cases.map((c) => ({ value: c.symbol, label: caseWords(c) })),
    ...bench.lists.combinations.map((c) => ({ value: c.name, label: `${c.name} · ${c.formula}` })),
    ...(/^(mode|vibration|free):/.test(bench.state)
      ? [{ value: bench.state, label: bench.diagram?.formula ?? '' }]
      : []),
  ])
}
