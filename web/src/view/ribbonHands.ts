/** Hands on a restraint ribbon: a place of a flange pointed at, held, dragged or let go, with what it would do. */

import { computed, ref, watch, type Ref } from 'vue'
import type { Schemas } from '../api/client'
import { marks, SAME, snapped, type Flange } from '../lib/ribbon'
import { useSingle } from '../stores/single'
import { useWorkbench } from '../stores/workbench'
import { LEFT, RIGHT, type useRibbonPlan } from './ribbonPlan'

type Operations = Schemas['Operate']['operations']

export const flangeWords = (flange: Flange) => (flange === 'outer' ? 'Outer flange' : 'Inner flange')

/** Hands on the drawing `svg` of a ribbon. */
export function useRibbonHands(
  ribbon: Readonly<Ref<Schemas['RibbonOut'] | null>>,
  plan: ReturnType<typeof useRibbonPlan>,
  width: Ref<number>,
  svg: Ref<SVGSVGElement | undefined>,
) {
  const bench = useWorkbench()
  const single = useSingle()
  const { X, along, length } = plan
  /** What is pointed at or dragged: a place to hold, or what holds a place. */
  const pointed = ref<{ flange: Flange; at: number; held: boolean; to?: number } | null>(null)
  const placed = (flange: Flange) => (ribbon.value ? marks(ribbon.value, flange) : [])
  /** Purlins or rails without a stay. */
  const free = computed(() => placed('outer').filter((x) => !placed('inner').some((y) => Math.abs(x - y) < SAME)))

  function operations(p: NonNullable<typeof pointed.value>): Operations {
    const base = { do: 'restrain' as const, members: [bench.selected], flange: p.flange, at: p.at }
    if (!p.held) return [{ ...base, let_go: false }]
    if (p.to === undefined) return [{ ...base, let_go: true }]
    return Math.abs(p.to - p.at) < SAME ? [] : [{ ...base, let_go: false, to: p.to }]
  }
  watch(
    () => JSON.stringify(pointed.value),
    () => single.ask(...(pointed.value && bench.mayChange ? operations(pointed.value) : [])),
  )
  watch(
    () => [bench.selected, bench.chain?.revision],
    () => (pointed.value = null),
  )

  function label(p: NonNullable<typeof pointed.value>): string {
    if (!p.held) return `${flangeWords(p.flange)} held at ${p.at.toFixed(2)} m`
    if (p.to === undefined) return `${flangeWords(p.flange)} let go at ${p.at.toFixed(2)} m`
    return `${flangeWords(p.flange)}: from ${p.at.toFixed(2)} to ${p.to.toFixed(2)} m`
  }
  async function act(p: NonNullable<typeof pointed.value>): Promise<void> {
    const wanted = operations(p)
    pointed.value = null
    if (wanted.length) await bench.operate(`${bench.member?.label}: ${label(p)}`, ...wanted)
  }

  function at(event: PointerEvent): number {
    const box = svg.value!.getBoundingClientRect()
    return along(((event.clientX - box.left) * width.value) / box.width)
  }
  const near = computed(() => (9 * length.value) / (width.value - LEFT - RIGHT))
  function over(event: PointerEvent, flange: Flange) {
    if (dragged || !ribbon.value) return
    const place = snapped(ribbon.value, flange, at(event), near.value)
    pointed.value = place === null ? null : { flange, at: place, held: false }
  }
  function put(flange: Flange) {
    if (pointed.value?.flange === flange && !pointed.value.held) void act(pointed.value)
  }
  let dragged: { flange: Flange; at: number; moved: boolean } | null = null
  function grab(event: PointerEvent, flange: Flange, x: number) {
    if (!bench.mayChange || event.button) return
    dragged = { flange, at: x, moved: false }
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  }
  function drag(event: PointerEvent) {
    if (!dragged || !ribbon.value) return
    const to = at(event)
    if (!dragged.moved && Math.abs(X(to) - X(dragged.at)) < 4) return
    dragged.moved = true
    const place = snapped(ribbon.value, dragged.flange, to, near.value)
    pointed.value = { flange: dragged.flange, at: dragged.at, held: true, to: place ?? dragged.at }
  }
  function drop() {
    const own = dragged
    dragged = null
    if (!own) return
    if (own.moved && pointed.value) void act(pointed.value)
    else void act({ flange: own.flange, at: own.at, held: true })
  }
  function nudge(event: KeyboardEvent, flange: Flange, x: number) {
    const by = { ArrowLeft: -0.1, ArrowRight: 0.1 }[event.key]
    if (by) {
      const to = Number((x + by).toFixed(4))
      if (to > SAME && to < length.value - SAME) void act({ flange, at: x, held: true, to })
    } else if (['Delete', 'Backspace', 'Enter'].includes(event.key)) void act({ flange, at: x, held: true })
    else return
    event.preventDefault()
    event.stopPropagation()
  }

  const dragging = () => dragged !== null
  return { pointed, placed, free, label, over, put, grab, drag, drop, nudge, dragging }
}
