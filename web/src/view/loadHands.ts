/** Hands on loads in an elevation or plan: one is chosen by pointing at its arrows, and moved by its handles. */

import { computed, ref, type Ref } from 'vue'
import type { Point } from '../lib/drawing'
import { movedTo, snappedTo, stated, stretchOf, type Grip, type Stretch } from '../lib/loadPlaces'
import {
  alongTrack,
  lineAlong,
  piecesOf,
  pixels,
  placesOn,
  spotOn,
  trackOf,
  type Seen,
  type Track,
} from '../lib/loadTracks'
import { useChosenLoad } from '../stores/chosenLoad'
import { useLoadChoice } from './loadChoice'
import type { Member } from '../stores/workbench'
import type { Bench } from './plane'

/** What is drawn of line loads or forces, by the member that bears it, with the stretch of it in pixels. */
export interface Borne {
  member: string
  from: Point
  to: Point
  /** where the node lies that a load acts on */
  node?: readonly number[]
}
/** What is looked at: its members, and where a place is seen. */
export interface Sight {
  members: Readonly<Ref<readonly Member[]>>
  at: (place: readonly number[]) => Seen | null
}
/** Pixels by which the pointer moves before something is dragged, and within which a place is near. */
const [BEGUN, NEAR] = [4, 9]

