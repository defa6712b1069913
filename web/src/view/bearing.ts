/** What bears the panel that is laid flat, and what does not: kept with a panel by hand, or laid over one that a jig makes. */

import { computed } from 'vue'
import { added, removed } from '../lib/changes'
import { useWorkbench } from '../stores/workbench'

export function useBearing() {
  const bench = useWorkbench()
  const name = computed(() => bench.panel?.name ?? '')
  const bends = computed(() => bench.lists.panels.some((p) => p.name === name.value && p.stiff === 'slab'))
  /** The place among the panels by hand, −1 for one that a jig makes. */
  const byHand = computed(() => (bench.document?.panels ?? []).findIndex((p) => p.name === name.value))
  const laid = computed(() => (bench.document?.panel_edits ?? []).findIndex((e) => e.panel === name.value))
  const excluded = computed(() =>
    byHand.value < 0 ? `panel_edits.${laid.value}.excluded` : `panels.${byHand.value}.excluded`,
  )
  const label = (member: string) => bench.lists.members.find((m) => m.name === member)?.label ?? member

  function leaveOut(member: string) {
    const first = byHand.value < 0 && laid.value < 0
    return bench.edit(
      `${label(member)} bears none of ${name.value}`,
      first ? added('panel_edits', { panel: name.value, excluded: [member] }) : added(excluded.value, member),
    )
  }
  function takeIn(member: string) {
    const edit = byHand.value < 0 ? bench.document?.panel_edits?.[laid.value] : undefined
    return bench.edit(
      `${label(member)} bears ${name.value}`,
      edit?.excluded?.length === 1 ? removed('panel_edits', edit) : removed(excluded.value, member),
    )
  }
  /** Whether the member that is selected bears the panel, or could: null where neither. */
  const selected = computed(() => {
    const of = (all?: readonly { member: string }[]) => !!all?.some((c) => c.member === bench.selected)
    return of(bench.panel?.carriers) ? 'bears' : of(bench.panel?.excluded) ? 'left out' : null
  })
  const may = computed(() => bench.mayChange && !bends.value)
  return { bends, byHand, may, selected, label, leaveOut, takeIn }
}
