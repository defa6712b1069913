/** Diagrams of one member over its length: paths, peaks, loads, and what a cursor reads. */

import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { at, bars, extent, SERIES, straightened, type Series } from '../lib/chart'
import { read as valueAt, refined } from '../lib/diagram'
import { fixed } from '../lib/quantity'
import { useWorkbench } from '../stores/workbench'

export function useMemberChart() {
  const bench = useWorkbench()
  type Run = Schemas['RunOut']
  const of = (diagram: Schemas['DiagramOut'] | null) =>
    diagram?.revision === bench.chain?.revision ? diagram?.runs.find((r) => r.member === bench.selected) : undefined
  const run = computed(() => of(bench.diagram))
  const behind = computed(() => of(bench.envelope))
  const other = computed(() => bench.besideDiagram?.runs.find((r) => r.member === bench.selected))

  const WIDTH = 286
  const HEIGHT = 46
  const cursor = ref<number | null>(null)
  const length = computed(() => run.value?.x.at(-1) ?? 1)
  const shown = computed(() =>
    SERIES.filter((s) => {
      const values = [
        ...(run.value?.[s.key] ?? []),
        ...(behind.value?.[s.key] ?? []),
        ...(behind.value?.[s.least] ?? []),
      ]
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

  return {
    run,
    WIDTH,
    HEIGHT,
    cursor,
    length,
    envelope,
    x,
    rows,
    relative,
    bends,
    base,
    foot,
    reads,
    read,
    point,
    step,
    loads,
    outer,
    inner,
  }
}