export function useLoadHands(bench: Bench, sight: Sight, holder: Ref<HTMLElement | undefined>) {
  const chosen = useChosenLoad()
  const choice = useLoadChoice(bench)
  const { may, ofCase } = choice

  /** The members that a load acts on, one after another, on the sheet. */
  function trackOn(names: readonly string[]): Track | null {
    const pieces = piecesOf(names, bench.lists.members)
    return pieces && trackOf(pieces, (n) => sight.at(bench.chain!.nodes[n]!))
  }

  /** Choose what is pointed at. */
  function choose(borne: Borne, beside: boolean) {
    if (borne.node) return choice.onNode(borne.node, beside)
    const track = trackOn([borne.member])
    if (!track) return
    const [x, y] = [alongTrack(track, borne.from), alongTrack(track, borne.to)]
    choice.along(borne.member, { start: Math.min(x, y), end: Math.max(x, y) }, beside)
  }

  const dragged = ref<{ grip: Grip; from: Stretch; to: Stretch; begun: boolean } | null>(null)
  /** The other chosen ones on members that are seen, as lines. */
  const others = computed(() => {
    const seen = new Set(sight.members.value.map((m) => m.name))
    return chosen.all.slice(0, -1).flatMap(({ key, number }) => {
      const load = key === 'member_loads' ? bench.stated.member_loads[number] : null
      const names = load && load.case === ofCase.value ? [load.member, ...(load.run ?? [])] : []
      const track = may.value && names.every((name) => seen.has(name)) ? trackOn(names) : null
      const on = track && stretchOf(load!, track.length)
      return on ? [lineAlong(track, on.start, on.end + 1e-3)] : []
    })
  })
  /** The chosen load with its handles, where it is in the plane and in the case that is shown. */
  const hands = computed(() => {
    const load = chosen.load
    if (!may.value || !load || load.case !== ofCase.value) return null
    const names = [load.member, ...(load.run ?? [])]
    const seen = new Set(sight.members.value.map((m) => m.name))
    const track = names.every((name) => seen.has(name)) ? trackOn(names) : null
    const now = track && stretchOf(load, track.length)
    if (!now || pixels(track) < 1) return null
    const shown = dragged.value?.to ?? now
    const ends: Grip[] = load.kind === 'line' ? ['start', 'end'] : ['start']
    const far = (x: number) => x.toFixed(2)
    const member = bench.lists.members.find((m) => m.name === load.member)!
    return {
      track,
      label: names.length > 1 ? `${member.label} + ${names.length - 1}` : member.label,
      now,
      load,
      shown: lineAlong(track, shown.start, shown.end),
      middle: spotOn(track, (shown.start + shown.end) / 2),
      grips: ends.map((grip) => ({
        grip,
        x: shown[grip as 'start' | 'end'],
        at: spotOn(track, shown[grip as 'start' | 'end']),
      })),
      words: load.kind === 'line' ? `${far(shown.start)} – ${far(shown.end)} m` : `${far(shown.start)} m`,
    }
  })

  async function move(to: Stretch): Promise<void> {
    const h = hands.value
    if (!h || chosen.number === null) return
    const same = Math.abs(to.start - h.now.start) < 1e-4 && Math.abs(to.end - h.now.end) < 1e-4
    if (same) return
    const place = stated(h.load, to, h.track.length)
    await bench.operate(`Load on ${h.label} moved`, { do: 'load', number: chosen.number, ...place })
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
  /** What is pressed is taken hold of where it is the chosen load's. */
  function seize(event: PointerEvent, borne: Borne) {
    if (borne.node) {
      const [spot, own] = [onNode.value, sight.at(borne.node)]
      if (spot && own && Math.hypot(spot[0] - own[0], spot[1] - own[1]) <= 1) lift(event)
    } else if (hands.value?.track.pieces.some((p) => p.name === borne.member)) grab(event, 'whole')
  }
  /** Whether the pointer has moved far enough from where it was pressed. */
  const begins = (at: Point) => Math.hypot(at[0] - pressed[0], at[1] - pressed[1]) >= BEGUN
  function drag(event: PointerEvent) {
    // what was let go stands where it was put until it is stored
    if (!event.buttons) return
    if (carried.value) return carry(event)
    const [d, h] = [dragged.value, hands.value]
    if (!d || !h) return
    const at = place(event)
    if (!d.begun && !begins(at)) return
    const { track } = h
    // of all of it the start follows, by as much as the pointer has moved
    const by = alongTrack(track, at)
    const to = d.grip === 'whole' ? d.from.start + by - alongTrack(track, pressed) : by
    const held = placesOn(track, (name) => {
      const m = bench.lists.members.find((one) => one.name === name)!
      return [...m.outer, ...m.inner]
    })
    const found = snappedTo(to, track.length, held, (NEAR * track.length) / pixels(track))
    dragged.value = { ...d, begun: true, to: movedTo(d.from, d.grip, found, track.length) }
  }
  /** Whether something was dragged; a press alone is a click. */
  async function drop(): Promise<boolean> {
    if (carried.value) return putDown()
    const d = dragged.value
    if (d?.begun) await move(d.to)
    // another one may be under way by then
    if (dragged.value === d) dragged.value = null
    return !!d?.begun
  }
  function nudge(event: KeyboardEvent, grip: Grip) {
    const h = hands.value
    const by = { ArrowLeft: -0.05, ArrowDown: -0.05, ArrowRight: 0.05, ArrowUp: 0.05 }[event.key]
    if (!h || !by || !bench.mayChange) return
    event.preventDefault()
    event.stopPropagation()
    const from = grip === 'end' ? h.now.end : h.now.start
    const to = Math.min(Math.max(Number((from + by).toFixed(4)), 0), h.track.length)
    void move(movedTo(h.now, grip, to, h.track.length))
  }

  // a load on a node is carried to another one
  const carried = ref<{ node: string; begun: boolean } | null>(null)
  const nodeLoad = computed(() => {
    const load = chosen.at?.key === 'node_loads' ? bench.stated.node_loads[chosen.at.number] : null
    return may.value && load && load.case === ofCase.value ? load : null
  })
  const spotOf = (node: string): Point | null => {
    const at = bench.chain?.nodes[bench.chain.node_names.indexOf(node)]
    const seen = at && sight.at(at)
    return seen ? [seen[0], seen[1]] : null
  }
  /** Where the chosen load on a node acts, in pixels, in the case that is shown. */
  const onNode = computed(() => (nodeLoad.value ? spotOf(carried.value?.node ?? nodeLoad.value.node) : null))
  function lift(event: PointerEvent) {
    if (!onNode.value || !nodeLoad.value || !bench.mayChange || event.button) return
    pressed = place(event)
    carried.value = { node: nodeLoad.value.node, begun: false }
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  }
  function carry(event: PointerEvent) {
    const at = place(event)
    if (!carried.value || (!carried.value.begun && !begins(at))) return
    // what slabs and haunches cut members at is named anew with their cells
    const stated = new Set(bench.document?.nodes?.map((node) => node.name))
    const holds = (n: number, k: number, line: readonly number[]) =>
      k === 0 || k === line.length - 1 || stated.has(bench.chain!.node_names[n]!)
    const near = [...new Set(sight.members.value.flatMap((m) => m.line.filter(holds)))].map((n) => {
      const spot = sight.at(bench.chain!.nodes[n]!)
      return { n, far: spot ? Math.hypot(spot[0] - at[0], spot[1] - at[1]) : Infinity }
    })
    const found = near.reduce((a, b) => (b.far < a.far ? b : a), { n: -1, far: Infinity })
    const node = bench.chain!.node_names[found.n]
    if (node !== undefined) carried.value = { node, begun: true }
  }
  async function putDown(): Promise<boolean> {
    const [c, load, at] = [carried.value, nodeLoad.value, chosen.at]
    if (c?.begun && load && at && c.node !== load.node)
      await bench.edit(`Load on ${load.node} moved to ${c.node}`, [
        { path: `node_loads.${at.number}.node`, value: c.node },
      ])
    if (carried.value === c) carried.value = null
    return !!c?.begun
  }
  return { may, choose, hands, others, onNode, grab, lift, seize, drag, drop, nudge }
}
