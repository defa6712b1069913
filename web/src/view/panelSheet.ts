/** A panel laid flat: its zones or pressures, what a member takes of it, and its dimensions. */

import { computed, type Ref } from 'vue'
import { fit, path, type Point } from '../lib/drawing'
import { PLACES } from '../lib/panelPlaces'
import { minus } from '../lib/quantity'
import { area, letterPlace, tint } from '../lib/surfaces'
import { useWorkbench } from '../stores/workbench'

export function usePanelSheet(width: Ref<number>, height: Ref<number>) {
  const bench = useWorkbench()
  const panel = computed(() => bench.panel)
  const nature = computed(() => bench.chain?.cases?.find((c) => c.symbol === bench.state)?.nature ?? 'wind')
  const bounds = computed(() => {
    const points = panel.value?.outline ?? [[0, 0]]
    const xs = points.map((p) => p[0])
    const ys = points.map((p) => p[1])
    return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) }
  })
  const sheet = computed(() => {
    const b = bounds.value
    const box = { width: width.value, height: height.value, left: 60, right: 70, top: 96, bottom: 78 }
    return fit([b.x0, b.y0], [b.x1, b.y1], box)
  })
  const at = (p: readonly number[]): Point => sheet.value.at(p[0]!, p[1]!)
  const outline = computed(() => path((panel.value?.outline ?? []).map(at), true))
  const carriers = computed(() =>
    (panel.value?.carriers ?? []).map((c) => ({ name: c.member, d: path(c.line.map(at)) })),
  )
  /** What the selected member takes of the panel. */
  const taken = computed(() => {
    const parts = panel.value?.carriers.find((c) => c.member === bench.selected)?.takes ?? []
    return {
      d: parts.map((part) => path(part.map(at), true)).join(''),
      area: parts.reduce((sum, part) => sum + area(part), 0),
    }
  })

  interface Patch {
    key: string
    spot: { of: 'zone' | 'load'; number: number }
    letter: string
    words: string
    /** Whether it presses onto the surface: hatched. */
    presses: boolean
    polygon: Point[]
    d: string
    fill: string
    label: Point
    /** How its words stand: letter above value, both in one line, the letter alone. */
    way: 'two' | 'one' | 'letter'
    /** A line or a point: no wider than its stroke. */
    narrow: boolean
  }
  function patch(
    spot: Patch['spot'],
    letter: string,
    words: string,
    presses: boolean,
    flat: readonly (readonly number[])[],
    fill: string,
    narrow = false,
  ): Patch {
    const polygon = flat.map(at)
    const xs = polygon.map((p) => p[0])
    const ys = polygon.map((p) => p[1])
    const room = Math.max(...xs) - Math.min(...xs)
    const middle = letterPlace(polygon)
    // beside what is no wider than its stroke
    const label: Point = narrow ? [middle[0], middle[1] + 16] : middle
    // what has no extent on the drawing is drawn as a dot
    const dot = narrow && Math.max(room, Math.max(...ys) - Math.min(...ys)) < 1
    const d = dot ? `M${middle[0].toFixed(1)} ${middle[1].toFixed(1)}h0.1` : path(polygon, true)
    const high = Math.max(...ys) - Math.min(...ys)
    const way = narrow ? 'one' : room < 46 ? 'letter' : high >= 34 ? 'two' : room > 90 ? 'one' : 'letter'
    return { key: `${spot.of} ${spot.number}`, spot, letter, words, presses, polygon, d, fill, label, way, narrow }
  }
  const zones = computed(() =>
    (panel.value?.zones ?? [])
      .map((z, i) => ({ z, i }))
      .filter(({ z }) => z.direction === bench.wind)
      .map(({ z, i }) => {
        const two = z.suction[0] !== z.pressure[0]
        const words = minus(two ? `${z.suction[0].toFixed(2)} / ${z.pressure[0].toFixed(2)}` : z.suction[0].toFixed(2))
        return patch({ of: 'zone', number: i }, z.letter, words, z.suction[0] >= 0, z.polygon, tint(z.suction[0], 2))
      }),
  )
  const loads = computed(() =>
    (panel.value?.loads ?? [])
      .map((l, i) => ({ l, i }))
      .filter(({ l }) => l.case === bench.state)
      .map(({ l, i }) => {
        const [least, most] = [Math.min(...l.pressure), Math.max(...l.pressure)]
        const size = most - least < 5e-4 ? most.toFixed(2) : `${least.toFixed(2)} … ${most.toFixed(2)}`
        // the drawing says kN/m² of all that is no line and no point
        const words = minus(l.kind === 'area' ? size : `${size} ${PLACES[l.kind].unit}`)
        const presses = (most - least < 5e-4 ? most : least) >= 0
        return patch(
          { of: 'load', number: i },
          l.zone,
          words,
          presses,
          l.polygon,
          tint(Math.abs(most) > Math.abs(least) ? most : least, 1.2),
          l.kind !== 'area',
        )
      }),
  )
  const shown = computed(() => (bench.state ? loads.value : zones.value))
  const pointed = (p: Patch) => bench.spot?.of === p.spot.of && bench.spot.number === p.spot.number
  const total = computed(() => (panel.value ? area(panel.value.outline) : 0))
  const title = computed(() => {
    if (!panel.value) return ''
    return bench.state
      ? `${bench.chain?.cases?.find((c) => c.symbol === bench.state)?.name ?? bench.state}, kN/m²`
      : panel.value.zones.length
        ? `Wind from the ${bench.wind}: c_pe,10`
        : 'no wind zones'
  })
  const scales = computed(() => {
    const b = bounds.value
    const here = bench.state
      ? (panel.value?.loads ?? []).filter((l) => l.case === bench.state)
      : (panel.value?.zones ?? []).filter((z) => z.direction === bench.wind)
    const points = here.flatMap((z) => z.polygon)
    const outer = panel.value?.outline ?? []
    const near = (x: number, y: number) => Math.abs(x - y) < 1e-3
    // cuts are measured along the foot and along the sides, not where they meet a slanted edge
    const cuts = (axis: 0 | 1) => {
      const found = points
        .filter((p) => (axis ? near(p[0], b.x0) || near(p[0], b.x1) : near(p[1], b.y0)))
        .map((p) => p[axis])
      if (axis) found.push(...outer.map((p) => p[1]))
      found.push(axis ? b.y0 : b.x0, axis ? b.y1 : b.x1)
      return [...new Set(found.map((v) => Number(v.toFixed(3))))].sort((x, y) => x - y)
    }
    const steps = (marks: number[]) =>
      marks.slice(1).map((m, i) => ({ from: marks[i]!, to: m, words: (m - marks[i]!).toFixed(2) }))
    return { across: steps(cuts(0)), up: steps(cuts(1)) }
  })
  const bottom = computed(() => at([bounds.value.x0, bounds.value.y0])[1] + 26)
  const side = computed(() => at([bounds.value.x1, bounds.value.y0])[0] + 18)
  /** The arrow of the wind, where it lies in the panel. */
  const blows = computed(() => {
    if (bench.state || !panel.value?.zones.length) return ''
    const [ox, oy] = panel.value.outside
    const towards = { left: [1, 0], right: [-1, 0], front: [0, 1], back: [0, -1] }[bench.wind]
    if (Math.abs(panel.value.outside[2]) < 0.01) {
      const onto = -(ox * towards[0]! + oy * towards[1]!)
      if (onto > 0.5) return 'onto this face'
      if (onto < -0.5) return 'away from this face'
    }
    // to the right on the drawing is up × outside
    const right = Math.abs(panel.value.outside[2]) > 0.9999 ? [1, 0] : [-oy, ox]
    const length = Math.hypot(right[0]!, right[1]!) || 1
    const along = (right[0]! * towards[0]! + right[1]! * towards[1]!) / length
    if (along > 0.5) return '→ to the right'
    if (along < -0.5) return '← to the left'
    const rising = -(ox * towards[0]! + oy * towards[1]!)
    return rising > 0 ? '↑ up the slope' : '↓ down the slope'
  })

  return {
    panel,
    nature,
    sheet,
    at,
    outline,
    carriers,
    taken,
    loads,
    shown,
    pointed,
    total,
    title,
    scales,
    bottom,
    side,
    blows,
  }
}
