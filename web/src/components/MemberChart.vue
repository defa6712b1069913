<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '../api/client'
import { at, bars, extent, SERIES, straightened, type Series } from '../lib/chart'
import { read as valueAt, refined } from '../lib/diagram'
import { pictureOf } from '../lib/picture'
import { fixed } from '../lib/quantity'
import { csv, save } from '../lib/table'
import { useWorkbench } from '../stores/workbench'

/** All diagrams of one member over its length, the envelope behind them, and a cursor that reads every value. */
const bench = useWorkbench()
type Run = Schemas['RunOut']
const of = (diagram: Schemas['DiagramOut'] | null) =>
  diagram?.revision === bench.chain?.revision ? diagram?.runs.find((r) => r.member === bench.selected) : undefined
const run = computed(() => of(bench.diagram))
const behind = computed(() => of(bench.envelope))
const other = computed(() => bench.besideDiagram?.runs.find((r) => r.member === bench.selected))
watch(() => [bench.selected, bench.chain?.revision, bench.plane], bench.loadEnvelope, { immediate: true })

const WIDTH = 286
const HEIGHT = 46
const cursor = ref<number | null>(null)
const length = computed(() => run.value?.x.at(-1) ?? 1)
const shown = computed(() =>
  SERIES.filter((s) => {
    const values = [...(run.value?.[s.key] ?? []), ...(behind.value?.[s.key] ?? []), ...(behind.value?.[s.least] ?? [])]
    return s.always || extent(values) > 0.05
  }),
)
const envelope = computed(() => bench.diagram?.kind === 'envelope')
const x = (value: number) => (value / length.value) * WIDTH
function drawn(s: Series, r: Run, back: Run | undefined, next: Run | undefined) {
  const both = (one: Run | undefined) => (one ? [...one[s.key], ...one[s.least]] : [])
  const size = extent([...both(r), ...both(back), ...both(next)]) || 1
  const y = (value: number) => HEIGHT / 2 + (s.down ? 1 : -1) * (value / size) * (HEIGHT / 2 - 3)
  const line = (xs: readonly number[], values: readonly number[]) =>
    values.map((v, i) => `${i ? 'L' : 'M'}${x(xs[i]!).toFixed(1)} ${y(v).toFixed(1)}`).join('')
  const own = refined(r, s.key, envelope.value)
  const beside = next && refined(next, s.key, bench.besideDiagram?.kind === 'envelope')
  const band = back && bars(back.x, back[s.key], back[s.least])
  return {
    envelope: band ? line(band.x, band.values) + 'Z' : '',
    value: `M0 ${HEIGHT / 2}${line(own.x, own.values).replace('M', 'L')}L${WIDTH} ${HEIGHT / 2}`,
    peaks: peaksOf(s, r, own),
    most: line(r.x, r[s.least]),
    other: beside ? line(beside.x, beside.values) : '',
  }
}
/** Greatest and least values with where they are. */
function peaksOf(s: Series, r: Run, own: { x: number[]; values: number[] }) {
  const low = envelope.value ? { x: r.x, values: r[s.least] } : own
  const most = own.values.indexOf(Math.max(...own.values))
  const least = low.values.indexOf(Math.min(...low.values))
  const say = (at: { x: readonly number[]; values: readonly number[] }, k: number, which: 'most_in' | 'least_in') => {
    const name = envelope.value ? bench.diagram?.among?.[r[which]?.[s.key]?.[k] ?? -1] : ''
    return `${fixed(at.values[k]!, 1)}${name ? ` ${name}` : ''} at ${at.x[k]!.toFixed(2)}`
  }
  const [up, down] = [say(own, most, 'most_in'), say(low, least, 'least_in')]
  const flat = own.values[most]! - low.values[least]! < 0.05
  return flat ? fixed(own.values[most]!, 1) : `${up} … ${down} m`
}
const rows = computed(() =>
  run.value ? shown.value.map((s) => ({ ...s, ...drawn(s, run.value!, behind.value, other.value) })) : [],
)
/** Movement across the member in its own planes, mm; relative: from the chord between its ends. */
const relative = ref(true)
const crossed = (a: readonly number[], b: readonly number[]) => [
  a[1]! * b[2]! - a[2]! * b[1]!,
  a[2]! * b[0]! - a[0]! * b[2]!,
  a[0]! * b[1]! - a[1]! * b[0]!,
]
function memberAxis(r: Run): number[] {
  const [first, last] = [r.points[0]!, r.points.at(-1)!]
  const reach = Math.hypot(...[0, 1, 2].map((i) => last[i]! - first[i]!)) || 1
  return [0, 1, 2].map((i) => (last[i]! - first[i]!) / reach)
}
const across = (r: Run | undefined, k: 'z' | 'y') => {
  if (!r?.displacement.length) return []
  const z = r.axis_z
  const y = crossed(z, memberAxis(r))
  return straightened(
    r.x,
    r.displacement.map((d) => (k === 'z' ? z : y).reduce((sum, a, i) => sum + a * d[i]!, 0)),
    relative.value,
  )
}
const bends = computed(() =>
  (['z', 'y'] as const)
    .map((k) => ({ k, own: across(run.value, k), next: across(other.value, k) }))
    .filter((b) => b.own.length && (b.k === 'z' || extent(b.own) > 0.05))
    .map((b) => {
      const size = extent([...b.own, ...b.next]) || 1
      const path = (r: Run, values: readonly number[]) =>
        values
          .map(
            (v, i) =>
              `${i ? 'L' : 'M'}${x(r.x[i]!).toFixed(1)} ${(HEIGHT / 2 - (v / size) * (HEIGHT / 2 - 3)).toFixed(1)}`,
          )
          .join('')
      const most = b.own.reduce((best, v, i) => (Math.abs(v) > Math.abs(b.own[best]!) ? i : best), 0)
      return {
        ...b,
        line: path(run.value!, b.own),
        beside: other.value && b.next.length ? path(other.value, b.next) : '',
        most: `${fixed(b.own[most]!, 1)} at ${run.value!.x[most]!.toFixed(2)} m`,
      }
    }),
)
const base = computed(() => (rows.value.length + bends.value.length) * (HEIGHT + 14))
const foot = computed(() => base.value + loads.value.length * 36)
const reads = computed(() => {
  const place = cursor.value
  if (place === null || !run.value) return null
  return {
    place,
    values: shown.value.map((s) => ({
      key: s.key,
      value: valueAt(run.value!, s.key, place, envelope.value),
      least: at(run.value!.x, run.value![s.least], place),
      other: other.value ? valueAt(other.value, s.key, place, bench.besideDiagram?.kind === 'envelope') : null,
    })),
    moved: run.value.displacement.length
      ? Math.hypot(
          ...[0, 1, 2].map((k) =>
            at(
              run.value!.x,
              run.value!.displacement.map((d) => d[k]!),
              place,
            ),
          ),
        )
      : null,
  }
})
/** The combination that gives an envelope's value at the station nearest to the cursor. */
function inState(which: 'most_in' | 'least_in', key: string): string {
  const [r, place] = [run.value, cursor.value]
  const numbers = r?.[which]?.[key]
  if (!r || place === null || !numbers) return ''
  const k = r.x.reduce((best, v, i) => (Math.abs(v - place) < Math.abs(r.x[best]! - place) ? i : best), 0)
  return bench.diagram?.among?.[numbers[k]!] ?? ''
}
const read = (key: string) => {
  const found = reads.value?.values.find((v) => v.key === key)
  if (!found) return ''
  const own = envelope.value
    ? `${fixed(found.least, 1)} ${inState('least_in', key)} … ${fixed(found.value, 1)} ${inState('most_in', key)}`
    : fixed(found.value, 1)
  return found.other === null ? own : `${own} | ${fixed(found.other, 1)}`
}
function point(event: PointerEvent) {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect()
  cursor.value = Math.min(Math.max(((event.clientX - box.left) / box.width) * length.value, 0), length.value)
}
function step(by: number) {
  cursor.value = Math.min(Math.max((cursor.value ?? 0) + by * (length.value / 40), 0), length.value)
}
/** What loads the member, along its local z and y: line loads as shapes, concentrated ones as arrows. */
const loads = computed(() => {
  const r = run.value
  if (!r) return []
  const [first, last] = [r.points[0]!, r.points.at(-1)!]
  const [own, z] = [memberAxis(r), r.axis_z]
  const y = crossed(z, own)
  const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, i) => sum + v * b[i]!, 0)
  const place = (p: readonly number[]) =>
    dot(
      [0, 1, 2].map((i) => p[i]! - first[i]!),
      own,
    )
  const near = (p: readonly number[], q: readonly number[]) => Math.hypot(...p.map((v, i) => v - q[i]!)) < 1e-3
  const lines = (bench.diagram?.loads ?? []).filter((l) => l.member === r.member)
  const points = (bench.diagram?.points ?? []).filter(
    (p) => p.member === r.member || (!p.member && (near(p.at, first) || near(p.at, last))),
  )
  return ([['q_z', z], ['q_y', y]] as const) // prettier-ignore
    .map(([word, axis]) => {
      const spread = lines.map((l) => ({
        from: place(l.start),
        to: place(l.end),
        a: dot(l.first, axis),
        b: dot(l.last, axis),
      }))
      const pushes = points
        .map((p) => ({ at: place(p.at), value: dot(p.force, axis) }))
        .filter((p) => Math.abs(p.value) > 0.05)
      const most = extent(spread.flatMap((l) => [l.a, l.b]))
      // loads point towards the member: what acts along −z stands above it
      const height = (v: number) => 12 - (most ? (-v / most) * 10 : 0)
      return {
        word,
        most,
        pushes: pushes.map((p) => ({ ...p, text: fixed(p.value, 1) })),
        shapes: spread.map(
          (l) =>
            `M${x(l.from).toFixed(1)} 12L${x(l.from).toFixed(1)} ${height(l.a).toFixed(1)}L${x(l.to).toFixed(1)} ${height(l.b).toFixed(1)}L${x(l.to).toFixed(1)} 12Z`,
        ),
      }
    })
    .filter((row) => row.most > 0.005 || row.pushes.length)
})
const outer = computed(() => bench.member?.outer ?? [])
const inner = computed(() => bench.member?.inner ?? [])

