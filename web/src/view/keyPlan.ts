/** The key plan: where grid lines, frames, slopes and levels stand on it. */

import { computed } from 'vue'
import { flat, type Point } from '../lib/drawing'
import { useWorkbench } from '../stores/workbench'
import { listsOf } from '../lib/lists'

export function useKeyPlan() {
  const bench = useWorkbench()
  const LEFT = 34
  const WIDTH = 168
  const TOP = 40
  const DEPTH = 70

  /** Where grid lines of an axis stand on the plan, between the first and the last of them. */
  function spread(axis: 'X' | 'Y', from: number, size: number) {
    const lines = bench.lists.grid.filter((g) => g.axis === axis)
    const at = lines.map((g) => g.at)
    const [least, most] = [Math.min(...at), Math.max(...at)]
    return lines.map((g) => ({
      name: g.name,
      key: `${axis === 'Y' ? 'frame' : 'row'}-${g.name}`,
      at: from + (most > least ? ((g.at - least) / (most - least)) * size : 0),
    }))
  }
  const frames = computed(() => {
    const all = spread('Y', LEFT, WIDTH)
    const every = Math.ceil(all.length / 10)
    const chosen = all.find((f) => f.key === bench.plane)
    return all.map((f, i) => ({
      ...f,
      // the chosen frame's bubble always shows; its neighbours give way
      named:
        f === chosen ||
        ((i % every === 0 || i === all.length - 1) && !(chosen && chosen !== f && Math.abs(chosen.at - f.at) < 15)),
    }))
  })
  const rows = computed(() => spread('X', TOP, DEPTH))
  /** Bays with roof bracing, by where it lies. */
  const braced = computed(() => {
    const chain = bench.chain
    const lines = listsOf(chain)
      .grid.filter((g) => g.axis === 'Y')
      .map((g) => g.at)
    const bays = new Set(
      listsOf(chain)
        .members.filter((m) => m.role === 'roof bracing')
        .map((m) => {
          const [a, b] = [m.line[0]!, m.line.at(-1)!].map((n) => chain!.nodes[n]![1])
          return lines.findIndex((at, k) => at < (a! + b!) / 2 && (a! + b!) / 2 < (lines[k + 1] ?? -Infinity))
        }),
    )
    return [...bays].flatMap((bay) => {
      const [a, b] = [frames.value[bay], frames.value[bay + 1]]
      return a && b ? [[a.at, b.at] as const] : []
    })
  })

  /** The cross-section: the lines of one frame, with its slopes and levels to point at. */
  const section = computed(() => {
    const chain = bench.chain
    const frame =
      bench.looking?.kind === 'frame'
        ? bench.looking
        : (bench.planes.find((p) => p.key === 'frame-2') ?? bench.planes.find((p) => p.kind === 'frame'))
    if (!chain || !frame) return null
    const lines = frame.members
      .map((i) => chain.members[i]!)
      .filter((m) => m && !['web', 'purlin'].includes(m.role))
      .map((m) => m.line.map((n) => flat(frame, chain.nodes[n]!)))
    const points = lines.flat()
    if (!points.length) return null
    const [x0, x1] = [Math.min(...points.map((p) => p[0])), Math.max(...points.map((p) => p[0]))]
    const [z0, z1] = [Math.min(...points.map((p) => p[1])), Math.max(...points.map((p) => p[1]))]
    const scale = Math.min(132 / Math.max(x1 - x0, 1), 46 / Math.max(z1 - z0, 1))
    const at = ([x, z]: Point): Point => [112 + (x - (x0 + x1) / 2) * scale, 184 - (z - z0) * scale]
    const slopes = bench.planes
      .filter((p) => p.kind === 'slope')
      .map((p) => {
        const names = p.members
          .map((i) => chain.members[i]!)
          .filter((m) => m && (m.role === 'rafter' || m.role === 'top chord'))
        const first = names[0]
        const ends = first ? [first.line[0]!, first.line.at(-1)!].map((n) => at(flat(frame, chain.nodes[n]!))) : []
        return { key: p.key, label: p.label, ends }
      })
      .filter((p) => p.ends.length)
    const levels = bench.planes
      .filter((p) => p.kind === 'level')
      .map((p) => ({ key: p.key, name: p.name, y: at([x0, p.origin[2]])[1], z: p.origin[2] }))
      .filter((v) => v.y > 130 && v.y < 190)
    return {
      lines: lines.map((l) => l.map(at)),
      left: at([x0, z0])[0],
      right: at([x1, z0])[0],
      slopes,
      levels: levels.map((v, i) => ({ ...v, named: levels.every((o, k) => k >= i || Math.abs(o.y - v.y) > 9) })),
      span: x1 - x0,
    }
  })
  const rest = computed(() =>
    bench.planes.filter(
      (p) =>
        (p.kind === 'level' && !section.value?.levels.some((v) => v.key === p.key)) ||
        ((p.kind === 'frame' || p.kind === 'row') && ![...frames.value, ...rows.value].some((g) => g.key === p.key)),
    ),
  )
  const d = (points: Point[]) => points.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join('')

  return { LEFT, WIDTH, TOP, DEPTH, frames, rows, braced, section, rest, d }
}
