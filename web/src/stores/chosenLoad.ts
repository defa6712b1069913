import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { useWorkbench } from './workbench'

/** Lists of loads by hand in the document. */
export const LOADS = ['member_loads', 'node_loads', 'panel_loads', 'area_loads', 'settlements'] as const
export type LoadKey = (typeof LOADS)[number]

/** The load by hand that is chosen, in the view or in the list: its list in the document, and its number there. */
export const useChosenLoad = defineStore('chosenLoad', () => {
  const bench = useWorkbench()
  const at = ref<{ key: LoadKey; number: number } | null>(null)
  /** The same of one on a member, by its number. */
  const number = computed({
    get: () => (at.value?.key === 'member_loads' ? at.value.number : null),
    set: (to: number | null) => (at.value = to === null ? null : { key: 'member_loads', number: to }),
  })
  const load = computed(() => (number.value === null ? null : (bench.document?.member_loads?.[number.value] ?? null)))
  const member = computed(() => bench.lists.members.find((m) => m.name === load.value?.member) ?? null)
  watch(
    [() => bench.project?.id, () => bench.stage, ...LOADS.map((key) => () => bench.document?.[key]?.length)],
    () => (at.value = null),
  )
  return { at, number, load, member }
})
