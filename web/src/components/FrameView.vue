<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { curve, extremes, fit, path, type Place, type Point } from '../lib/drawing'
import { fixed } from '../lib/quantity'
import { figures, NATURE_COLOURS, OXIDE, STEPS, temper } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'

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
const facts = computed(() => bench.chain?.hall ?? null)
const sheet = computed(() => {
  const hall = bench.hall
  if (!hall || !facts.value) return null
  return fit(hall.span, facts.value.ridge_height, { ...size.value, left: 94, right: 102, top: 128, bottom: 82 })
})

const members = computed(() => {
  const shown = new Map((bench.chain?.members ?? []).filter((m) => m.frame === bench.frame).map((m) => [m.name, m]))
  return (bench.diagram?.runs ?? []).flatMap((run) => {
    const member = shown.get(run.member)
    return member && !bench.hidden.has(member.role) ? [{ member, run, points: run.points as Place[] }] : []
  })
})

/** Pieces between stations, each in the colour of the worse of its ends. */
const pieces = computed(() => {
  const s = sheet.value
  if (!s) return []
  return members.value.flatMap(({ member, run, points }) =>
    points.slice(1).flatMap((p, i) => {
      const q = points[i]!
      if (Math.hypot(p[0] - q[0], p[2] - q[2]) < 1e-6) return []
      const u = Math.max(run.utilisation[i] ?? 0, run.utilisation[i + 1] ?? 0)
      const [a, b] = [s.at(q[0], q[2]), s.at(p[0], p[2])]
      return [{ key: `${member.name}-${i}`, a, b, u }]
    }),
  )
})

const largest = computed(() =>
  Math.max(1e-9, ...members.value.flatMap(({ run }) => [...run.My, ...run.least_My].map(Math.abs))),
)
const momentScale = computed(() => 66 / largest.value)
const moments = computed(() => {
  const s = sheet.value
  if (!s || !on('moment')) return []
  return members.value.flatMap(({ member, run, points }) => {
    const line = points.map((p) => s.at(p[0], p[2]))
    const series = bench.diagram?.kind === 'envelope' ? [run.My, run.least_My] : [run.My]
    return series.map((values, i) => {
      const top = curve(s, points, run.axis_z as Place, values, momentScale.value)
      return { key: `${member.name}-${i}`, d: path([...line, ...[...top].reverse()], true) }
    })
  })
})
const momentWords = computed(() => {
  const s = sheet.value
  if (!s || !on('moment')) return []
  const found: { at: Point; text: string; anchor: 'start' | 'middle' | 'end' }[] = []
  for (const { member, run, points } of members.value) {
    if (member.role !== 'rafter' && member.role !== 'column') continue
    const values = bench.diagram?.kind === 'envelope' ? [...run.My, ...run.least_My] : run.My
    const picks = member.role === 'column' ? [extremes(values.map(Math.abs))[0]] : extremes(values)
    for (const pick of picks) {
      const value = values[pick] ?? 0
      if (Math.abs(value) < largest.value * 0.15) continue
      const k = pick % run.My.length
      const place = points[k]!
      const end = curve(s, [place], run.axis_z as Place, [value], momentScale.value)[0]!
      const base = s.at(place[0], place[2])
      // at the eaves the column already says the moment
      if (
        member.role === 'rafter' &&
        (k < 2 || k > run.My.length - 2) &&
        Math.abs(place[2] - bench.hall!.eaves_height) < 0.3
      )
        continue
      if (member.role === 'column') found.push({ at: [end[0], end[1] - 7], text: fixed(value, 0), anchor: 'middle' })
      else
        found.push({
          at: [end[0], end[1] + (end[1] > base[1] ? 14 : -6)],
          text: `${fixed(value, 0)} kNm`,
          anchor: 'middle',
        })
    }
  }
  // two slopes meet at the ridge and say the same there
  return found.filter((w, i) => !found.slice(0, i).some((o) => Math.hypot(o.at[0] - w.at[0], o.at[1] - w.at[1]) < 34))
})

const moved = computed(() => {
  const s = sheet.value
  if (!s || !on('sway')) return null
  const all = members.value.flatMap(({ run }) => run.displacement.map((d) => Math.hypot(d[0], d[2])))
  const most = Math.max(0, ...all)
  if (!most) return null
  const times = 34 / ((most / 1000) * s.scale)
  return {
    most,
    times,
    lines: members.value.map(({ member, run, points }) => ({
      key: member.name,
      d: path(
        points.map((p, i) => {
          const d = run.displacement[i] ?? [0, 0, 0]
          return s.at(p[0] + (d[0] / 1000) * times, p[2] + (d[2] / 1000) * times)
        }),
      ),
    })),
  }
})

