/** A slab in a state: its bands, figures, principal directions, and a cut through it. */

import { computed, ref, watch, type Ref } from 'vue'
import { useAnswer } from '../api/queries'
import { bandsOf, coloursOf, levelsOf } from '../lib/isobands'
import { fit, path, type Point } from '../lib/drawing'
import { fixed, minus } from '../lib/quantity'
import { along, integral, peaks, placesOf, SLAB_QUANTITIES, surfaceOf, valueAt, type SlabQuantity } from '../lib/slab'
import { useWorkbench } from '../stores/workbench'

/** Distance between figures and crosses on the drawing, in pixels. */
const APART = 74

export function useSlabPicture(width: Ref<number>, height: Ref<number>) {
  const bench = useWorkbench()
  const asked = ref<SlabQuantity>('mx')
  /** Of an envelope, which of both. */
  const which = ref<'most' | 'least'>('most')
  const shownState = computed(() => (/^(mode|free):/.test(bench.state) || !bench.state ? 'envelope' : bench.state))
  /** A cut through the slab, from one place to another in its own metres. */
  const cut = ref<[Point, Point] | null>(null)
  const { data: slab, problem } = useAnswer(
    '/api/projects/{project_id}/slab',
    () =>
      bench.panel && bench.project && bench.chain && !bench.chain.problem
        ? {
            path: { project_id: bench.project.id },
            query: {
              name: bench.panel.name,
              state: shownState.value,
              revision: bench.chain.revision,
            },
          }
        : null,
    (before, now) => before.query.name === now.query.name,
  )
  /** What is shown: of a natural mode the movement alone. */
  const quantity = computed<SlabQuantity>({
    get: () => (slab.value?.kind === 'mode' ? 'w' : asked.value),
    set: (value) => (asked.value = value),
  })
  const envelope = computed(() => slab.value?.kind === 'envelope')
  const values = computed<number[]>(() => {
    const found = slab.value
    if (!found) return []
    return (envelope.value && which.value === 'least' ? found.least : found.most)[quantity.value] ?? []
  })
  const meant = computed(() =>
    slab.value?.kind === 'mode' ? { ...SLAB_QUANTITIES.w, unit: 'of the largest' } : SLAB_QUANTITIES[quantity.value],
  )
  const sheet = computed(() => {
    const points = slab.value?.outline ?? [[0, 0]]
    const [xs, ys] = [points.map((p) => p[0]!), points.map((p) => p[1]!)]
    const box = {
      width: width.value,
      height: height.value,
      left: 60,
      right: 150,
      top: 104,
      bottom: cut.value ? 176 : 64,
    }
    return fit([Math.min(...xs), Math.min(...ys)], [Math.max(...xs), Math.max(...ys)], box)
  })
  const at = (p: readonly number[]): Point => sheet.value.at(p[0]!, p[1]!)
  const triangles = computed(() => (slab.value && values.value.length ? surfaceOf(slab.value, values.value) : []))
  const extremes = computed<[number, number]>(() => peaks(values.value))
  const levels = computed(() => {
    const [most, least] = extremes.value
    return values.value.length ? levelsOf(values.value[least]!, values.value[most]!) : []
  })
  /** Bands of one colour, each as one path. */
  const bands = computed(() => {
    const colours = coloursOf(levels.value)
    const paths = colours.map(() => new Path2D())
    for (const triangle of triangles.value)
      for (const { band, polygon } of bandsOf(triangle, levels.value)) {
        const own = paths[Math.min(band, paths.length - 1)]!
        polygon.forEach((c, i) => {
          const [x, y] = at([c.x, c.y])
          if (i) own.lineTo(x, y)
          else own.moveTo(x, y)
        })
        own.closePath()
      }
    return colours.map((colour, k) => ({ colour, path: paths[k]! }))
  })
  const said = (v: number) => minus(fixed(v, digits.value))
  const digits = computed(() => {
    const most = Math.max(...levels.value.map(Math.abs), 0)
    return [100, 10, 1, 0.1].findIndex((least) => most >= least) + (most >= 0.1 ? 0 : 5)
  })
  const legend = computed(() => {
    const colours = coloursOf(levels.value)
    return colours
      .map((colour, k) => ({
        colour,
        words: said(levels.value[k]!),
        to: said(levels.value[k + 1] ?? levels.value[k]!),
      }))
      .reverse()
  })
  const places = computed(() => (slab.value ? placesOf(slab.value) : []))
  /** Figures and crosses that have room, the peaks first. */
  const figures = computed(() => {
    const found: { x: number; y: number; text: string; peak: boolean; k: number }[] = []
    const [most, least] = extremes.value
    const put = (k: number, peak: boolean) => {
      const p = places.value[k]
      if (!p || !values.value.length) return
      const [x, y] = at(p)
      if (found.some((o) => Math.abs(o.x - x) < APART && Math.abs(o.y - y) < APART * 0.55)) return
      found.push({ x, y, text: said(values.value[k]!), peak, k })
    }
    put(most, true)
    if (Math.abs(values.value[least] ?? 0) > 0.02 * Math.abs(values.value[most] ?? 0)) put(least, true)
    places.value.forEach((_, k) => put(k, false))
    return found
  })
  /** Principal moments as crosses: the first drawn whole, the second broken, each as long as it is large. */
  const crosses = computed(() => {
    const found = slab.value
    if (!found?.way.length || !['m1', 'm2'].includes(quantity.value)) return null
    const [m1, m2] = [found.most.m1!, found.most.m2!]
    const largest = Math.max(...m1.map(Math.abs), ...m2.map(Math.abs), 1e-9)
    let [first, second] = ['', '']
    for (const f of figures.value) {
      const angle = (found.way[f.k]! * Math.PI) / 180
      const arm = (m: number, turn: number) => {
        const r = (0.42 * APART * Math.abs(m)) / largest
        const [dx, dy] = [r * Math.cos(angle + turn), -r * Math.sin(angle + turn)]
        return `M${(f.x - dx).toFixed(1)} ${(f.y - dy).toFixed(1)}L${(f.x + dx).toFixed(1)} ${(f.y + dy).toFixed(1)}`
      }
      first += arm(m1[f.k]!, 0)
      second += arm(m2[f.k]!, Math.PI / 2)
    }
    return { first, second }
  })
  const outline = computed(() => path((slab.value?.outline ?? []).map(at), true))
  const openings = computed(() => (slab.value?.openings ?? []).map((o) => path(o.map(at), true)))
  const held = computed(() => (slab.value?.held ?? []).map((edge) => path(edge.map(at))))
  const members = computed(() => (slab.value?.members ?? []).map((m) => ({ name: m.member, d: path(m.line.map(at)) })))
  const columns = computed(() => (slab.value?.columns ?? []).map(at))

  watch([() => slab.value?.name], () => (cut.value = null))
  const section = computed(() => {
    if (!cut.value || !triangles.value.length) return null
    const found = along(triangles.value, ...cut.value)
    const known = found.values.filter((v) => v !== null)
    if (!known.length || found.length < 0.01) return null
    const [a, b] = cut.value
    const [dx, dy] = [Math.abs(b[0] - a[0]), Math.abs(b[1] - a[1])]
    // what acts on the faces of the cut may be added up along it
    const faces =
      dx < 0.02 * dy ? ['mx', 'vx', 'nx', 'mxy', 'nxy'] : dy < 0.02 * dx ? ['my', 'vy', 'ny', 'mxy', 'nxy'] : []
    return {
      ...found,
      adds: faces.includes(quantity.value),
      line: path(cut.value.map(at)),
      most: Math.max(...known),
      least: Math.min(...known),
      total: integral(found.values, found.length),
    }
  })
  function cutAcross(upwards: boolean): void {
    const points = slab.value?.outline
    const peak =
      places.value[
        extremes.value[
          Math.abs(values.value[extremes.value[1]] ?? 0) > Math.abs(values.value[extremes.value[0]] ?? 0) ? 1 : 0
        ]
      ]
    if (!points || !peak) return
    const xs = points.map((p) => p[0])
    const ys = points.map((p) => p[1])
    cut.value = upwards
      ? [
          [peak[0], Math.min(...ys)],
          [peak[0], Math.max(...ys)],
        ]
      : [
          [Math.min(...xs), peak[1]],
          [Math.max(...xs), peak[1]],
        ]
  }
  const readAt = (x: number, y: number) => {
    const [px, py] = sheet.value.back(x, y)
    const value = valueAt(triangles.value, px, py)
    return value === null ? null : { x: px, y: py, words: `${said(value)} ${meant.value.unit}` }
  }

  return {
    slab,
    problem,
    quantity,
    which,
    shownState,
    envelope,
    meant,
    bands,
    legend,
    figures,
    crosses,
    outline,
    openings,
    held,
    members,
    columns,
    cut,
    section,
    cutAcross,
    back: (x: number, y: number) => sheet.value.back(x, y),
    readAt,
    said,
  }
}
