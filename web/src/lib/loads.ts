type Vector = [number, number, number]
type Axes = 'global' | 'local' | 'projected'

/** Directions in which loads act, as engineers say them. */
export const TOWARDS = {
  down: { words: 'down', axes: 'global', unit: [0, 0, -1] },
  plan: { words: 'down, per metre of plan', axes: 'projected', unit: [0, 0, -1] },
  X: { words: '+X, across the hall', axes: 'global', unit: [1, 0, 0] },
  Y: { words: '+Y, along the hall', axes: 'global', unit: [0, 1, 0] },
  Z: { words: '+Z, up', axes: 'global', unit: [0, 0, 1] },
  x: { words: 'along the member', axes: 'local', unit: [1, 0, 0] },
  y: { words: 'local y, sideways', axes: 'local', unit: [0, 1, 0] },
  z: { words: 'local z, off the inner flange', axes: 'local', unit: [0, 0, 1] },
} as const satisfies Record<string, { words: string; axes: Axes; unit: readonly number[] }>
export type Towards = keyof typeof TOWARDS

/** The vector of a load of that size. */
export function components(towards: Towards, size: number): { value: Vector; axes: Axes } {
  const { unit, axes } = TOWARDS[towards]
  return { value: unit.map((u) => (u ? u * size : 0)) as Vector, axes }
}

/** Members in the order in which they follow one another end to end, or what is wrong. nodes: of each, first to last. */
export function inRun(members: readonly { name: string; nodes: readonly number[] }[]): string[] | string {
  const left = new Map(members.map((m) => [m.name, [m.nodes[0]!, m.nodes.at(-1)!] as const]))
  const count = new Map<number, number>()
  for (const ends of left.values()) for (const end of ends) count.set(end, (count.get(end) ?? 0) + 1)
  const free = members.find((m) => left.get(m.name)!.some((end) => count.get(end) === 1))
  if (!free) return 'The chosen members close a ring; a run has two ends.'
  let at = left.get(free.name)!.find((end) => count.get(end) === 1)!
  const found: string[] = []
  while (left.size) {
    const next = [...left].filter(([, ends]) => ends.includes(at))
    if (next.length !== 1) return 'The chosen members do not follow one another end to end.'
    const [name, [a, b]] = next[0]!
    found.push(name)
    left.delete(name)
    at = a === at ? b : a
  }
  return found
}

/** Where on a member: “” the whole of it, “1 – 3.5” metres from its start, “50 %” a share of its length. */
export function readStretch(text: string): { start: number; end: number | null; ratio: boolean } | string {
  const source = text.trim().replaceAll(',', '.')
  if (!source) return { start: 0, end: null, ratio: false }
  const ratio = source.includes('%')
  const parts = source
    .replaceAll('%', ' ')
    .split(/[\s–;]+|-/)
    .filter(Boolean)
    .map(Number)
  if (!parts.length || parts.length > 2 || !parts.every((p) => Number.isFinite(p) && p >= 0))
    return `“${text}” is no stretch; write 1 – 3.5 in metres, or 25 – 75 %.`
  const [start, end] = parts.map((p) => (ratio ? p / 100 : p))
  if (ratio && Math.max(start!, end ?? 0) > 1) return 'A share of the length ends at 100 %.'
  return { start: start!, end: end ?? null, ratio }
}

/** Which spans of a continuous beam are loaded: all, every other one from the first and from the second, and two that follow one
 * another (where there are more than two): the arrangements for the greatest moments in spans and over supports. */
export function spanPatterns(count: number): { words: string; takes: boolean[] }[] {
  const spans = Array.from({ length: count }, (_, i) => i)
  const found = [
    { words: 'all spans', takes: spans.map(() => true) },
    { words: 'odd spans', takes: spans.map((i) => i % 2 === 0) },
    { words: 'even spans', takes: spans.map((i) => i % 2 === 1) },
  ]
  if (count > 2)
    for (let k = 0; k + 1 < count; k++)
      found.push({ words: `spans ${k + 1} and ${k + 2}`, takes: spans.map((i) => i === k || i === k + 1) })
  return found
}

/** One step of a load that changes along a member: from the end of the step before it to `to` (null: the end of the member). */
export interface Step {
  start: number
  end: number | null
  first: number
  last: number
  ratio: boolean
}

/**
 * Steps along a member as written: “-6:3 -2:8.2 1” is −6 as far as 3 m, −2 as far as 8.2 m and 1 from there on; “2/5:3” runs from 2
 * to 5, “4:50%” as far as half of the length. Null where none are written, a sentence where they are wrong.
 */
export function readSteps(text: string): Step[] | string | null {
  const source = text.trim().replaceAll('−', '-').replaceAll(',', '.')
  if (!source.includes(':')) return null
  const found: Step[] = []
  const parts = source.split(/[\s;]+/).filter(Boolean)
  const ratio = source.includes('%')
  for (const [i, part] of parts.entries()) {
    const match = /^(-?\d*\.?\d+)(?:\/(-?\d*\.?\d+))?(?::(\d*\.?\d+)(%?))?$/.exec(part)
    if (!match) return `“${part}” is no step; write size:as far as, for instance -6:3 -2:8.2 1.`
    const [, first, last, to, percent] = match
    if (!to && i < parts.length - 1)
      return `“${part}” does not say how far it goes; only the last step may go to the end.`
    if (to && (percent === '%') !== ratio) return 'Write all steps in metres, or all of them in %.'
    const start = found.at(-1)?.end ?? 0
    const end = to ? Number(to) / (ratio ? 100 : 1) : null
    if (end !== null && end <= start) return `“${part}” ends where it starts or before it.`
    if (ratio && (end ?? 0) > 1) return 'A share of the length ends at 100 %.'
    found.push({ start, end, first: Number(first), last: Number(last ?? first), ratio })
  }
  return found.filter((step) => step.first || step.last)
}
