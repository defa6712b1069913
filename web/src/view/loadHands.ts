/** Hands on loads in an elevation or plan: one is chosen by pointing at its arrows, and moved by its handles. */

import { computed, ref, type Ref } from 'vue'
import { flat, type Point } from '../lib/drawing'
import { alongThere, movedTo, nextOf, snappedTo, stated, stretchOf, type Grip, type Stretch } from '../lib/loadPlaces'
import { useChosenLoad } from '../stores/chosenLoad'
import type { Bench, PlaneView } from './plane'

/** What is drawn of line loads or forces, by the member that bears it, with the stretch of it in pixels. */
export interface Borne {
  member: string
  from: Point
  to: Point
  /** where the node lies that a load acts on */
  node?: readonly number[]
}
/** Metres within which a load lies on a node. */
const ON = 1e-3
/** Pixels by which the pointer moves before something is dragged, and within which a place is near. */
const [BEGUN, NEAR] = [4, 9]

export function useLoadHands(bench: Bench, plane: PlaneView, holder: Ref<HTMLElement | undefined>) {
  const chosen = useChosenLoad()
  const { basis, sheet } = plane
  // by what is asked for: while its drawing is on its way, hands stay where they are
  const ofCase = computed(() => bench.lists.cases.find((c) => c.symbol === bench.state)?.name ?? '')
  const may = computed(
    () => bench.stage === 'actions' && !!ofCase.value && bench.overlays.has('actions') && !bench.trial,
  )

  /** A member's ends in pixels, and its length in m. */
  function lineOf(name: string) {
    const m = bench.lists.members.find((found) => found.name === name)
    if (!m) return null
    const ends = [m.line[0]!, m.line.at(-1)!].map((n) => sheet.value.at(...flat(basis.value, bench.chain!.nodes[n]!)))
    return { a: ends[0]!, b: ends[1]!, length: m.length, member: m }
  }
  type Line = NonNullable<ReturnType<typeof lineOf>>
  const spot = (l: Line, x: number): Point => [
    l.a[0] + ((l.b[0] - l.a[0]) * x) / l.length,
    l.a[1] + ((l.b[1] - l.a[1]) * x) / l.length,
  ]
  const pixels = (l: Line) => Math.hypot(l.b[0] - l.a[0], l.b[1] - l.a[1])
  function along(l: Line, p: Point): number {
    const [dx, dy] = [l.b[0] - l.a[0], l.b[1] - l.a[1]]
    const t = ((p[0] - l.a[0]) * dx + (p[1] - l.a[1]) * dy) / Math.max(dx * dx + dy * dy, 1e-9)
    return Math.min(Math.max(t, 0), 1) * l.length
  }

  /** Choose what is pointed at: of several loads there one after the other. Generated ones belong to their jig: their member is chosen. */
  function choose(borne: Borne) {
    if (borne.node) return chooseOn(borne.node)
    const l = lineOf(borne.member)
    if (!l) return
    const [x, y] = [along(l, borne.from), along(l, borne.to)]
    const there = { start: Math.min(x, y), end: Math.max(x, y) }
    const of = { member: borne.member, case: ofCase.value, length: l.length }
    const next = nextOf(alongThere(bench.stated.member_loads, of, there), chosen.number)
    bench.select(borne.member)
    chosen.number = next
  }

  /** Choose the load on the node at a place; of several there one after the other. */
  function chooseOn(at: readonly number[]) {
    const near = (n: readonly number[]) => n.every((x, k) => Math.abs(x - at[k]!) < ON)
    const node = bench.chain?.node_names[bench.chain.nodes.findIndex(near)]
    const there = bench.stated.node_loads.flatMap((load, i) =>
      load.node === node && load.case === ofCase.value ? [i] : [],
    )
    const now = chosen.at?.key === 'node_loads' ? chosen.at.number : null
    const next = nextOf(there, now)
    chosen.at = next === null ? null : { key: 'node_loads', number: next }
  }

  /** Where the chosen load on a node acts, in pixels, in the case that is shown. */
  const onNode = computed<Point | null>(() => {
    const load = chosen.at?.key === 'node_loads' ? bench.stated.node_loads[chosen.at.number] : null
    const at = load && bench.chain?.nodes[bench.chain.node_names.indexOf(load.node)]
    return may.value && at && load.case === ofCase.value ? sheet.value.at(...flat(basis.value, at)) : null
  })

  const dragged = ref<{ grip: Grip; from: Stretch; to: Stretch; begun: boolean } | null>(null)
  /** The chosen load with its handles, where it is in the plane and in the case that is shown. */
  const hands = computed(() => {
    const [load, m] = [chosen.load, chosen.member]
    if (!may.value || !load || !m || load.case !== ofCase.value || !plane.inPlane.value.includes(m)) return null
    const l = lineOf(m.name)!
    const now = stretchOf(load, l.length)
    if (!now || pixels(l) < 1) return null
    const shown = dragged.value?.to ?? now
    const ends: Grip[] = load.kind === 'line' ? ['start', 'end'] : ['start']
    const far = (x: number) => x.toFixed(2)
    return {
      line: l,
      now,
      load,
      shown: [spot(l, shown.start), spot(l, shown.end)] as const,
      grips: ends.map((grip) => ({
        grip,
        x: shown[grip as 'start' | 'end'],
        at: spot(l, shown[grip as 'start' | 'end']),
      })),
      words: load.kind === 'line' ? `${far(shown.start)} – ${far(shown.end)} m` : `${far(shown.start)} m`,
    }
  })

  async function move(to: Stretch): Promise<void> {
    const h = hands.value
    if (!h || chosen.number === null) return
    const same = Math.abs(to.start - h.now.start) < 1e-4 && Math.abs(to.end - h.now.end) < 1e-4
    if (same) return
    const place = stated(h.load, to, h.line.length)
    await bench.operate(`Load on ${h.line.member.label} moved`, { do: 'load', number: chosen.number, ...place })
  }
  const place = (event: PointerEvent): Point => {
    const box = holder.value!.getBoundingClientRect()
    return [event.clientX - box.left, event.clientY - box.top]
  }
  let pressed: Point = [0, 0]
  function grab(event: PointerEvent, grip: Grip) {
    if (!hands.value || !bench.mayChange || event.button) return
    pressed = place(event)
    dragged.value = { grip, from: hands.value.now, to: hands.value.now, begun: false }
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  }
  function drag(event: PointerEvent) {
    const [d, h] = [dragged.value, hands.value]
    if (!d || !h) return
    const at = place(event)
    if (!d.begun && Math.hypot(at[0] - pressed[0], at[1] - pressed[1]) < BEGUN) return
    const { length, member } = h.line
    // of all of it the start follows, by as much as the pointer has moved
    const to = d.grip === 'whole' ? d.from.start + along(h.line, at) - along(h.line, pressed) : along(h.line, at)
    const found = snappedTo(to, length, [...member.outer, ...member.inner], (NEAR * length) / pixels(h.line))
    dragged.value = { ...d, begun: true, to: movedTo(d.from, d.grip, found, length) }
  }
  /** Whether something was dragged; a press alone is a click. */
  async function drop(): Promise<boolean> {
    const d = dragged.value
    if (d?.begun) await move(d.to)
    dragged.value = null
    return !!d?.begun
  }
  function nudge(event: KeyboardEvent, grip: Grip) {
    const h = hands.value
    const by = { ArrowLeft: -0.05, ArrowDown: -0.05, ArrowRight: 0.05, ArrowUp: 0.05 }[event.key]
    if (!h || !by || !bench.mayChange) return
    event.preventDefault()
    event.stopPropagation()
    const from = grip === 'end' ? h.now.end : h.now.start
    const to = Number(Math.min(Math.max(from + by, 0), h.line.length).toFixed(4))
    void move(movedTo(h.now, grip, to, h.line.length))
  }
  return { may, choose, hands, onNode, grab, drag, drop, nudge }
}