const arrows = computed(() => {
  const s = sheet.value
  const loads = bench.diagram?.loads ?? []
  if (!s || !on('actions') || !loads.length)
    return { blocks: [] as { key: number; d: string; ticks: string; word: string; at: Point }[] }
  const most = Math.max(
    ...loads.flatMap((l) => [Math.hypot(l.first[0], l.first[2]), Math.hypot(l.last[0], l.last[2])]),
    1e-9,
  )
  const unit = 26 / most
  const middle = bench.hall!.span / 2
  const blocks = loads.map((l, key) => {
    const [a, b] = [s.at(l.start[0], l.start[2]), s.at(l.end[0], l.end[2])]
    const upright = Math.abs(l.end[0] - l.start[0]) < 1e-6
    const out: Point = upright ? [l.start[0] < middle ? -1 : 1, 0] : [0, 1]
    // loads stand outside the building: pressing ones point at the surface, sucking ones away from it
    const away = l.first[0]! * out[0] + l.first[2]! * out[1] > 0
    const sense = away ? 1 : -1
    const tip = (p: Point, v: number[]): Point => [p[0] + sense * v[0]! * unit, p[1] - sense * v[2]! * unit]
    const [c, d] = [tip(a, l.first), tip(b, l.last)]
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
    const value = Math.hypot(l.first[0]!, l.first[2]!)
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

const purlins = computed(() => {
  const s = sheet.value
  const hall = bench.hall
  if (!s || !hall || !facts.value) return []
  const slope = (hall.pitch * Math.PI) / 180
  return (['left', 'right'] as const).flatMap((side) =>
    facts.value!.purlins.map((along, i) => {
      const x = along * Math.cos(slope)
      const [px, py] = s.at(side === 'left' ? x : hall.span - x, hall.eaves_height + along * Math.sin(slope))
      const lift = 9
      const sign = side === 'left' ? -1 : 1
      return {
        key: `${side}-${i}`,
        x: px + sign * Math.sin(slope) * lift,
        y: py - Math.cos(slope) * lift,
        stay:
          facts.value!.stays.some((stay) => Math.abs(stay - along) < 1e-6) &&
          i > 0 &&
          i < facts.value!.purlins.length - 1,
        px,
        py,
        nx: -sign * Math.sin(slope),
        ny: Math.cos(slope),
      }
    }),
  )
})

const worst = computed(() => {
  const s = sheet.value
  const m = bench.member
  const check = m?.checks?.[0]
  if (!s || !m || m.frame !== bench.frame || !check) return null
  const found = members.value.find((entry) => entry.member.name === m.name)
  if (!found) return null
  const k = found.run.x.findIndex((x) => x >= check.position - 1e-6)
  const p = found.points[k < 0 ? found.points.length - 1 : k]!
  const [x, y] = s.at(p[0], p[2])
  return { x, y, u: check.utilisation }
})
const outline = computed(() => {
  const s = sheet.value
  const found = members.value.find((entry) => entry.member.name === bench.selected)
  return s && found ? path(found.points.map((p) => s.at(p[0], p[2]))) : ''
})
const frameKey = computed(() => {
  const s = sheet.value
  const hall = bench.hall!
  if (!s || !facts.value) return null
  const [ax, ay] = s.at(0, 0)
  const [bx] = s.at(hall.span, 0)
  const [, ey] = s.at(0, hall.eaves_height)
  const [rx, ry] = s.at(hall.span / 2, facts.value.ridge_height)
  return { ax, ay, bx, ey, rx, ry }
})
</script>

<template>
  <div ref="holder" class="holder">
    <svg
      v-if="sheet && bench.hall && facts && frameKey"
      :width="size.width"
      :height="size.height"
      role="img"
      :aria-label="`Frame on grid ${bench.frame}`"
    >
      <defs>
        <pattern id="hatch" width="6" height="6" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="#a8402a" />
          <rect width="2" height="6" fill="#5f2014" />
        </pattern>
      </defs>
      <g
        v-for="[name, x] in [
          ['A', frameKey.ax],
          ['B', frameKey.bx],
        ] as const"
        :key="name"
        class="bubble"
      >
        <line :x1="x" :x2="x" :y1="frameKey.ry - 26" :y2="frameKey.ay + 36" />
        <circle :cx="x" :cy="frameKey.ry - 38" r="11" />
        <text :x="x" :y="frameKey.ry - 34">{{ name }}</text>
      </g>
      <line class="ground" :x1="frameKey.ax - 40" :x2="frameKey.bx + 40" :y1="frameKey.ay" :y2="frameKey.ay" />
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
      <path v-if="outline" class="chosen" :d="outline" />
      <line
        v-for="p in pieces"
        :key="p.key"
        :x1="p.a[0]"
        :y1="p.a[1]"
        :x2="p.b[0]"
        :y2="p.b[1]"
        :stroke="on('utilisation') ? temper(p.u) : '#56626c'"
        stroke-width="7"
      />
      <template v-if="on('utilisation')">
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
        <path
          v-if="p.stay"
          class="stay"
          :d="`M${p.px} ${p.py}l${p.nx * 13 + 7 * Math.sign(bench.hall.span / 2)} ${p.ny * 13}`"
        />
        <rect class="purlin" :x="p.x - 2.5" :y="p.y - 2.5" width="5" height="5" />
      </g>
      <g v-if="moved">
        <path v-for="l in moved.lines" :key="l.key" class="moved" :d="l.d" />
      </g>
      <g v-for="x in [frameKey.ax, frameKey.bx]" :key="x" class="support">
        <path v-if="bench.hall.bases === 'pinned'" :d="`M${x - 9} ${frameKey.ay + 13}h18l-9 -12z`" />
        <path v-else :d="`M${x - 11} ${frameKey.ay}h22v7h-22zM${x - 11} ${frameKey.ay + 12}l5 -5m3 5l5 -5m3 5l5 -5`" />
      </g>
      <g v-for="{ member, points } in members" :key="member.name">
        <path
          class="grip"
          role="button"
          tabindex="0"
          :aria-label="`${member.label}, ${member.section}, utilisation ${figures(member.utilisation ?? null)}`"
          :d="path(points.map((p) => sheet!.at(p[0], p[2])))"
          @click="bench.select(member.name)"
          @keydown.enter="bench.select(member.name)"
        >
          <title>
            {{ member.label }} · {{ member.section }} · {{ figures(member.utilisation ?? null) }} {{ member.governs }}
          </title>
        </path>
        <text
          v-if="on('names')"
          class="name"
          :x="
            sheet.at(points[Math.floor(points.length / 2)]![0], 0)[0] +
            (member.role === 'column' ? (points[0]![0] === 0 ? 10 : -10) : 0)
          "
          :y="sheet.at(0, points[Math.floor(points.length / 2)]![2])[1] + (member.role === 'column' ? 0 : 24)"
          :text-anchor="member.role === 'column' ? (points[0]![0] === 0 ? 'start' : 'end') : 'middle'"
        >
          {{ member.section }}
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
      <g v-if="worst && on('utilisation')" class="worst" :class="{ fails: worst.u > 1 }">
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
          {{ bench.hall.span.toFixed(2) }} m
        </text>
        <line :x1="size.width - 14" :x2="size.width - 14" :y1="frameKey.ay" :y2="frameKey.ey" />
        <path :d="`M${size.width - 18} ${frameKey.ay + 4}l8 -8M${size.width - 18} ${frameKey.ey + 4}l8 -8`" />
        <text
          class="mono"
          :transform="`translate(${size.width - 19} ${(frameKey.ay + frameKey.ey) / 2}) rotate(-90)`"
          text-anchor="middle"
        >
          {{ bench.hall.eaves_height.toFixed(2) }} m
        </text>
        <text class="mono" :x="frameKey.rx" :y="frameKey.ry - (arrows.blocks.length ? 58 : 34)" text-anchor="middle">
          +{{ facts.ridge_height.toFixed(2) }} · {{ bench.hall.pitch }}°
        </text>
      </g>
    </svg>
    <div class="legend">
      <div v-if="on('utilisation')" class="bar" aria-label="Temper scale of utilisation">
        <span v-for="step in STEPS" :key="step.upTo"
          ><i :style="{ background: step.colour }" />≤ {{ step.upTo.toFixed(2) }}</span
        >
        <span><i class="hatched" :style="{ borderColor: OXIDE }" />fails</span>
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
.grip:focus-visible {
  outline: none;
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
