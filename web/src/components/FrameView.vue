<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { legendOf, painter } from '../lib/colours'
import { across, curve, extremes, fit, flat, path, place, type Place, type Point } from '../lib/drawing'
import { fixed } from '../lib/quantity'
import { figures, NATURE_COLOURS, OXIDE, STEPS, temper } from '../lib/temper'
import { nearest, snaps, touches, type Snap } from '../lib/snaps'
import { useWorkbench, type Member } from '../stores/workbench'

const bench = useWorkbench()
const holder = ref<HTMLDivElement>()
const size = ref({ width: 732, height: 520 })
let watcher: ResizeObserver | undefined
onMounted(() => {
  watcher = new ResizeObserver(([entry]) => {
    const box = entry!.contentRect
    size.value = { width: Math.max(box.width, 200), height: Math.max(box.height, 160) }
  })
  watcher.observe(holder.value!)
})
onBeforeUnmount(() => watcher?.disconnect())

const on = (overlay: Parameters<typeof bench.overlays.has>[0]) => bench.overlays.has(overlay)
const coloured = computed(() => bench.colouring === 'utilisation')
const basis = computed(() => bench.looking!)
const upright = computed(() => basis.value.v[2] > 0.5)
const inPlane = computed(() =>
  basis.value.members.map((i) => bench.chain!.members![i]!).filter((m) => m && bench.shows(m)),
)
const line = (m: Member) => m.line.map((n) => flat(basis.value, bench.chain!.nodes![n]!))
/** Grid lines that cross the plane, as coordinates to the right (or, on a level, upwards as well). */
const grid = computed(() => {
  const b = basis.value
  return (bench.chain?.grid ?? []).flatMap((g) => {
    const normal = g.axis === 'X' ? [1, 0, 0] : [0, 1, 0]
    const [along, up] = across(b, normal)
    const at = g.at - b.origin[g.axis === 'X' ? 0 : 1]!
    if (Math.abs(along) > 0.99) return [{ name: g.name, upwards: false, at: at * along }]
    if (Math.abs(up) > 0.99) return [{ name: g.name, upwards: true, at: at * up }]
    return []
  })
})
const bounds = computed(() => {
  const points = inPlane.value.flatMap(line)
  if (bench.drawing)
    for (const n of bench.chain?.nodes ?? []) if (Math.abs(off(n)) < 0.01) points.push(flat(basis.value, n))
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
    left: 94,
    right: 102,
    top: upright.value ? 128 : 172,
    bottom: 82,
  }),
)
const onSheet = (p: readonly number[]) => sheet.value.at(...flat(basis.value, p))
const members = computed(() => {
  const shown = new Map(inPlane.value.map((m) => [m.name, m]))
  return (bench.diagram?.runs ?? []).flatMap((run) => {
    const member = shown.get(run.member)
    if (!member) return []
    return [
      {
        member,
        run,
        points: run.points as Place[],
        spots: (run.points as Place[]).map(onSheet),
        axis: across(basis.value, run.axis_z),
      },
    ]
  })
})
const paint = computed(() => painter(bench.chain?.members ?? [], bench.colouring))
/** Pieces between stations, each in the colour of the worse of its ends. */
const pieces = computed(() =>
  coloured.value
    ? members.value.flatMap(({ member, run, spots }) =>
        spots.slice(1).flatMap((b, i) => {
          const a = spots[i]!
          if (Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-3) return []
          const u = Math.max(run.utilisation[i] ?? 0, run.utilisation[i + 1] ?? 0)
          return [{ key: `${member.name}-${i}`, a, b, u, faded: bench.faded.has(member.name) }]
        }),
      )
    : [],
)
/** Members drawn whole: without a utilisation to colour by, or without results. */
const plain = computed(() => {
  const drawn = new Set(coloured.value ? members.value.map((m) => m.member.name) : [])
  return inPlane.value
    .filter((m) => !drawn.has(m.name))
    .map((m) => ({
      m,
      d: path(line(m).map((p) => sheet.value.at(...p))),
      colour: coloured.value ? '#8b949b' : paint.value(m),
    }))
})
/** Members that bend in the plane shown. */
const bending = computed(() => members.value.filter(({ axis }) => Math.hypot(...axis) > 0.7))
const largest = computed(() =>
  Math.max(1e-9, ...bending.value.flatMap(({ run }) => [...run.My, ...run.least_My].map(Math.abs))),
)
const momentScale = computed(() => 66 / largest.value)
const moments = computed(() => {
  if (!on('moment')) return []
  return bending.value.flatMap(({ member, run, spots, axis }) => {
    const series = bench.diagram?.kind === 'envelope' ? [run.My, run.least_My] : [run.My]
    return series.map((values, i) => {
      const top = curve(spots, axis, values, momentScale.value)
      return { key: `${member.name}-${i}`, d: path([...spots, ...[...top].reverse()], true) }
    })
  })
})
const momentWords = computed(() => {
  if (!on('moment')) return []
  const found: { at: Point; text: string; anchor: 'start' | 'middle' | 'end' }[] = []
  for (const { member, run, spots, axis } of bending.value) {
    const values = bench.diagram?.kind === 'envelope' ? [...run.My, ...run.least_My] : run.My
    const steep = member.role === 'column'
    const picks = steep ? [extremes(values.map(Math.abs))[0]] : extremes(values)
    for (const pick of picks) {
      const value = values[pick] ?? 0
      if (Math.abs(value) < largest.value * 0.15) continue
      const k = pick % run.My.length
      const base = spots[k]!
      const end = curve([base], axis, [value], momentScale.value)[0]!
      // at the eaves the column already says the moment
      if (member.role === 'rafter' && member.frame && k < 2) continue
      found.push({
        at: [end[0], end[1] + (steep ? -7 : end[1] > base[1] ? 14 : -6)],
        text: steep ? fixed(value, 0) : `${fixed(value, 0)} kNm`,
        anchor: 'middle',
      })
    }
  }
  // two slopes meet at the ridge and say the same there
  return found.filter((w, i) => !found.slice(0, i).some((o) => Math.hypot(o.at[0] - w.at[0], o.at[1] - w.at[1]) < 34))
})
const moved = computed(() => {
  if (!on('sway')) return null
  const size = (d: readonly number[]) => Math.hypot(...across(basis.value, d))
  const most = Math.max(0, ...members.value.flatMap(({ run }) => run.displacement.map(size)))
  if (!most) return null
  const times = 34 / ((most / 1000) * sheet.value.scale)
  return {
    most,
    times,
    lines: members.value.map(({ member, run, spots }) => ({
      key: member.name,
      d: path(
        spots.map(([x, y], i) => {
          const [dx, dy] = across(basis.value, run.displacement[i] ?? [0, 0, 0])
          const k = (times / 1000) * sheet.value.scale
          return [x + dx * k, y - dy * k]
        }),
      ),
    })),
  }
})
const arrows = computed(() => {
  const s = sheet.value
  const loads = bench.diagram?.loads ?? []
  if (!on('actions') || !loads.length)
    return { blocks: [] as { key: number; d: string; ticks: string; word: string; at: Point }[] }
  const turn = (v: readonly number[]) => across(basis.value, v)
  const most = Math.max(...loads.flatMap((l) => [Math.hypot(...turn(l.first)), Math.hypot(...turn(l.last))]), 1e-9)
  const unit = 26 / most
  const middle = (bounds.value.least[0] + bounds.value.most[0]) / 2
  const blocks = loads.map((l, key) => {
    const [start, end] = [flat(basis.value, l.start), flat(basis.value, l.end)]
    const [a, b] = [s.at(...start), s.at(...end)]
    const [first, last] = [turn(l.first), turn(l.last)]
    const upright = Math.abs(end[0] - start[0]) < 1e-6
    const out: Point = upright ? [start[0] < middle ? -1 : 1, 0] : [0, 1]
    // loads stand outside the building: pressing ones point at the surface, sucking ones away from it
    const away = first[0] * out[0] + first[1] * out[1] > 0
    const sense = away ? 1 : -1
    const tip = (p: Point, v: Point): Point => [p[0] + sense * v[0] * unit, p[1] - sense * v[1] * unit]
    const [c, d] = [tip(a, first), tip(b, last)]
    const count = Math.max(1, Math.round(Math.hypot(b[0] - a[0], b[1] - a[1]) / 26))
    const ticks = Array.from({ length: count + 1 }, (_, i) => {
      const t = i / count
      const p: Point = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
      const q: Point = [c[0] + (d[0] - c[0]) * t, c[1] + (d[1] - c[1]) * t]
      const length = Math.hypot(q[0] - p[0], q[1] - p[1])
      if (length < 5) return ''
      const [from, to] = away ? [p, q] : [q, p]
      const [ux, uy] = [(from[0] - to[0]) / length, (from[1] - to[1]) / length]
      return `M${from[0]} ${from[1]}L${to[0]} ${to[1]}M${to[0] + ux * 5 - uy * 2.5} ${to[1] + uy * 5 + ux * 2.5}L${to[0]} ${to[1]}L${to[0] + ux * 5 + uy * 2.5} ${to[1] + uy * 5 - ux * 2.5}`
    }).join('')
    const value = Math.max(Math.hypot(...first), Math.hypot(...last))
    const at: Point = upright
      ? [Math.min(a[0], c[0]) === a[0] ? Math.max(a[0], c[0]) + 18 : Math.min(a[0], c[0]) - 18, (c[1] + d[1]) / 2]
      : [(c[0] + d[0]) / 2, Math.min((c[1] + d[1]) / 2, (a[1] + b[1]) / 2) - 6]
    return { key, d: path([a, c, d, b]), ticks, word: value > most * 0.12 ? fixed(value, 2) : '', at }
  })
  // neighbouring pieces with the same figure say it once
  return {
    blocks: blocks.map((b, i) => {
      const said = blocks
        .slice(0, i)
        .some((o) => o.word === b.word && Math.hypot(o.at[0] - b.at[0], o.at[1] - b.at[1]) < 150)
      return said ? { ...b, word: '' } : b
    }),
  }
})
const natureColour = computed(() => {
  const found = bench.chain?.cases?.find((c) => c.symbol === bench.diagram?.state)
  return NATURE_COLOURS[found?.nature ?? 'other']
})

