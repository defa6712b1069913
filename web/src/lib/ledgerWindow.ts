import { computed, ref, type ComputedRef, type Ref } from 'vue'

/** Height of a row in pixels, and the number of rows up to which all are drawn. */
const HEIGHT = 24
const MOST = 200

/** Of a long table the rows in sight alone, with room before and after them. */
export function useWindow<T>(rows: ComputedRef<T[]>, scroller: Ref<HTMLElement | undefined>) {
  const scrolled = ref(0)
  const room = ref(400)
  function onScroll() {
    scrolled.value = scroller.value!.scrollTop
    room.value = scroller.value!.clientHeight
  }
  const long = computed(() => rows.value.length > MOST)
  const windowed = computed(() => {
    const all = rows.value
    if (!long.value) return { first: 0, rows: all, before: 0, after: 0 }
    const first = Math.max(0, Math.floor(scrolled.value / HEIGHT) - 12)
    const shown = all.slice(first, first + Math.ceil(room.value / HEIGHT) + 24)
    return { first, rows: shown, before: first * HEIGHT, after: (all.length - first - shown.length) * HEIGHT }
  })
  /** Bring a row of a long table into sight. */
  function show(at: number) {
    const top = at * HEIGHT
    if (scroller.value && (top < scroller.value.scrollTop || top > scroller.value.scrollTop + room.value - 60))
      scroller.value.scrollTop = top - 60
  }
  return { windowed, long, onScroll, show }
}
