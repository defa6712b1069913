/** The building in plan, turned to its bearing, with what stands against the wind on each side. */

import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { path, type Point } from '../lib/drawing'
import { bearingOf, FROM, roundLength, turned } from '../lib/site'
import { useWorkbench } from '../stores/workbench'

export function useSitePlan(site: () => Schemas['SiteOut']) {
  const bench = useWorkbench()
  const SIZE = { width: 732, height: 326 }
  const MIDDLE: Point = [366, 176]
  /** Half the drawing's reach that the building may take, and how far its cards lie from the middle. */
  const REACH = 98
  const CARD = { width: 192, height: 68, x: 262, y: 126 }
  /** What the words in the corner cover. */
  const CAPTION = { width: 234, height: 70 }
  /** Where a card about a point stands: within the drawing, beside the words in the corner. */
  function placed(middle: Point): Point {
    const x = Math.min(Math.max(middle[0] - CARD.width / 2, 8), SIZE.width - CARD.width - 8)
    const y = Math.min(Math.max(middle[1] - CARD.height / 2, 8), SIZE.height - CARD.height - 8)
    return [y < CAPTION.height ? Math.max(x, CAPTION.width) : x, y]
  }
  const TERRAINS: Record<string, string> = {
    '0': 'sea or coast',
    I: 'lake or flat land',
    II: 'low vegetation',
    III: 'villages or forest',
    IV: 'town',
  }
  const bearing = computed(() => bench.document?.site?.bearing ?? null)
  const width = computed(() => site().x1 - site().x0)
  const length = computed(() => site().y1 - site().y0)
  const scale = computed(() => REACH / (Math.hypot(width.value, length.value) / 2))
  const place = computed(() => turned(bearing.value, scale.value, MIDDLE))
  /** From the document's plan to the drawing. */
  const at = (x: number, y: number): Point =>
    place.value([x - (site().x0 + site().x1) / 2, y - (site().y0 + site().y1) / 2])
  const outline = computed(() => {
    const { x0, x1, y0, y1 } = site()
    return path([at(x0, y0), at(x1, y0), at(x1, y1), at(x0, y1)], true)
  })
  const lines = computed(() => {
    const { x0, x1, y0, y1 } = site()
    const grid = bench.lists.grid
    return {
      frames: grid
        .filter((g) => g.axis === 'Y' && g.at > y0 && g.at < y1)
        .map((g) => path([at(x0, g.at), at(x1, g.at)])),
      folds: site().folds.map((x) => path([at(x, y0), at(x, y1)])),
    }
  })
  /** Names at the corners: the outer grid lines of both axes. */
  const bubbles = computed(() => {
    const { x0, x1, y0, y1 } = site()
    const off = 15 / scale.value
    const of = (axis: string) => bench.lists.grid.filter((g) => g.axis === axis).sort((a, b) => a.at - b.at)
    const [rows, frames] = [of('X'), of('Y')]
    const found = [
      ...[rows[0], rows.at(-1)].map((g) => g && { name: g.name, at: at(g.at, y0 - off) }),
      ...[frames[0], frames.at(-1)].map((g) => g && { name: g.name, at: at(x0 - off, g.at) }),
    ]
    return found.filter((b) => !!b && Number.isFinite(x1 + y1))
  })
  const title = computed(() => ({
    at: MIDDLE,
    turn: (() => {
      const turn = (((bearing.value ?? 90) - 90 + 540) % 360) - 180
      return Math.abs(turn) > 90 ? turn + 180 : turn
    })(),
  }))

  /** A quarter of the surroundings on each side, as far as the drawing reaches. */
  const sides = computed(() =>
    site().winds.map((w) => {
      const [x, y] = FROM[w.direction]!
      const far = 900 / scale.value
      const corner = (s: number): Point => place.value([(x - s * y) * far, (y + s * x) * far])
      const [dx, dy] = place.value([x, y]).map((v, i) => (v - MIDDLE[i]!) / scale.value) as [number, number]
      const half = (x ? width.value : length.value) / 2
      const edge = half * scale.value
      const on = (d: number): Point => [MIDDLE[0] + dx * d, MIDDLE[1] + dy * d]
      const [tip, tail] = [on(edge + 9), on(edge + 42)]
      // beside the arrow where there is no room behind it: to the right above, to the left below, clear of caption and scale
      const crowded = Math.abs(dy) > 0.72 && (edge + 42) * Math.abs(dy) > CARD.y * Math.abs(dy) - CARD.height / 2
      const aside = tail[0] - Math.sign(dy) * (CARD.width / 2 + 14)
      const middle: Point = [crowded ? aside : MIDDLE[0] + dx * CARD.x, MIDDLE[1] + dy * CARD.y]
      return {
        ...w,
        wedge: path([MIDDLE, corner(-1), corner(1)], true),
        shaft: path([tail, on(edge + 16)]),
        head: path(
          [
            tip,
            [tip[0] + dx * 10 - dy * 4.5, tip[1] + dy * 10 + dx * 4.5],
            [tip[0] + dx * 10 + dy * 4.5, tip[1] + dy * 10 - dx * 4.5],
          ],
          true,
        ),
        card: placed(middle),
        words: TERRAINS[w.terrain] ?? '',
        degrees: bearing.value === null ? '' : `${bearingOf(w.direction, bearing.value).toFixed(0)}°`,
      }
    }),
  )
  /** A taller building beside, where one is stated. */
  const neighbour = computed(() => {
    const found = bench.document?.snow?.neighbour
    if (!found) return null
    const { x0, x1, y0, y1 } = site()
    const [side, gap, wide] = [found.side ?? 'left', found.gap, found.width]
    const [a, b] = side === 'left' ? [x0 - gap - wide, x0 - gap] : [x1 + gap, x1 + gap + wide]
    return { d: path([at(a, y0), at(b, y0), at(b, y1), at(a, y1)], true), at: at((a + b) / 2, (y0 + y1) / 2) }
  })
  const bar = computed(() => {
    const metres = roundLength(110 / scale.value)
    return { metres, width: metres * scale.value }
  })

  return { SIZE, CARD, bearing, width, length, outline, lines, bubbles, title, sides, neighbour, bar }
}
