/** Where things of a member laid flat are drawn: its flanges with their haunches, and its moment below. */

import { computed, type Ref } from 'vue'
import type { Schemas } from '../api/client'
import { extremes } from '../lib/drawing'
import { fixed } from '../lib/quantity'
import { compressed, roomFor, type Flange } from '../lib/ribbon'
import type { Member } from '../stores/workbench'

type Ribbon = Schemas['RibbonOut']

export const [LEFT, RIGHT, OUTER, INNER] = [84, 20, 30, 84]
/** Pixels that a moment in figures takes along the ribbon. */
const ROOM = 40

/** Pixels of a ribbon that is `width` wide. */
export function useRibbonPlan(
  ribbon: Readonly<Ref<Ribbon | null>>,
  member: Readonly<Ref<Member | null | undefined>>,
  width: Ref<number>,
) {
  const length = computed(() => ribbon.value?.length || 1)
  const X = (along: number) => LEFT + ((width.value - LEFT - RIGHT) * along) / length.value
  const along = (x: number) => ((x - LEFT) * length.value) / (width.value - LEFT - RIGHT)

  /** The inner flange from the plain member's down to where its haunches take it, to the scale of the section's depth. */
  const haunches = computed(() => {
    const m = member.value
    if (!m) return []
    return m.haunches.map((h) => ({ ...h, down: Math.min(((INNER - OUTER) * h.depth) / m.size[0] / 2, 34) }))
  })
  const deepest = computed(() => Math.max(0, ...haunches.value.map((h) => h.down)))
  function inner(x: number): number {
    for (const h of haunches.value) {
      const share = Math.abs(x - h.foot) / Math.abs(h.tip - h.foot)
      if (share < 1) return INNER + h.down * (1 - share)
    }
    return INNER
  }
  const Y = (flange: Flange, x: number) => (flange === 'outer' ? OUTER : inner(x))
  function line(flange: Flange, from: number, to: number): string {
    const tips = haunches.value.map((h) => h.tip).filter((x) => x > from && x < to)
    const places = [from, ...(flange === 'inner' ? tips : []), to].sort((a, b) => a - b)
    return places.map((x, i) => `${i ? 'L' : 'M'}${X(x).toFixed(1)} ${Y(flange, x).toFixed(1)}`).join('')
  }
  const web = computed(
    () =>
      `${line('outer', 0, length.value)}L${line('inner', 0, length.value).slice(1).split('L').reverse().join('L')}Z`,
  )
  const pressed = (flange: Flange) => compressed(ribbon.value?.x ?? [], ribbon.value?.My ?? [], flange)

  const BASE = computed(() => INNER + deepest.value + 56)
  const HEIGHT = computed(() => BASE.value + 34)
  const curve = computed(() => {
    const r = ribbon.value
    if (!r?.My.length) return { d: '', words: [] as { x: number; y: number; text: string; anchor: string }[] }
    const most = Math.max(...r.My.map(Math.abs), 1e-9)
    const y = (m: number) => BASE.value + (m / most) * 20
    const d = `M${X(0)} ${BASE.value}${r.x.map((x, i) => `L${X(x).toFixed(1)} ${y(r.My[i]!).toFixed(1)}`).join('')}L${X(length.value)} ${BASE.value}Z`
    const places = [...new Set([0, ...extremes(r.My), r.My.length - 1])].filter((i) => Math.abs(r.My[i]!) > most * 0.08)
    const words = roomFor(
      places.map((i) => ({ x: X(r.x[i]!), value: r.My[i]! })),
      ROOM,
    )
      .map((k) => places[k]!)
      .map((i) => {
        const x = X(r.x[i]!)
        return {
          x: Math.min(Math.max(x, LEFT + 2), width.value - RIGHT - 2),
          y: r.My[i]! > 0 ? y(r.My[i]!) + 11 : y(r.My[i]!) - 4,
          text: fixed(r.My[i]!, 0),
          anchor: x < LEFT + 30 ? 'start' : x > width.value - RIGHT - 30 ? 'end' : 'middle',
        }
      })
    return { d, words }
  })

  /** Figures of places that have room beside the one before. */
  function roomy(places: readonly number[]): number[] {
    let last = -Infinity
    return places.filter((x) => {
      if (X(x) - last < 34) return false
      last = X(x)
      return true
    })
  }
  return { length, X, along, inner, Y, line, web, pressed, BASE, HEIGHT, curve, roomy }
}
