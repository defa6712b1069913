import { computed, ref, type Ref } from 'vue'
import { flat, place, type Point } from '../lib/drawing'
import { feet, nearest, snaps, touches, type Snap } from '../lib/snaps'
import type { Bench, PlaneView } from './plane'

/** The pointer in the plane: drawing from snap to snap, and choosing by window. */
export function usePen(bench: Bench, view: PlaneView, holder: Ref<HTMLElement | undefined>) {
  const { basis, upright, inPlane, line, grid, off, sheet, onSheet } = view
  // drawing by hand
  const pen = ref<Snap | null>(null)
  const lines = computed(() => inPlane.value.map((m) => line(m)).map((l) => [l[0]!, l.at(-1)!] as const))
  const spots = computed(() =>
    bench.drawing
      ? snaps({
          nodes: bench.lists.nodes.flatMap((n, i) =>
            Math.abs(off(n)) < 0.01 ? [{ name: bench.chain!.node_names[i]!, at: flat(basis.value, n) }] : [],
          ),
          lines: lines.value,
          upright: grid.value.filter((g) => !g.upwards).map((g) => ({ name: g.name, at: g.at })),
          level: [
            ...grid.value.filter((g) => g.upwards).map((g) => ({ name: g.name, at: g.at })),
            ...(upright.value
              ? bench.lists.levels.map((v) => ({ name: v.name, at: v.height - basis.value.origin[2] }))
              : []),
          ],
        })
      : [],
  )
  const points = computed(() =>
    (bench.drawing?.points ?? []).map((p) =>
      typeof p === 'string' ? (bench.chain!.nodes[bench.chain!.node_names.indexOf(p)] ?? [0, 0, 0]) : p,
    ),
  )
  const trail = computed(() => points.value.map((p) => onSheet(p)))
  const perpendiculars = computed(() => {
    const last = points.value.at(-1)
    return last ? feet(flat(basis.value, last), lines.value) : []
  })
  function hover(event: MouseEvent) {
    if (!bench.drawing) return
    const box = holder.value!.getBoundingClientRect()
    const at: Point = [event.clientX - box.left, event.clientY - box.top]
    pen.value = nearest([...spots.value, ...perpendiculars.value], at, (p) => sheet.value.at(...p), 14)
  }
  function put() {
    if (!bench.drawing || !pen.value) return
    const spot = pen.value.node ?? place(basis.value, pen.value.at)
    bench.drawing = { ...bench.drawing, points: [...bench.drawing.points, spot] }
  }

  // choosing by window: enclosed from left to right, crossed from right to left
  const window_ = ref<{ from: Point; to: Point } | null>(null)
  function press(event: MouseEvent) {
    if (bench.drawing || event.button !== 0 || (event.target as Element).closest('.grip')) return
    const box = holder.value!.getBoundingClientRect()
    const at: Point = [event.clientX - box.left, event.clientY - box.top]
    window_.value = { from: at, to: at }
  }
  function drag(event: MouseEvent) {
    hover(event)
    if (!window_.value) return
    const box = holder.value!.getBoundingClientRect()
    window_.value = { ...window_.value, to: [event.clientX - box.left, event.clientY - box.top] }
  }
  function letGo(event: MouseEvent) {
    const w = window_.value
    window_.value = null
    if (!w || Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]) < 5) return
    const crossing = w.to[0] < w.from[0]
    const found = inPlane.value
      .filter((m) => {
        const points = line(m).map((p) => sheet.value.at(...p))
        return touches([points[0]!, points.at(-1)!], w.from, w.to, crossing)
      })
      .map((m) => m.name)
    bench.choose(event.shiftKey ? [...bench.chosen, ...found] : found)
  }
  return { pen, trail, put, window_, press, drag, letGo }
}