const picture = useTemplateRef<SVGSVGElement>('picture')
const file = computed(() => `${bench.selected.replaceAll('/', '-')}-${bench.diagram?.state.replaceAll(':', '-')}`)
function saveTable() {
  const r = run.value!
  const names = SERIES.flatMap((s) =>
    envelope.value ? [`${s.word} greatest ${s.unit}`, `${s.word} least ${s.unit}`] : [`${s.word} ${s.unit}`],
  )
  const body = r.x.map((place, i) => [
    place,
    ...SERIES.flatMap((s) => (envelope.value ? [r[s.key][i]!, r[s.least][i]!] : [r[s.key][i]!])),
    ...(r.displacement[i] ?? []),
  ])
  const moved = r.displacement.length ? ['X mm', 'Y mm', 'Z mm'] : []
  const words = bench.origin(bench.diagram!.revision)
  save(`${file.value}.csv`, csv(['x m', ...names, ...moved, words], body))
}
function savePicture() {
  const words = `${bench.selected}, ${bench.diagram!.state}, ${bench.origin(bench.diagram!.revision)}`
  save(`${file.value}.svg`, pictureOf(picture.value!, words), 'image/svg+xml')
}
</script>

<template>
  <div v-if="run" class="chart">
    <svg
      ref="picture"
      :viewBox="`0 0 ${WIDTH} ${foot + 26}`"
      role="group"
      :aria-label="`Diagrams of ${bench.member?.label}`"
      tabindex="0"
      @pointermove="point"
      @pointerleave="cursor = null"
      @keydown.left.prevent="step(-1)"
      @keydown.right.prevent="step(1)"
    >
      <g v-for="(r, i) in rows" :key="r.key" :transform="`translate(0 ${i * (HEIGHT + 14)})`">
        <text x="0" y="9" font-size="10" fill="#5b6470">{{ r.word }} {{ r.unit }}</text>
        <text :x="WIDTH" y="9" font-size="10" text-anchor="end" fill="#1c2530" class="read">
          {{ read(r.key) || r.peaks }}
        </text>
        <g transform="translate(0 12)">
          <path v-if="r.envelope" :d="r.envelope" fill="#e6e1d6" stroke="none" />
          <line x1="0" :y1="HEIGHT / 2" :x2="WIDTH" :y2="HEIGHT / 2" stroke="#b8b09f" stroke-width="1" />
          <path :d="r.value" fill="#5f7382" fill-opacity="0.16" stroke="#3d5566" stroke-width="1.3" />
          <path v-if="r.other" :d="r.other" fill="none" stroke="#a4502a" stroke-width="1.3" stroke-dasharray="5 3" />
          <path v-if="envelope" :d="r.most" fill="none" stroke="#3d5566" stroke-width="1.3" />
        </g>
      </g>
      <g v-for="(b, i) in bends" :key="b.k" :transform="`translate(0 ${(rows.length + i) * (HEIGHT + 14)})`">
        <text x="0" y="9" font-size="10" fill="#5b6470">w_{{ b.k }} mm{{ relative ? ', from the chord' : '' }}</text>
        <text :x="WIDTH" y="9" font-size="10" text-anchor="end" fill="#1c2530">
          {{ reads ? fixed(at(run!.x, b.own, reads.place), 1) : b.most }}
        </text>
        <g transform="translate(0 12)">
          <line x1="0" :y1="HEIGHT / 2" :x2="WIDTH" :y2="HEIGHT / 2" stroke="#b8b09f" stroke-width="1" />
          <path :d="b.line" fill="none" stroke="#3d5566" stroke-width="1.3" />
          <path v-if="b.beside" :d="b.beside" fill="none" stroke="#a4502a" stroke-width="1.3" stroke-dasharray="5 3" />
        </g>
      </g>
      <g v-for="(l, i) in loads" :key="l.word" :transform="`translate(0 ${base + 4 + i * 36})`">
        <text x="0" y="6" font-size="10" fill="#5b6470">
          {{ l.word }} {{ l.most > 0.005 ? `up to ${l.most.toFixed(2)} kN/m` : '' }}
        </text>
        <g transform="translate(0 9)">
          <path v-for="(d, k) in l.shapes" :key="k" :d="d" fill="#a97b22" fill-opacity="0.16" stroke="#8a6313" />
          <g v-for="(p, k) in l.pushes" :key="`p${k}`">
            <path
              :d="`M${x(p.at)} ${p.value < 0 ? -1 : 25}V12m-3 ${p.value < 0 ? -4 : 4}l3 ${p.value < 0 ? 4 : -4}l3 ${p.value < 0 ? -4 : 4}`"
              fill="none"
              stroke="#8a6313"
              stroke-width="1.3"
            />
            <text
              :x="Math.min(Math.max(x(p.at), 14), WIDTH - 14)"
              y="-2"
              font-size="10"
              text-anchor="middle"
              fill="#6d4f10"
            >
              {{ p.text }} kN
            </text>
          </g>
          <line x1="0" y1="12" :x2="WIDTH" y2="12" stroke="#b8b09f" stroke-width="1" />
        </g>
      </g>
      <g :transform="`translate(0 ${foot + 8})`">
        <line x1="0" y1="0" :x2="WIDTH" y2="0" stroke="#1c2530" stroke-width="3" />
        <path v-for="p in outer" :key="`o${p}`" :d="`M${x(p) - 3} -7h6l-3 5z`" fill="#1c2530" />
        <path v-for="p in inner" :key="`i${p}`" :d="`M${x(p) - 3} 7h6l-3 -5z`" fill="#1c2530" />
        <text x="0" y="16" font-size="10" fill="#5b6470">0</text>
        <text :x="WIDTH" y="16" font-size="10" text-anchor="end" fill="#5b6470">{{ length.toFixed(2) }} m</text>
        <text v-if="reads" :x="WIDTH / 2" y="16" font-size="10" text-anchor="middle" fill="#1c2530">
          x = {{ reads.place.toFixed(2) }} m{{ reads.moved === null ? '' : `, moved ${reads.moved.toFixed(1)} mm` }}
        </text>
      </g>
      <line
        v-if="reads"
        :x1="x(reads.place)"
        :x2="x(reads.place)"
        y1="10"
        :y2="foot + 8"
        stroke="#1d6480"
        stroke-width="1"
      />
    </svg>
    <p class="note">Grey behind: the envelope of strength. Marks: where the outer (above) and inner flange are held.</p>
    <p class="buttons">
      <ElButton v-if="bends.length" size="small" :aria-pressed="relative" @click="relative = !relative">
        {{ relative ? 'Absolute movement' : 'From the chord' }}
      </ElButton>
      <ElButton size="small" @click="saveTable">Save CSV</ElButton>
      <ElButton size="small" @click="savePicture">Save picture</ElButton>
    </p>
  </div>
</template>

<style scoped>
.chart svg {
  display: block;
  width: calc(100% - 24px);
  margin: 4px 12px;
  font-family: var(--mono);
  cursor: crosshair;
}
</style>
