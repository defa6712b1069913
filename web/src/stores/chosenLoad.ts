import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { useWorkbench } from './workbench'

/** Lists of loads by hand in the document. */
export const LOADS = ['member_loads', 'node_loads', 'panel_loads', 'area_loads', 'settlements'] as const
export type LoadKey = (typeof LOADS)[number]
/** A load by hand: its list in the document, and its number there. */
export interface LoadPlace {
  key: LoadKey
  number: number
}
const same = (a: LoadPlace, b: LoadPlace) => a.key === b.key && a.number === b.number

/** The load by hand that is chosen, in the view or in the list, and those that are chosen beside it. */
export const useChosenLoad = defineStore('chosenLoad', () => {
  const bench = useWorkbench()
  const all = ref<LoadPlace[]>([])
  /** The one that is looked at: the last chosen. */
  const at = computed({
    get: () => all.value.at(-1) ?? null,
    set: (to: LoadPlace | null) => (all.value = to ? [to] : []),
  })
  /** The same of one on a member, by its number. */
  const number = computed(() => (at.value?.key === 'member_loads' ? at.value.number : null))
  const load = computed(() => (number.value === null ? null : (bench.document?.member_loads?.[number.value] ?? null)))
  const has = (place: LoadPlace) => all.value.some((one) => same(one, place))
  /** Choose a load alone, or beside those that are chosen: one that is among them is left. */
  function choose(place: LoadPlace | null, beside = false) {
    if (!beside) at.value = place
    else if (place) all.value = has(place) ? all.value.filter((one) => !same(one, place)) : [...all.value, place]
  }
  watch(
    [() => bench.project?.id, () => bench.stage, ...LOADS.map((key) => () => bench.document?.[key]?.length)],
    () => (at.value = null),
  )
  return { at, all, number, load, has, choose }
})
