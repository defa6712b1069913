/** Hands on a pressure by hand on a panel, laid flat or seen in three dimensions: its corners are dragged, or all of it. */

import { computed, ref, type Ref } from 'vue'
import type { Schemas } from '../api/client'
import type { Point, Sheet } from '../lib/drawing'
import { cornerMoved, drawnOf, ownOf, partMoved, snappedOn } from '../lib/panelPlaces'
import { area } from '../lib/surfaces'
import { useChosenLoad } from '../stores/chosenLoad'
import { useLoadChoice } from './loadChoice'
import type { Bench } from './plane'

/** Pixels within which a place is near; the least that a part covers, m². */
const [NEAR, LEAST] = [9, 0.01]

const lengthOf = (line: readonly Point[]) =>
  line.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - line[i]![0], p[1] - line[i]![1]), 0)

export function usePanelLoadHands(
  bench: Bench,
  view: { panel: Readonly<Ref<Schemas['PanelOut'] | null | undefined>>; sheet: Readonly<Ref<Sheet>> },
  holder: Ref<Element | undefined>,
) {
  const chosen = useChosenLoad()
  const { may, ofCase, onPanel } = useLoadChoice(bench)
  const { panel, sheet } = view

  const place = (event: MouseEvent): Point => {
    const box = holder.value!.getBoundingClientRect()
    return sheet.value.back(event.clientX - box.left, event.clientY - box.top)
  }
  /** Choose the pressure by hand that is pointed at; whether there is one. */
  function choose(event: MouseEvent): boolean {
    if (!may.value || !panel.value) return false
    const near = NEAR / sheet.value.scale
    return onPanel(panel.value.name, ownOf(panel.value.turn, place(event)), event.shiftKey, near)
  }

  const dragged = ref<{ corner: number | null; from: Point; part: Point[] } | null>(null)
  /** The chosen pressure where it lies on this panel, in the case that is shown; one on all of it by the panel's corners. */
  const now = computed(() => {
    const load = chosen.at?.key === 'panel_loads' ? bench.stated.panel_loads[chosen.at.number] : null
    if (!load || !panel.value || load.panel !== panel.value.name || load.case !== ofCase.value) return null
    if (!load.part?.length) return panel.value.outline.map((p): Point => [p[0], p[1]])
    return load.part.map((p) => drawnOf(panel.value!.turn, p))
  })
  const part = computed(() => dragged.value?.part ?? now.value)
  const line = computed(() => chosen.at?.key === 'panel_loads' && stands(chosen.at.number)?.kind === 'line')
  const stands = (number: number) => bench.stated.panel_loads[number]
  const corners = computed(() => (part.value ?? []).map((p) => sheet.value.at(...p)))
  /** Its extent across and upwards, in words. */
  const words = computed(() => {
    if (!part.value) return ''
    const [first] = part.value
    if (part.value.length === 1) return `${first![0].toFixed(2)}, ${first![1].toFixed(2)} m`
    if (line.value) return `${lengthOf(part.value).toFixed(2)} m`
    const reach = (axis: 0 | 1) => {
      const own = part.value!.map((p) => p[axis])
      return Math.max(...own) - Math.min(...own)
    }
    return `${reach(0).toFixed(2)} × ${reach(1).toFixed(2)} m · ${area(part.value).toFixed(1)} m²`
  })

  const snapped = (p: Point): Point => {
    const { outline, carriers } = panel.value!
    return snappedOn(
      p,
      outline,
      carriers.map((c) => c.line),
      NEAR / sheet.value.scale,
    )
  }
  function grab(event: PointerEvent, corner: number | null) {
    if (!now.value || !bench.mayChange || event.button) return
    dragged.value = { corner, from: place(event), part: now.value }
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  }
  /** The part with a corner moved to a place, or all of it so that its first corner comes there. */
  function shaped(corner: number | null, to: Point): Point[] {
    const from = now.value!
    if (corner !== null) return cornerMoved(from, corner, snapped(to))
    const first = snapped([from[0]![0] + to[0], from[0]![1] + to[1]])
    return partMoved(from, [first[0] - from[0]![0], first[1] - from[0]![1]], panel.value!.outline)
  }
  function drag(event: PointerEvent) {
    const d = dragged.value
    // what was let go stands where it was put until it is stored
    if (!d || !event.buttons) return
    const at = place(event)
    const moved = Math.hypot(at[0] - d.from[0], at[1] - d.from[1]) * sheet.value.scale
    if (moved < 4 && d.part === now.value) return
    const to: Point = d.corner === null ? [at[0] - d.from[0], at[1] - d.from[1]] : at
    dragged.value = { ...d, part: shaped(d.corner, to) }
  }
  async function put(to: readonly Point[]) {
    if (!panel.value || !chosen.at || (to.length > 2 && !line.value && area(to) < LEAST)) return
    const value = to.map((p) => ownOf(panel.value!.turn, p).map((x) => Number(x.toFixed(6))))
    await bench.edit(`Pressure on ${panel.value.name} moved`, [{ path: `panel_loads.${chosen.at.number}.part`, value }])
  }
  /** Whether something was dragged; a press alone is a click. */
  async function drop(): Promise<boolean> {
    const d = dragged.value
    const moved = !!d && d.part !== now.value
    if (moved) await put(d.part)
    // another one may be under way by then
    if (dragged.value === d) dragged.value = null
    return moved
  }
  function nudge(event: KeyboardEvent, corner: number) {
    const ways: Record<string, Point> = {
      ArrowLeft: [-0.05, 0],
      ArrowRight: [0.05, 0],
      ArrowDown: [0, -0.05],
      ArrowUp: [0, 0.05],
    }
    const by = ways[event.key]
    if (!by || !now.value || !bench.mayChange) return
    event.preventDefault()
    const at = now.value[corner]!
    const { outline } = panel.value!
    const moved = partMoved([at], by, outline)[0]!
    void put(cornerMoved(now.value, corner, [Number(moved[0].toFixed(4)), Number(moved[1].toFixed(4))]))
  }
  return { may, choose, corners, line, words, grab, drag, drop, nudge }
}
