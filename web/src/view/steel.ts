import { computed } from 'vue'
import { legendOf } from '../lib/colours'
import { flat, path, type Point } from '../lib/drawing'
import type { Schemas } from '../api/client'
import type { Member } from '../stores/workbench'
import type { Bench, PlaneView } from './plane'

/** Words for what holds a level in its plane. */
const DECKED: Record<string, string> = {
  rigid: 'floor rigid in plan',
  membrane: 'floor a membrane',
  slab: 'floor a slab that bends',
}

/** What is drawn of the steelwork itself: restraints, supports, what is chosen, dimensions. */
export function useSteel(bench: Bench, plane: PlaneView) {
  const { coloured, basis, inPlane, line, bounds, off, sheet, onSheet } = plane
  /** Restraints of the flanges of frame members: purlins and rails on the outer one, stays to the inner one. */
  const purlins = computed(() => {
    if (basis.value.kind !== 'frame') return []
    return inPlane.value
      .filter((m) => m.frame && (m.outer.length > 1 || m.edited))
      .flatMap((m) => {
        const spots = m.line.map((n) => onSheet(bench.chain!.nodes[n]!))
        const [a, b] = [spots[0]!, spots.at(-1)!]
        const long = Math.hypot(b[0] - a[0], b[1] - a[1])
        const [ux, uy] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long]
        // outwards: up for sloping members, to the side for columns
        const roll = Math.cos((m.roll * Math.PI) / 180) >= 0 ? 1 : -1
        const flip = m.role === 'column' ? roll : ux >= 0 ? 1 : -1
        const [nx, ny] = [uy * flip, -ux * flip]
        const stays = new Set(m.inner.map((x) => x.toFixed(4)))
        return [...new Set([...m.outer, ...m.inner])].map((x) => {
          const t = (x / m.length) * long
          const [px, py] = [a[0] + ux * t, a[1] + uy * t]
          return {
            key: `${m.name}-${x}`,
            px,
            py,
            x: px + nx * 9,
            y: py + ny * 9,
            outer: m.outer.includes(x),
            stay: stays.has(x.toFixed(4)) ? `M${px} ${py}l${-nx * 13 + ux * 6} ${-ny * 13 + uy * 6}` : '',
          }
        })
      })
  })
  const outlines = computed(() =>
    inPlane.value
      .filter((m) => bench.chosen.has(m.name))
      .map((m) => ({ key: m.name, d: path(line(m).map((p) => sheet.value.at(...p))) })),
  )
  /** Haunches, true to scale below the member's line: from their full depth at the foot to nothing. From above none is seen. */
  const haunches = computed(() =>
    (['slope', 'level'].includes(bench.looking?.kind ?? '') ? [] : inPlane.value).flatMap((m) =>
      m.haunches.map((h, i) => {
        const spots = m.line.map((n) => onSheet(bench.chain!.nodes[n]!))
        const [a, b] = [spots[0]!, spots.at(-1)!]
        const [dx, dy] = [(b[0] - a[0]) / m.length, (b[1] - a[1]) / m.length]
        const scale = Math.hypot(dx, dy)
        // down on the sheet for what slopes
        const side = dx >= 0 ? 1 : -1
        const at = (x: number, deep: number): Point => [
          a[0] + dx * x - ((dy * side) / scale) * deep * scale,
          a[1] + dy * x + ((dx * side) / scale) * deep * scale,
        ]
        const half = m.size[0] / 2
        const d = path([at(h.foot, half), at(h.foot, half + h.depth), at(h.tip, half)], true)
        const title = `Haunch of ${m.label}: ${Math.abs(h.tip - h.foot).toFixed(2)} × ${h.depth.toFixed(2)} m`
        return { key: `${m.name}-haunch-${i}`, d, title, faded: bench.dimmed.has(m.name) }
      }),
    ),
  )
  /** Decks in the plane that hold it, shaded; the word for each kind stands once, above its decks. */
  const decks = computed(() => {
    const own = bench.lists.panels.filter((p) => p.stiff && p.corners?.every((c) => Math.abs(off(c)) < 0.01))
    const shapes = own.map((p) => ({ key: p.name, stiff: p.stiff, spots: p.corners.map(onSheet) }))
    const words = [...new Set(shapes.map((s) => s.stiff))].map((stiff) => {
      const spots = shapes.filter((s) => s.stiff === stiff).flatMap((s) => s.spots)
      const [xs, ys] = [spots.map((p) => p[0]), spots.map((p) => p[1])]
      const x = (Math.min(...xs) + Math.max(...xs)) / 2
      return { stiff, text: DECKED[stiff] ?? '', x, y: Math.min(...ys) - 14 }
    })
    return { shapes: shapes.map((s) => ({ key: s.key, d: path(s.spots, true) })), words }
  })
  const supports = computed(() =>
    bench.lists.supports
      .filter((s) => Math.abs(off(bench.chain!.nodes[s.index]!)) < 0.01)
      .map((s) => {
        const [x, y] = onSheet(bench.chain!.nodes[s.index]!)
        return {
          key: s.node,
          x,
          y,
          fixed: ['rx', 'ry'].every((f) => s.fixed.includes(f)),
          node: s.node,
          words:
            s.fixed.join(' ') + (s.footing ? `, pad of ${s.footing.x} × ${s.footing.y} × ${s.footing.depth} m` : ''),
          pad: s.footing ? padOf(bench.chain!.nodes[s.index]!, s.footing, s.turn) : null,
        }
      }),
  )
  /** Ends that are free to bend, in the Frame stage: a ring beside the node. */
  const hinges = computed(() =>
    bench.stage !== 'frame'
      ? []
      : inPlane.value.flatMap((m) => {
          const ends = [m.line[0]!, m.line.at(-1)!].map((n) => onSheet(bench.chain!.nodes[n]!))
          return [0, 1].flatMap((k) => {
            const [from, to] = [ends[k]!, ends[1 - k]!]
            const far = Math.hypot(to[0] - from[0], to[1] - from[1])
            if (!m.hinged?.[k] || far < 24) return []
            const share = Math.max(8 / far, (m.joints?.[k] ?? 0) / m.length)
            const words = `${m.label}: ${m.releases[m.releases.length === 1 ? 0 : k]} released`
            return [
              {
                key: `${m.name} ${k}`,
                x: from[0] + (to[0] - from[0]) * share,
                y: from[1] + (to[1] - from[1]) * share,
                words,
              },
            ]
          })
        }),
  )
  /** Crane rails: cut across where they cross the sheet, else along it. */
  const rails = computed(() =>
    bench.lists.crane_rails.flatMap(({ name, lines }) =>
      lines.flatMap((line, k) => {
        const on = line.map((n) => bench.chain!.nodes[n]!).filter((at) => Math.abs(off(at)) < 0.01)
        const spots = on.map((at) => onSheet(at))
        const key = `${name} ${k}`
        if (spots.length > 1) return [{ key, name, d: path(spots) }]
        // head, web and foot
        return spots.map(([x, y]) => ({ key, name, d: `M${x - 5} ${y}h10M${x} ${y}v-8M${x - 3.5} ${y - 9}h7` }))
      }),
    ),
  )
  /** The outline of a pad below a node, seen from the side or from above. */
  function padOf(at: readonly number[], pad: Schemas['Footing'], turn: number): string {
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
    const spots = [-0.5, 0.5].flatMap((i) =>
      [-0.5, 0.5].flatMap((j) => {
        const [x, y] = [i * pad.x, j * pad.y]
        const [px, py] = [at[0]! + x * c - y * s, at[1]! + x * s + y * c]
        return [onSheet([px, py, at[2]!]), onSheet([px, py, at[2]! - pad.depth])]
      }),
    )
    // in order round it, those on top of it
    if (basis.value.kind === 'level') return path([spots[0]!, spots[2]!, spots[6]!, spots[4]!], true)
    const [xs, ys] = [spots.map((p) => p[0]), spots.map((p) => p[1])]
    const [left, right, top, low] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
    return `M${left} ${top}H${right}V${low}H${left}z`
  }
  /** Columns that a level cuts, or whose heads lie in it. */
  const cross = computed(() => {
    if (basis.value.kind !== 'level') return []
    const z = basis.value.origin[2]
    return bench.lists.members
      .filter((m) => bench.shows(m) && (m.role === 'column' || m.role === 'gable post'))
      .map((m) => [bench.chain!.nodes[m.line[0]!]!, bench.chain!.nodes[m.line.at(-1)!]!] as const)
      .filter(([a, b]) => Math.min(a[2], b[2]) < z + 0.01 && Math.max(a[2], b[2]) > z - 0.01)
      .map(([a]) => onSheet(a))
  })
  const frameKey = computed(() => {
    const s = sheet.value
    const { least, most } = bounds.value
    const [ax, ay] = s.at(...least)
    const [bx, ry] = s.at(...most)
    return { ax, ay, bx, ry }
  })
  /** Heights worth a dimension: eaves of an upright plane. */
  const eaves = computed(() => {
    const tops = inPlane.value
      .filter((m) => m.role === 'column')
      .map((m) => flat(basis.value, bench.chain!.nodes[m.line.at(-1)!]!)[1])
    return tops.length ? Math.max(...tops) : bounds.value.most[1]
  })
  const kinds = computed(() => (coloured.value ? [] : legendOf(bench.lists.members, inPlane.value, bench.colouring)))

  const middle = (m: Member): Point => {
    const points = line(m)
    const [a, b] = [points[0]!, points.at(-1)!]
    return sheet.value.at((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
  }
  /** The highest point of the frame, and the pitch that meets there. */
  const top = computed(() => {
    let best = { at: 0, height: -Infinity, pitch: '' }
    for (const m of inPlane.value)
      for (const n of m.line) {
        const [at, height] = flat(basis.value, bench.chain!.nodes[n]!)
        if (height > best.height + 1e-6) best = { at, height, pitch: '' }
      }
    const slopes = (bench.chain?.hall?.slopes ?? []).map(([, , pitch]) => `${Number(pitch.toFixed(2))}°`)
    return { ...best, pitch: new Set(slopes).size === 1 ? ` · ${slopes[0]}` : '' }
  })

  return {
    decks,
    purlins,
    outlines,
    haunches,
    supports,
    hinges,
    rails,
    cross,
    frameKey,
    eaves,
    kinds,
    middle,
    top,
  }
}