/** Restraints of the flanges of frame members: purlins and rails on the outer one, stays to the inner one. */
const purlins = computed(() => {
  if (basis.value.kind !== 'frame') return []
  return inPlane.value
    .filter((m) => m.frame && (m.outer.length > 1 || m.edited))
    .flatMap((m) => {
      const spots = m.line.map((n) => onSheet(bench.chain!.nodes![n]!))
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
const worst = computed(() => {
  const m = bench.member
  const check = m?.checks?.[0]
  if (!m || !check) return null
  const found = members.value.find((entry) => entry.member.name === m.name)
  if (!found) return null
  const k = found.run.x.findIndex((x) => x >= check.position - 1e-6)
  const [x, y] = found.spots[k < 0 ? found.spots.length - 1 : k]!
  return { x, y, u: check.utilisation }
})
const outlines = computed(() =>
  inPlane.value
    .filter((m) => bench.chosen.has(m.name))
    .map((m) => ({ key: m.name, d: path(line(m).map((p) => sheet.value.at(...p))) })),
)
const supports = computed(() =>
  (bench.chain?.supports ?? [])
    .filter((s) => Math.abs(off(bench.chain!.nodes![s.index]!)) < 0.01)
    .map((s) => {
      const [x, y] = onSheet(bench.chain!.nodes![s.index]!)
      return {
        key: s.node,
        x,
        y,
        fixed: ['rx', 'ry'].every((f) => s.fixed.includes(f)),
        node: s.node,
        words: s.fixed.join(' '),
      }
    }),
)
/** Columns that a level cuts, or whose heads lie in it. */
const cross = computed(() => {
  if (basis.value.kind !== 'level') return []
  const z = basis.value.origin[2]
  return (bench.chain?.members ?? [])
    .filter((m) => bench.shows(m) && (m.role === 'column' || m.role === 'gable post'))
    .map((m) => [bench.chain!.nodes![m.line[0]!]!, bench.chain!.nodes![m.line.at(-1)!]!] as const)
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
    .map((m) => flat(basis.value, bench.chain!.nodes![m.line.at(-1)!]!)[1])
  return tops.length ? Math.max(...tops) : bounds.value.most[1]
})
const kinds = computed(() =>
  coloured.value ? [] : legendOf(bench.chain?.members ?? [], inPlane.value, bench.colouring),
)

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
      const [at, height] = flat(basis.value, bench.chain!.nodes![n]!)
      if (height > best.height + 1e-6) best = { at, height, pitch: '' }
    }
  const slopes = (bench.chain?.hall?.slopes ?? []).map(([, , pitch]) => `${Number(pitch.toFixed(2))}°`)
  return { ...best, pitch: new Set(slopes).size === 1 ? ` · ${slopes[0]}` : '' }
})

// drawing by hand
const pen = ref<Snap | null>(null)
const spots = computed(() =>
  bench.drawing
    ? snaps({
        nodes: (bench.chain?.nodes ?? []).flatMap((n, i) =>
          Math.abs(off(n)) < 0.01 ? [{ name: bench.chain!.node_names![i]!, at: flat(basis.value, n) }] : [],
        ),
        lines: inPlane.value.map((m) => line(m)).map((l) => [l[0]!, l.at(-1)!] as const),
        upright: grid.value.filter((g) => !g.upwards).map((g) => ({ name: g.name, at: g.at })),
        level: [
          ...grid.value.filter((g) => g.upwards).map((g) => ({ name: g.name, at: g.at })),
          ...(upright.value
            ? (bench.chain?.levels ?? []).map((v) => ({ name: v.name, at: v.height - basis.value.origin[2] }))
            : []),
        ],
      })
    : [],
)
const trail = computed(() =>
  (bench.drawing?.points ?? []).map((p) => {
    if (typeof p !== 'string') return onSheet(p)
    const i = bench.chain!.node_names!.indexOf(p)
    return onSheet(bench.chain!.nodes![i] ?? [0, 0, 0])
  }),
)
function hover(event: MouseEvent) {
  if (!bench.drawing) return
  const box = holder.value!.getBoundingClientRect()
  const at: Point = [event.clientX - box.left, event.clientY - box.top]
  pen.value = nearest(spots.value, at, (p) => sheet.value.at(...p), 14)
}
function put() {
  if (!bench.drawing || !pen.value) return
  const spot = pen.value.node ?? place(basis.value, pen.value.at)
  bench.drawing = { ...bench.drawing, points: [...bench.drawing.points, spot] }
}

// choosing by window: enclosed from left to right, crossed from right to left
const window_ = ref<{ from: Point; to: Point } | null>(null)
function press(event: MouseEvent) {
  if (bench.drawing || event.button !== 0 || (event.target as Element).closest('.grip')) return
  const box = holder.value!.getBoundingClientRect()
  const at: Point = [event.clientX - box.left, event.clientY - box.top]
  window_.value = { from: at, to: at }
}
function drag(event: MouseEvent) {
  hover(event)
  if (!window_.value) return
  const box = holder.value!.getBoundingClientRect()
  window_.value = { ...window_.value, to: [event.clientX - box.left, event.clientY - box.top] }
}
function letGo(event: MouseEvent) {
  const w = window_.value
  window_.value = null
  if (!w || Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]) < 5) return
  const crossing = w.to[0] < w.from[0]
  const found = inPlane.value
    .filter((m) => {
      const points = line(m).map((p) => sheet.value.at(...p))
      return touches([points[0]!, points.at(-1)!], w.from, w.to, crossing)
    })
    .map((m) => m.name)
  bench.choose(event.shiftKey ? [...bench.chosen, ...found] : found)
}
</script>

