import type { Schemas } from '../api/client'

type Ribbon = Schemas['RibbonOut']
export type Flange = 'outer' | 'inner'
/** Places nearer than this are one, m. */
export const SAME = 1e-3
/** Places go by this where nothing is near, m. */
const STEP = 0.05

const inside = (places: readonly number[], length: number) => places.filter((x) => x > SAME && x < length - SAME)
/** What holds a flange between the ends. */
export const marks = (ribbon: Ribbon, flange: Flange) =>
  inside(flange === 'outer' ? ribbon.outer : ribbon.inner, ribbon.length)
const other = (flange: Flange): Flange => (flange === 'outer' ? 'inner' : 'outer')

/** Where what is put at a place comes to lie: at what holds the other flange within `near`, else at a round figure; null where the
 * flange is held there already, and at its ends. */
export function snapped(ribbon: Ribbon, flange: Flange, at: number, near: number): number | null {
  const opposite = marks(ribbon, other(flange))
  const close = opposite.reduce((best, x) => (Math.abs(x - at) < Math.abs(best - at) ? x : best), Infinity)
  const place = Math.abs(close - at) <= near ? close : Math.round(at / STEP) * STEP
  const found = Number(place.toFixed(4))
  if (found < STEP || found > ribbon.length - STEP) return null
  return marks(ribbon, flange).some((x) => Math.abs(x - found) < STEP) ? null : found
}

/** Places from the first on at a spacing, as far as the member reaches, without those that are held. */
export function repeated(ribbon: Ribbon, flange: Flange, first: number, spacing: number): number[] {
  const found: number[] = []
  if (spacing < STEP) return found
  for (let k = 0; first + k * spacing < ribbon.length - SAME && found.length < 200; k++) {
    const x = Number((first + k * spacing).toFixed(4))
    if (x > SAME && !marks(ribbon, flange).some((held) => Math.abs(held - x) < SAME)) found.push(x)
  }
  return found
}

/** Stretches along which a flange is compressed: where a sagging moment presses the outer one, a hogging one the inner. */
export function compressed(x: readonly number[], My: readonly number[], flange: Flange): [number, number][] {
  const presses = My.map((m) => (flange === 'outer' ? m : -m))
  const found: [number, number][] = []
  let from: number | null = null
  for (let i = 0; i < x.length; i++) {
    const [now, before] = [presses[i]!, presses[i - 1] ?? 0]
    const crossing = i ? x[i - 1]! + ((x[i]! - x[i - 1]!) * before) / (before - now || 1) : x[i]!
    if (now > 0 && from === null) from = i && before < 0 ? crossing : i && before === 0 ? x[i - 1]! : x[i]!
    if (now <= 0 && from !== null) {
      found.push([from, before > 0 ? crossing : x[i]!])
      from = null
    }
  }
  if (from !== null) found.push([from, x.at(-1)!])
  return found.filter(([a, b]) => b - a > SAME)
}

/** Members whose restraints a pattern goes onto: of the same role, section and length, without itself. */
export function alike(members: readonly Schemas['MemberOut'][], of: Schemas['MemberOut']): string[] {
  return members
    .filter(
      (m) =>
        m.name !== of.name && m.role === of.role && m.section === of.section && Math.abs(m.length - of.length) < 0.01,
    )
    .map((m) => m.name)
}

/** Of values written along a line at abscissas, above where negative and below where positive, those that have room: of two too near on one side
 * the larger. */
export function roomFor(words: readonly { x: number; value: number }[], room: number): number[] {
  const kept: number[] = []
  const order = words.map((_, i) => i).sort((a, b) => Math.abs(words[b]!.value) - Math.abs(words[a]!.value))
  for (const i of order) {
    const { x, value } = words[i]!
    const beside = (k: number) => Math.sign(words[k]!.value) === Math.sign(value) && Math.abs(words[k]!.x - x) < room
    if (!kept.some(beside)) kept.push(i)
  }
  return kept.sort((a, b) => a - b)
}
