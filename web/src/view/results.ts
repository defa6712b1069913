import { computed, onScopeDispose, ref, watch } from 'vue'
import { painter } from '../lib/colours'
import { across, curve, extremes, flat, path, type Place, type Point } from '../lib/drawing'
import { refined } from '../lib/diagram'
import { fixed } from '../lib/quantity'
import { NATURE_COLOURS } from '../lib/temper'
import type { Schemas } from '../api/client'
import { QUANTITIES, type Overlay } from '../stores/workbench'
import type { Bench, PlaneView } from './plane'

type Run = Schemas['RunOut']

/** A line load as it is drawn: on which member, between which places, and what is written beside. */
interface Block {
  key: number
  member: string
  from: Point
  to: Point
  d: string
  ticks: string
  word: string
  at: Point
}

/** What is drawn of the results: utilisation along the members, moments, movement, loads, the governing spot. */
export function useResults(bench: Bench, plane: PlaneView) {
  const { coloured, basis, inPlane, line, bounds, sheet, onSheet } = plane
  const on = (overlay: Overlay) => bench.overlays.has(overlay)
  const members = computed(() => {
    const shown = new Map(inPlane.value.map((m) => [m.name, m]))
    return (bench.diagram?.runs ?? []).flatMap((run) => {
      const member = shown.get(run.member)
      if (!member) return []
      return [
        {
          member,
          run,
          points: run.points,
          spots: (run.points as Place[]).map(onSheet),
          axis: across(basis.value, run.axis_z),
        },
      ]
    })
  })
  const paint = computed(() => painter(bench.lists.members, bench.colouring))
  /** Pieces between stations, each in the colour of the worse of its ends. */
  const pieces = computed(() =>
    coloured.value
      ? members.value.flatMap(({ member, run, spots }) =>
          spots.slice(1).flatMap((b, i) => {
            const a = spots[i]!
            if (Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-3) return []
            const ends = [run.utilisation[i], run.utilisation[i + 1]].filter((u) => typeof u === 'number')
            const u = ends.length ? Math.max(...ends) : null
            return [{ key: `${member.name}-${i}`, a, b, u, faded: bench.dimmed.has(member.name) }]
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
  /** Members whose diagram lies in the plane shown: those that bend in it; other forces are drawn across the member. */
  const bending = computed(() => {
    if (bench.quantity === 'My' || bench.quantity === 'Vz')
      return members.value.filter(({ axis }) => Math.hypot(...axis) > 0.7)
    return members.value.map((entry) => {
      const [a, b] = [entry.spots[0]!, entry.spots.at(-1)!]
      const length = Math.hypot(b[0] - a[0], b[1] - a[1])
      // on the sheet y points down
      const axis: Point = length > 1 ? [(b[1] - a[1]) / length, (b[0] - a[0]) / length] : [0, 0]
      return { ...entry, axis }
    })
  })
  /** Places on the sheet and values of a run's diagram, with what lies between the stations. */
  const drawn = (run: Run, spots: readonly Point[], straight: boolean) => {
    const { x, values } = refined(run, bench.quantity, straight)
    const [a, b, length] = [spots[0]!, spots.at(-1)!, run.x.at(-1) || 1]
    const along = x.map((v): Point => [a[0] + ((b[0] - a[0]) * v) / length, a[1] + ((b[1] - a[1]) * v) / length])
    return { x, values, spots: along }
  }
  const straight = computed(() => bench.diagram?.kind !== 'case' && bench.diagram?.kind !== 'combination')
  const most = (run: Run) => run[bench.quantity]
  const least = (run: Run) => run[`least_${bench.quantity}`]
  /** The same members in what is drawn beside. */
  const others = computed(() => {
    const runs = new Map((bench.besideDiagram?.runs ?? []).map((r) => [r.member, r]))
    return bending.value.flatMap(({ member, axis }) => {
      const run = runs.get(member.name)
      return run ? [{ member, axis, run, spots: (run.points as Place[]).map(onSheet) }] : []
    })
  })
  const largest = computed(() =>
    Math.max(
      1e-9,
      ...[...bending.value, ...others.value].flatMap(({ run }) => [...most(run), ...least(run)].map(Math.abs)),
    ),
  )
  const momentScale = computed(() => (66 * bench.forceSize) / largest.value)
  const moments = computed(() => {
    if (!on('moment')) return []
    return bending.value.flatMap(({ member, run, spots, axis }) => {
      const series = [drawn(run, spots, straight.value)]
      if (bench.diagram?.kind === 'envelope') series.push({ x: run.x, values: least(run), spots: [...spots] })
      return series.map((one, i) => {
        const top = curve(one.spots, axis, one.values, momentScale.value)
        return { key: `${member.name}-${i}`, d: path([...one.spots, ...[...top].reverse()], true) }
      })
    })
  })
  const besides = computed(() => {
    if (!on('moment') || bench.paired) return []
    return others.value.flatMap(({ member, run, spots, axis }) => {
      const series = bench.besideDiagram?.kind === 'envelope' ? [most(run), least(run)] : [most(run)]
      return series.map((values, i) => ({
        key: `${member.name}-${i}`,
        d: path([spots[0]!, ...curve(spots, axis, values, momentScale.value), spots.at(-1)!]),
      }))
    })
  })
  const momentWords = computed(() => {
    if (!on('moment')) return []
    const found: { at: Point; text: string; anchor: 'start' | 'middle' | 'end' }[] = []
    for (const { member, run, spots, axis } of bending.value) {
      const own = drawn(run, spots, straight.value)
      const values = bench.diagram?.kind === 'envelope' ? [...most(run), ...least(run)] : own.values
      const steep = member.role === 'column'
      const picks = steep ? [extremes(values.map(Math.abs))[0]] : extremes(values)
      for (const pick of picks) {
        const value = values[pick] ?? 0
        if (Math.abs(value) < largest.value * 0.15) continue
        const k = pick % own.x.length
        const base = own.spots[k]!
        const end = curve([base], axis, [value], momentScale.value)[0]!
        // at the eaves the column already says the moment
        if (
          bench.quantity === 'My' &&
          member.role === 'rafter' &&
          member.frame &&
          own.x[k]! < 0.13 * (run.x.at(-1) ?? 1)
        )
          continue
        const which = pick < own.x.length ? run.most_in : run.least_in
        const name = bench.diagram?.among?.[which?.[bench.quantity]?.[k] ?? -1]
        const said = `${fixed(value, 0)}${name ? ` ${name}` : ''}`
        found.push({
          at: [end[0], end[1] + (steep ? -7 : end[1] > base[1] ? 14 : -6)],
          text: steep || name ? said : `${said} ${QUANTITIES[bench.quantity].unit}`,
          anchor: 'middle',
        })
      }
    }
    // two slopes meet at the ridge and say the same there
    return found.filter((w, i) => !found.slice(0, i).some((o) => Math.hypot(o.at[0] - w.at[0], o.at[1] - w.at[1]) < 34))
  })
  // a movement that swings: one second there and back
  const phase = ref(1)
  let frame = 0
  function swing(time: number) {
    phase.value = Math.sin((time / 1000) * Math.PI)
    frame = requestAnimationFrame(swing)
  }
  watch(
    () => bench.swinging && on('sway'),
    (swings) => {
      cancelAnimationFrame(frame)
      phase.value = 1
      if (swings) frame = requestAnimationFrame(swing)
    },
    { immediate: true },
  )
  onScopeDispose(() => cancelAnimationFrame(frame))
  const moved = computed(() => {
    if (!on('sway')) return null
    const size = (d: readonly number[]) => Math.hypot(...across(basis.value, d))
    const own = Math.max(0, ...members.value.flatMap(({ run }) => run.displacement.map(size)))
    const next = others.value.flatMap(({ run }) => run.displacement.map(size))
    // two views side by side have one scale
    const most = bench.paired ? Math.max(own, ...next) : own
    if (!own) return null
    const fits = 34 / ((most / 1000) * sheet.value.scale)
    const times = fits * bench.movementSize
    return {
      most: own,
      times,
      lines: members.value.map(({ member, run, spots }) => ({
        key: member.name,
        d: path(
          spots.map(([x, y], i) => {
            const [dx, dy] = across(basis.value, run.displacement[i] ?? [0, 0, 0])
            const k = (times / 1000) * sheet.value.scale * phase.value
            return [x + dx * k, y - dy * k]
          }),
        ),
      })),
    }
  })
  const arrows = computed(() => {
    const s = sheet.value
    const inPlane = new Set(bench.looking?.members.map((i) => bench.chain!.members[i]!.name) ?? [])
    const loads = bench.trial?.filter((l) => inPlane.has(l.member)) ?? bench.diagram?.loads ?? []
    if ((!on('actions') && !bench.trial) || !loads.length) return { blocks: [] as Block[] }
    const turn = (v: readonly number[]) => across(basis.value, v)
    const most = Math.max(...loads.flatMap((l) => [Math.hypot(...turn(l.first)), Math.hypot(...turn(l.last))]), 1e-9)
    const mostOf = Math.max(...loads.flatMap((l) => [Math.hypot(...l.first), Math.hypot(...l.last)]))
    const unit = (26 * bench.arrowSize) / most
    const middle = (bounds.value.least[0] + bounds.value.most[0]) / 2
    const blocks: Block[] = loads.map((l, key) => {
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
      const way = Math.hypot(b[0] - a[0], b[1] - a[1])
      const count = Math.max(1, Math.round(way / 26))
      const ticks = Array.from({ length: count + 1 }, (_, i) => {
        const t = i / count
        const p: Point = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
        const q: Point = [c[0] + (d[0] - c[0]) * t, c[1] + (d[1] - c[1]) * t]
        const length = Math.hypot(q[0] - p[0], q[1] - p[1])
        // the pieces of a haunch are too short for arrows of their own
        if (length < 5 || (way < 13 && !upright)) return ''
        const [from, to] = away ? [p, q] : [q, p]
        const [ux, uy] = [(from[0] - to[0]) / length, (from[1] - to[1]) / length]
        return `M${from[0]} ${from[1]}L${to[0]} ${to[1]}M${to[0] + ux * 5 - uy * 2.5} ${to[1] + uy * 5 + ux * 2.5}L${to[0]} ${to[1]}L${to[0] + ux * 5 + uy * 2.5} ${to[1] + uy * 5 - ux * 2.5}`
      }).join('')
      // what acts towards the onlooker or away is written on its member
      const whole = Math.max(Math.hypot(...l.first), Math.hypot(...l.last))
      if (whole > 1e-9 && Math.max(Math.hypot(...first), Math.hypot(...last)) < 0.05 * whole)
        return {
          key,
          member: l.member,
          from: a,
          to: b,
          d: '',
          ticks: '',
          word: whole > mostOf * 0.05 ? `${l.first[2] < 0 || l.last[2] < 0 ? '↓' : '↑'} ${fixed(whole, 2)}` : '',
          at: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2 - 4] as Point,
        }
      const value = Math.max(Math.hypot(...first), Math.hypot(...last))
      const at: Point = upright
        ? [Math.min(a[0], c[0]) === a[0] ? Math.max(a[0], c[0]) + 18 : Math.min(a[0], c[0]) - 18, (c[1] + d[1]) / 2]
        : [(c[0] + d[0]) / 2, Math.min((c[1] + d[1]) / 2, (a[1] + b[1]) / 2) - 6]
      return {
        key,
        member: l.member,
        from: a,
        to: b,
        d: path([a, c, d, b]),
        ticks,
        word: value > most * 0.12 ? fixed(value, 2) : '',
        at,
      }
    })
    // neighbouring pieces with the same figure say it once, and no figure lies on another: the greatest stay
    const written: typeof blocks = []
    const size = (b: (typeof blocks)[number]) => parseFloat(b.word.replace(/[^\d.]/g, ''))
    for (const b of blocks.filter((o) => o.word).sort((o, p) => size(p) - size(o))) {
      const [far, room] = [b.d ? 150 : 40, 7 * b.word.length]
      const said = written.some((o) => {
        const [dx, dy] = [Math.abs(o.at[0] - b.at[0]), Math.abs(o.at[1] - b.at[1])]
        return (o.word === b.word && Math.hypot(dx, dy) < far) || (dx < room && dy < 14)
      })
      if (said) b.word = ''
      else written.push(b)
    }
    return { blocks }
  })
  /** Concentrated loads as arrows, and couples as words. */
  const pointLoads = computed(() => {
    if (!on('actions')) return []
    const found = (bench.diagram?.points ?? []).map((p, key) => ({
      key,
      p,
      parts: across(basis.value, p.force),
      at: sheet.value.at(...flat(basis.value, p.at)),
    }))
    const most = Math.max(1e-9, ...found.map(({ parts }) => Math.hypot(...parts)))
    return found.flatMap(({ key, p, parts: [h, v], at: [x, y] }) => {
      const size = Math.hypot(h, v)
      const couple = Math.hypot(...p.moment)
      if (size < 0.005 && couple < 0.005) return []
      const length = (18 + 22 * (size / most)) * bench.arrowSize
      const [ux, uy] = size ? [h / size, -v / size] : [0, 0]
      const [fx, fy] = [x - ux * length, y - uy * length]
      return [
        {
          key,
          member: p.member,
          foot: [x, y] as Point,
          node: p.member ? undefined : p.at,
          d:
            size < 0.005
              ? ''
              : `M${fx} ${fy}L${x} ${y}M${x - ux * 6 - uy * 3} ${y - uy * 6 + ux * 3}L${x} ${y}L${x - ux * 6 + uy * 3} ${y - uy * 6 - ux * 3}`,
          word: [size < 0.005 ? '' : `${fixed(size, 1)} kN`, couple < 0.005 ? '' : `${fixed(couple, 1)} kNm`]
            .filter(Boolean)
            .join(', '),
          at: [fx, fy - 4] as Point,
        },
      ]
    })
  })
  /** Reactions as arrows that point at the supports, each with its component in the plane. */
  const pushes = computed(() => {
    if (!on('reactions')) return []
    const found = (bench.diagram?.reactions ?? []).map((r) => ({
      r,
      parts: across(basis.value, r.force),
      at: sheet.value.at(...flat(basis.value, r.at)),
    }))
    // towards the onlooker: a positive moment about it turns counter-clockwise
    const [u, v] = [basis.value.u, basis.value.v]
    const out = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    return found.flatMap(({ r, parts, at: [x, y] }) => {
      const marks: { key: string; d: string; word: string; x: number; y: number; anchor: string }[] = []
      const [h, v] = parts
      if (Math.abs(v) > 0.05) {
        const up = v > 0
        const [from, to] = up ? [y + 62, y + 26] : [y + 26, y + 62]
        const tick = up ? 6 : -6
        marks.push({
          key: `${r.node}v`,
          d: `M${x} ${from}V${to}M${x - 3.5} ${to + tick}L${x} ${to}L${x + 3.5} ${to + tick}`,
          word: `${fixed(Math.abs(v), 1)}`,
          x,
          y: y + 76,
          anchor: 'middle',
        })
      }
      if (Math.abs(h) > 0.05) {
        const sense = h > 0 ? 1 : -1
        const [from, to] = [x - sense * 58, x - sense * 18]
        marks.push({
          key: `${r.node}h`,
          d: `M${from} ${y + 10}H${to}M${to - sense * 6} ${y + 6.5}L${to} ${y + 10}L${to - sense * 6} ${y + 13.5}`,
          word: `${fixed(Math.abs(h), 1)}`,
          x: from,
          y: y + 26,
          anchor: sense > 0 ? 'start' : 'end',
        })
      }
      const bend = r.moment.reduce((sum, m, i) => sum + m * out[i]!, 0)
      if (Math.abs(bend) > 0.05)
        marks.push({
          key: `${r.node}m`,
          d: '',
          word: `M ${fixed(Math.abs(bend), 1)} kNm ${bend > 0 ? '↺' : '↻'}`,
          x,
          y: y + 90,
          anchor: 'middle',
        })
      return marks
    })
  })
  const natureColour = computed(() => {
    const found = bench.chain?.cases?.find((c) => c.symbol === bench.diagram?.state)
    return NATURE_COLOURS[found?.nature ?? 'other']
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
  return {
    on,
    members,
    pieces,
    plain,
    moments,
    besides,
    momentWords,
    moved,
    arrows,
    pointLoads,
    pushes,
    natureColour,
    worst,
  }
}