<template>
  <div
    ref="holder"
    class="holder"
    :class="{ drawing: bench.drawing }"
    @mousedown="press"
    @mousemove="drag"
    @mouseup="letGo"
    @mouseleave="window_ = null"
    @click="put"
  >
    <svg :width="size.width" :height="size.height" role="img" :aria-label="basis.label">
      <defs>
        <pattern id="hatch" width="6" height="6" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="#a8402a" />
          <rect width="2" height="6" fill="#5f2014" />
        </pattern>
      </defs>
      <g v-for="g in grid" :key="`${g.name}${g.upwards}`" class="bubble">
        <template v-if="!g.upwards">
          <line :x1="sheet.at(g.at, 0)[0]" :x2="sheet.at(g.at, 0)[0]" :y1="frameKey.ry - 26" :y2="frameKey.ay + 36" />
          <circle :cx="sheet.at(g.at, 0)[0]" :cy="frameKey.ry - 38" r="11" />
          <text :x="sheet.at(g.at, 0)[0]" :y="frameKey.ry - 34">{{ g.name }}</text>
        </template>
        <template v-else>
          <line :x1="frameKey.ax - 26" :x2="frameKey.bx + 26" :y1="sheet.at(0, g.at)[1]" :y2="sheet.at(0, g.at)[1]" />
          <circle :cx="frameKey.ax - 38" :cy="sheet.at(0, g.at)[1]" r="11" />
          <text :x="frameKey.ax - 38" :y="sheet.at(0, g.at)[1] + 4">{{ g.name }}</text>
        </template>
      </g>
      <line
        v-if="upright && basis.kind !== 'slope'"
        class="ground"
        :x1="frameKey.ax - 40"
        :x2="frameKey.bx + 40"
        :y1="frameKey.ay"
        :y2="frameKey.ay"
      />
      <path v-for="m in moments" :key="m.key" class="moment" :d="m.d" />
      <g v-if="on('actions')" :stroke="natureColour" fill="none">
        <g v-for="block in arrows.blocks" :key="block.key">
          <path :d="block.d" stroke-width="1.2" />
          <path :d="block.ticks" stroke-width="0.9" />
          <text
            v-if="block.word"
            class="load mono"
            :x="block.at[0]"
            :y="block.at[1]"
            :fill="natureColour"
            stroke="none"
          >
            {{ block.word }}
          </text>
        </g>
      </g>
      <path v-for="o in outlines" :key="o.key" class="chosen" :d="o.d" />
      <path
        v-for="p in plain"
        :key="p.m.name"
        class="plain"
        :class="{ faded: bench.faded.has(p.m.name), bar: p.m.behaviour !== 'beam', light: coloured }"
        :d="p.d"
        :stroke="p.colour"
      />
      <line
        v-for="p in pieces"
        :key="p.key"
        :x1="p.a[0]"
        :y1="p.a[1]"
        :x2="p.b[0]"
        :y2="p.b[1]"
        :stroke="temper(p.u)"
        :class="{ faded: p.faded }"
        stroke-width="7"
      />
      <template v-if="coloured">
        <line
          v-for="p in pieces.filter((q) => q.u > 1)"
          :key="`${p.key}h`"
          :x1="p.a[0]"
          :y1="p.a[1]"
          :x2="p.b[0]"
          :y2="p.b[1]"
          class="over"
        />
      </template>
      <g v-for="p in purlins" :key="p.key">
        <path v-if="p.stay" class="stay" :d="p.stay" />
        <rect v-if="p.outer" class="purlin" :x="p.x - 2.5" :y="p.y - 2.5" width="5" height="5" />
      </g>
      <rect v-for="([x, y], i) in cross" :key="i" class="cut" :x="x - 4" :y="y - 4" width="8" height="8" />
      <g v-if="moved">
        <path v-for="l in moved.lines" :key="l.key" class="moved" :d="l.d" />
      </g>
      <template v-if="upright">
        <g v-for="p in supports" :key="p.key" class="support">
          <title>Support {{ p.node }}: {{ p.words }}</title>
          <path v-if="!p.fixed" :d="`M${p.x - 9} ${p.y + 13}h18l-9 -12z`" />
          <path v-else :d="`M${p.x - 11} ${p.y}h22v7h-22zM${p.x - 11} ${p.y + 12}l5 -5m3 5l5 -5m3 5l5 -5`" />
        </g>
      </template>
      <g v-for="m in inPlane" :key="m.name">
        <path
          class="grip"
          role="button"
          tabindex="0"
          :aria-label="`${m.label}, ${m.section}, utilisation ${figures(m.utilisation ?? null)}`"
          :d="path(line(m).map((p) => sheet.at(...p)))"
          @click.stop="bench.drawing ? put() : bench.select(m.name, false, $event.shiftKey)"
          @keydown.enter="bench.select(m.name)"
        >
          <title>{{ m.label }} · {{ m.section }} · {{ figures(m.utilisation ?? null) }} {{ m.governs }}</title>
        </path>
        <text
          v-if="on('names')"
          class="name"
          :x="middle(m)[0] + (m.role === 'column' ? 10 : 0)"
          :y="middle(m)[1] + (m.role === 'column' ? 0 : 20)"
          :text-anchor="m.role === 'column' ? 'start' : 'middle'"
        >
          {{ m.section }}
        </text>
      </g>
      <text
        v-for="(w, i) in momentWords"
        :key="i"
        class="figure mono"
        :x="w.at[0]"
        :y="w.at[1]"
        :text-anchor="w.anchor"
      >
        {{ w.text }}
      </text>
      <g v-if="worst && coloured" class="worst" :class="{ fails: worst.u > 1 }">
        <circle :cx="worst.x" :cy="worst.y" r="7" />
        <text
          class="mono"
          :x="worst.x + (worst.x > size.width / 2 ? -12 : 12)"
          :y="worst.y + 24"
          :text-anchor="worst.x > size.width / 2 ? 'end' : 'start'"
        >
          {{ figures(worst.u) }}{{ worst.u > 1 ? ' fails' : '' }}
        </text>
      </g>
      <g class="dimension">
        <line :x1="frameKey.ax" :x2="frameKey.bx" :y1="frameKey.ay + 30" :y2="frameKey.ay + 30" />
        <path :d="`M${frameKey.ax - 4} ${frameKey.ay + 34}l8 -8M${frameKey.bx - 4} ${frameKey.ay + 34}l8 -8`" />
        <text class="mono" :x="(frameKey.ax + frameKey.bx) / 2" :y="frameKey.ay + 25" text-anchor="middle">
          {{ (bounds.most[0] - bounds.least[0]).toFixed(2) }} m
        </text>
        <line :x1="size.width - 14" :x2="size.width - 14" :y1="frameKey.ay" :y2="sheet.at(0, eaves)[1]" />
        <path :d="`M${size.width - 18} ${frameKey.ay + 4}l8 -8M${size.width - 18} ${sheet.at(0, eaves)[1] + 4}l8 -8`" />
        <text
          class="mono"
          :transform="`translate(${size.width - 19} ${(frameKey.ay + sheet.at(0, eaves)[1]) / 2}) rotate(-90)`"
          text-anchor="middle"
        >
          {{ (eaves - bounds.least[1]).toFixed(2) }} m
        </text>
        <text
          v-if="upright && basis.kind === 'frame'"
          class="mono"
          :x="sheet.at(top.at, 0)[0]"
          :y="sheet.at(0, top.height)[1] - (arrows.blocks.length ? 58 : 34)"
          text-anchor="middle"
        >
          +{{ (top.height + basis.origin[2]).toFixed(2) }}{{ top.pitch }}
        </text>
      </g>
      <g v-if="bench.drawing" class="pen">
        <path :d="path(pen ? [...trail, sheet.at(...pen.at)] : trail)" />
        <circle v-for="([x, y], i) in trail" :key="i" :cx="x" :cy="y" r="3.5" />
        <template v-if="pen">
          <circle :cx="sheet.at(...pen.at)[0]" :cy="sheet.at(...pen.at)[1]" r="7" class="aim" />
          <text :x="sheet.at(...pen.at)[0] + 12" :y="sheet.at(...pen.at)[1] - 8">{{ pen.words }}</text>
        </template>
      </g>
      <rect
        v-if="window_"
        class="window"
        :class="{ crossing: window_.to[0] < window_.from[0] }"
        :x="Math.min(window_.from[0], window_.to[0])"
        :y="Math.min(window_.from[1], window_.to[1])"
        :width="Math.abs(window_.to[0] - window_.from[0])"
        :height="Math.abs(window_.to[1] - window_.from[1])"
      />
    </svg>
    <div class="legend">
      <div v-if="coloured" class="bar" aria-label="Temper scale of utilisation">
        <span v-for="step in STEPS" :key="step.upTo"
          ><i :style="{ background: step.colour }" />≤ {{ step.upTo.toFixed(2) }}</span
        >
        <span><i class="hatched" :style="{ borderColor: OXIDE }" />fails</span>
      </div>
      <div v-if="kinds.length" class="bar kinds">
        <span v-for="k in kinds.slice(0, 8)" :key="k.kind"><i :style="{ background: k.colour }" />{{ k.kind }}</span>
        <span v-if="kinds.length > 8">and {{ kinds.length - 8 }} more</span>
      </div>
      <span v-if="on('moment')" class="mono">M on the tension side, kNm</span>
      <span v-if="moved" class="mono">movement ×{{ moved.times.toFixed(0) }}, most {{ moved.most.toFixed(0) }} mm</span>
      <span v-else-if="on('sway')" class="mono">movement: choose a case or combination</span>
      <span v-if="on('actions')" class="mono">{{
        bench.diagram?.loads?.length ? 'line loads, kN per m of member' : 'actions: choose a case or combination'
      }}</span>
    </div>
  </div>
