import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { useWorkbench } from './workbench'

/** The load on a member that is chosen, in the view or in the list, by its number in the document. */
export const useChosenLoad = defineStore('chosenLoad', () => {
  const bench = useWorkbench()
  const number = ref<number | null>(null)
  const load = computed(() => (number.value === null ? null : (bench.document?.member_loads?.[number.value] ?? null)))
  const member = computed(() => bench.lists.members.find((m) => m.name === load.value?.member) ?? null)
  watch(
    [() => bench.project?.id, () => bench.stage, () => bench.document?.member_loads?.length],
    () => (number.value = null),
  )
  return { number, load, member }
})
