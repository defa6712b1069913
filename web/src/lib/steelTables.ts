/** Tables of what stands, many of whose cells can be written. */

import type { Schemas } from '../api/client'
import type { Operation, Table } from './ledgerTypes'
import { parseQuantity } from './quantity'
import { listsOf } from './lists'

type Member = Schemas['MemberOut']
type Change = Extract<Operation, { do?: 'change' }>['change']
const change =
  (value: (text: string) => Change | string) =>
  (key: string, text: string): Operation | string => {
    const found = value(text.trim())
    return typeof found === 'string' ? found : { do: 'change', members: [key], change: found }
  }
const BEHAVIOURS = ['beam', 'bar', 'tension-only', 'compression-only', 'rigid link'] as const
const degrees = (text: string) => {
  const value = parseQuantity(text, 'angle')
  return typeof value === 'string' ? value : { roll: value }
}
/** Directions as written: “x y z rx”, or pinned, fixed, free. */
export function readDirections(text: string): string[] | string {
  const words = text.trim().toLowerCase()
  if (words === 'pinned') return ['x', 'y', 'z', 'rz']
  if (words === 'fixed') return ['x', 'y', 'z', 'rx', 'ry', 'rz']
  if (words === 'free' || !words) return []
  const found = words.split(/[\s,]+/)
  const wrong = found.find((w) => !/^r?[xyz]$/.test(w))
  return wrong ? `“${wrong}” is no direction; directions are x y z rx ry rz, or pinned, fixed, free.` : found
}

const n = (text: string) => ({ text, number: true })

/** Members with what they are made of. */
export function steelworkTable(members: readonly Member[]): Table {
  return {
    head: [
      { text: 'Member' },
      { text: 'Role' },
      { text: 'Section', write: change((section) => (section ? { section } : 'A section is needed.')) },
      { text: 'Grade', write: change((material) => (material ? { material } : 'A grade is needed.')) },
      n('Length m'),
      { text: 'Turned °', number: true, write: change(degrees) },
      {
        text: 'Behaviour',
        write: change((text) =>
          BEHAVIOURS.includes(text as 'beam')
            ? { behaviour: text as 'beam' }
            : `One of ${BEHAVIOURS.join(', ')} is needed.`,
        ),
      },
      { text: 'Group', write: change((group) => ({ group })) },
      { text: 'Released' },
      { text: 'From' },
      n('Mass kg'),
    ],
    rows: members.map((m) => ({
      key: m.name,
      cells: [
        m.label,
        m.role,
        m.section,
        m.material,
        m.length.toFixed(3),
        Number(m.roll.toFixed(2)),
        m.behaviour,
        m.group,
        m.releases.join('; '),
        `${m.jig || 'by hand'}${m.edited ? ' · edited' : ''}`,
        Math.round(m.mass),
      ],
    })),
    empty: 'No members yet.',
  }
}

/** Nodes with their places. */
export function nodesTable(chain: Schemas['ChainOut'] | null): Table {
  const names = listsOf(chain).node_names
  const at = (key: string) => chain!.nodes[names.indexOf(key)]!
  const move = (axis: number) => (key: string, text: string) => {
    const value = parseQuantity(text, 'altitude')
    if (typeof value === 'string') return value
    const step: [number, number, number] = [0, 0, 0]
    step[axis] = value - at(key)[axis]!
    return { do: 'move' as const, members: [], nodes: [key], step }
  }
  return {
    head: [
      { text: 'Node' },
      { text: 'X m', number: true, write: move(0) },
      { text: 'Y m', number: true, write: move(1) },
      { text: 'Z m', number: true, write: move(2) },
    ],
    rows: names.map((name, i) => ({ key: name, cells: [name, ...chain!.nodes[i]!.map((x) => x.toFixed(3))] })),
    empty: 'No nodes yet.',
  }
}

