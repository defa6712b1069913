/** The building as seen from a corner, its members by what a sizing makes of them. */
import type { Point } from './drawing'

export type Change = 'lighter' | 'heavier' | 'other' | 'kept'
type Group = { name: string; members: readonly string[] }
type Sized = { name: string; mass_before: number; mass_after: number }

/** kg by which a mass has to differ to be another. */
const SAME = 0.5

/** What becomes of each member: the mass of its group falls, rises, or stays though its section is another. */
export function changesOf(groups: readonly Group[], sized: readonly Sized[], changed: ReadonlySet<string>) {
  const found = new Map<string, { group: string; change: Change }>()
  const by = new Map(sized.map((s) => [s.name, s.mass_after - s.mass_before]))
  for (const group of groups) {
    const more = by.get(group.name) ?? 0
    const change: Change = !changed.has(group.name)
      ? 'kept'
      : more < -SAME
        ? 'lighter'
        : more > SAME
          ? 'heavier'
          : 'other'
    for (const name of group.members) found.set(name, { group: group.name, change })
  }
  return found
}

/** Points of space on paper, from far away at a bearing (degrees from X towards Y) and a tilt, within a box of some size with a margin. */
export function seen(
  points: readonly (readonly number[])[],
  bearing: number,
  tilt: number,
  box: Point,
  margin: number,
) {
  const [a, b] = [(bearing * Math.PI) / 180, (tilt * Math.PI) / 180]
  const flat = points.map(([x = 0, y = 0, z = 0]): Point => [
    -Math.sin(a) * x + Math.cos(a) * y,
    -(-Math.sin(b) * (Math.cos(a) * x + Math.sin(a) * y) + Math.cos(b) * z),
  ])
  if (!flat.length) return flat
  const [us, vs] = [flat.map((p) => p[0]), flat.map((p) => p[1])]
  const [u0, v0] = [Math.min(...us), Math.min(...vs)]
  const [wide, high] = [Math.max(...us) - u0, Math.max(...vs) - v0]
  const scale = Math.min((box[0] - 2 * margin) / (wide || 1), (box[1] - 2 * margin) / (high || 1))
  const [dx, dy] = [(box[0] - wide * scale) / 2, (box[1] - high * scale) / 2]
  return flat.map(([u, v]): Point => [dx + (u - u0) * scale, dy + (v - v0) * scale])
}