</template>

<style scoped>
.holder {
  position: absolute;
  inset: 0;
}
svg {
  display: block;
}
.bubble line {
  stroke: #d2ccbd;
  stroke-dasharray: 10 3 2 3;
}
.bubble circle {
  fill: #faf9f6;
  stroke: var(--ink-3);
}
.bubble text {
  font: 500 12px var(--condensed);
  text-anchor: middle;
  fill: var(--ink-2);
}
.ground {
  stroke: #b8b09f;
}
.moment {
  fill: #5f7382;
  fill-opacity: 0.13;
  stroke: #5f7382;
  stroke-width: 1.1;
}
.chosen {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 12;
  stroke-opacity: 0.32;
  stroke-linecap: round;
}
.over {
  stroke: url(#hatch);
  stroke-width: 7;
}
.purlin {
  fill: var(--ink);
}
.plain {
  fill: none;
  stroke-width: 6;
}
.plain.bar {
  stroke-width: 3;
}
.plain.light {
  stroke-dasharray: 9 3;
}
.faded {
  opacity: 0.18;
}
.cut {
  fill: var(--ink);
}
.drawing {
  cursor: crosshair;
}
.pen path {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}
.pen circle {
  fill: var(--chalk);
}
.pen .aim {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 1.6;
}
.pen text {
  font: 500 11.5px var(--condensed);
  fill: var(--chalk);
}
.window {
  fill: var(--chalk);
  fill-opacity: 0.07;
  stroke: var(--chalk);
}
.window.crossing {
  stroke-dasharray: 5 4;
}
.kinds i {
  height: 5px;
}
.stay {
  stroke: var(--ink-2);
  stroke-width: 1.2;
}
.moved {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 1.6;
  stroke-dasharray: 7 3;
}
.support path {
  fill: #faf9f6;
  stroke: var(--ink);
  stroke-width: 1.3;
}
.grip {
  fill: none;
  stroke: transparent;
  stroke-width: 18;
  cursor: pointer;
}
.grip:focus {
  outline: none;
}
.grip:focus-visible {
  stroke: var(--chalk);
  stroke-opacity: 0.4;
}
.figure {
  font-size: 11.5px;
  fill: var(--ink-2);
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 3px;
}
.load {
  font-size: 11px;
  text-anchor: middle;
}
.name {
  font: 500 12px var(--condensed);
  fill: var(--ink);
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 3px;
}
.worst circle {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.worst text {
  font-size: 12.5px;
  font-weight: 600;
  fill: var(--ink);
  paint-order: stroke;
  stroke: #faf9f6;
  stroke-width: 4px;
}
.worst.fails circle {
  stroke: var(--oxide);
}
.worst.fails text {
  fill: var(--oxide);
}
.dimension line,
.dimension path {
  stroke: var(--ink-3);
  fill: none;
}
.dimension text {
  font-size: 11.5px;
  fill: var(--ink-2);
}
.legend {
  position: absolute;
  left: 14px;
  bottom: 8px;
  right: 14px;
  display: flex;
  gap: 4px 18px;
  align-items: center;
  flex-wrap: wrap;
  font-size: 11px;
  color: var(--ink-2);
  pointer-events: none;
}
.bar {
  display: flex;
  gap: 9px;
  font: 400 11px var(--mono);
}
.bar span {
  display: flex;
  align-items: center;
  gap: 4px;
}
.bar i {
  width: 16px;
  height: 9px;
}
.bar i.hatched {
  background: var(--hatch);
}
</style>
