import { computed, type Ref } from 'vue'
import { across, fit, flat, type Point } from '../lib/drawing'
import type { Member, useWorkbench } from '../stores/workbench'

export type Bench = ReturnType<typeof useWorkbench>

/** The workbench as seen by the view of what is drawn beside: the two diagrams change places. */
export function turnedRound(bench: Bench): Bench {
  return new Proxy(bench, {
    get: (target, key) =>
      key === 'diagram'
        ? target.besideDiagram
        : key === 'besideDiagram'
          ? target.diagram
          : Reflect.get(target, key, target),
  })
}

/** The plane that is looked at, laid on the sheet: its members, its grid lines, and places on it in pixels. */
export function usePlane(bench: Bench, size: Ref<{ width: number; height: number }>) {
  const coloured = computed(() => bench.colouring === 'utilisation')
  const basis = computed(() => bench.looking!)
  const upright = computed(() => basis.value.v[2] > 0.5)
  const inPlane = computed(() =>
    basis.value.members.map((i) => bench.chain!.members[i]!).filter((m) => m && bench.shows(m)),
  )
  const line = (m: Member) => m.line.map((n) => flat(basis.value, bench.chain!.nodes[n]!))
  /** Grid lines that cross the plane, as coordinates to the right (or, on a level, upwards as well). */
  const grid = computed(() => {
    const b = basis.value
    return bench.lists.grid.flatMap((g) => {
      const normal = g.axis === 'X' ? [1, 0, 0] : [0, 1, 0]
      const [along, up] = across(b, normal)
      const at = g.at - b.origin[g.axis === 'X' ? 0 : 1]
      if (Math.abs(along) > 0.99) return [{ name: g.name, upwards: false, at: at * along }]
      if (Math.abs(up) > 0.99) return [{ name: g.name, upwards: true, at: at * up }]
      return []
    })
  })
  const bounds = computed(() => {
    const points = inPlane.value.flatMap(line)
    if (bench.drawing) for (const n of bench.lists.nodes) if (Math.abs(off(n)) < 0.01) points.push(flat(basis.value, n))
    for (const g of grid.value) points.push(g.upwards ? [points[0]?.[0] ?? 0, g.at] : [g.at, points[0]?.[1] ?? 0])
    if (points.length < 2) points.push([0, 0], [12, 8])
    const xs = points.map((p) => p[0])
    const ys = points.map((p) => p[1])
    return {
      least: [Math.min(...xs), Math.min(...ys)] as Point,
      most: [Math.max(...xs), Math.max(...ys)] as Point,
    }
  })
  const off = (p: readonly number[]) => {
    const { origin: o, u, v } = basis.value
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    return (p[0]! - o[0]) * n[0]! + (p[1]! - o[1]) * n[1]! + (p[2]! - o[2]) * n[2]!
  }
  const sheet = computed(() =>
    fit(bounds.value.least, bounds.value.most, {
      ...size.value,
      left: size.value.width < 500 ? 78 : 94,
      right: size.value.width < 500 ? 84 : 102,
      top: upright.value ? 128 : 172,
      bottom: 82,
    }),
  )
  const onSheet = (p: readonly number[]) => sheet.value.at(...flat(basis.value, p))
  return { coloured, basis, upright, inPlane, line, grid, bounds, off, sheet, onSheet }
}
export type PlaneView = ReturnType<typeof usePlane>