type Footing = Schemas['Footing']
/** A pad as written, “2 × 2 × 0.5”, on ground like that of the one before; null where nothing is written; a sentence where it is none. */
export function readPad(text: string, before: Footing | null | undefined): Footing | null | string {
  if (!text.trim()) return null
  const sizes = text
    .split(/[\s×x*,;]+/)
    .filter(Boolean)
    .map(Number)
  if (sizes.length < 2 || sizes.length > 3 || sizes.some((size) => !(size > 0)))
    return `“${text}” is no pad; write its sides and its depth in metres: 2 × 2 × 0.5.`
  const [x, y, depth] = sizes as [number, number, number?]
  return { ...before, x, y, depth: depth ?? before?.depth ?? 0.5 } as Footing
}

/** Supports with the directions that hold. */
export function supportsTable(chain: Schemas['ChainOut'] | null): Table {
  const supports = listsOf(chain).supports
  const put = (change: (s: Schemas['SupportOut']) => Partial<Schemas['Support']> | string) => (key: string) => {
    const s = supports.find((x) => x.node === key)!
    const next = change(s)
    if (typeof next === 'string') return next
    const whole = {
      fixed: s.fixed,
      springs: s.springs,
      one_way: s.one_way,
      turn: s.turn,
      settlement: s.settlement,
      footing: s.footing,
    }
    return { do: 'support', nodes: [key], ...whole, ...next } as Operation
  }
  const number = (text: string) => parseQuantity(text || '0', 'factor')
  return {
    head: [
      { text: 'Node' },
      {
        text: 'Held',
        write: (key, text) =>
          put(() => {
            const found = readDirections(text)
            return typeof found === 'string' ? found : { fixed: found as 'x'[] }
          })(key),
      },
      { text: 'Springs kN/m, kNm/rad' },
      {
        text: 'Pushes back only',
        write: (key, text) =>
          put(() => {
            const found = readDirections(text)
            return typeof found === 'string' ? found : { one_way: found as 'x'[] }
          })(key),
      },
      {
        text: 'Own axes turned °',
        number: true,
        write: (key, text) =>
          put(() => {
            const value = number(text)
            return typeof value === 'string' ? value : { turn: value }
          })(key),
      },
      {
        text: 'Settles down mm',
        number: true,
        write: (key, text) =>
          put((s) => {
            const value = number(text)
            return typeof value === 'string' ? value : { settlement: [s.settlement[0], s.settlement[1], -value / 1000] }
          })(key),
      },
      {
        text: 'Pad footing x × y × depth m',
        write: (key, text) =>
          put((s) => {
            const footing = readPad(text, s.footing)
            return typeof footing === 'string' ? footing : { footing }
          })(key),
      },
      { text: 'From' },
    ],
    rows: supports.map((s) => ({
      key: s.node,
      cells: [
        s.node,
        s.fixed.join(' '),
        Object.entries(s.springs)
          .map(([f, k]) => `${f} ${k}`)
          .join(', '),
        s.one_way.join(' '),
        Number(s.turn.toFixed(2)),
        Number((-s.settlement[2] * 1000).toFixed(2)),
        s.footing ? `${s.footing.x} × ${s.footing.y} × ${s.footing.depth ?? 0.5}` : '',
        s.own ? 'by hand' : 'its jig',
      ],
    })),
    empty: 'No supports yet. Choose members and give their feet a support.',
  }
}

/** Sections in use, with how much of each. */
export function sectionsTable(members: readonly Member[]): Table {
  const found = new Map<string, { count: number; length: number; mass: number; grades: Set<string> }>()
  for (const m of members) {
    const s = found.get(m.section) ?? { count: 0, length: 0, mass: 0, grades: new Set<string>() }
    s.count++
    s.length += m.length
    s.mass += m.mass
    s.grades.add(m.material)
    found.set(m.section, s)
  }
  return {
    head: [{ text: 'Section' }, { text: 'Grades' }, n('Members'), n('Length m'), n('Mass kg')],
    rows: [...found]
      .sort(([, a], [, b]) => b.mass - a.mass)
      .map(([name, s]) => ({
        key: name,
        cells: [name, [...s.grades].join(', '), s.count, s.length.toFixed(2), Math.round(s.mass)],
      })),
    empty: 'No sections in use yet.',
  }
}
