import type { Schemas } from '../api/client'
import type { Colouring } from '../stores/workbench'
import { KIND_COLOURS, temper } from './temper'

type Member = Schemas['MemberOut']

/** What a member is grouped by under a colouring. */
export function kindOf(member: Member, colouring: Colouring): string {
  if (colouring === 'section') return member.section
  if (colouring === 'grade') return member.material
  if (colouring === 'role') return member.role
  if (colouring === 'group') return member.group || 'no group'
  if (colouring === 'storey') return member.storey || 'no storey'
  return ''
}

/** Kinds present among the members, most frequent first, each with its colour. */
export function legend(
  members: readonly Member[],
  colouring: Colouring,
): { kind: string; colour: string; count: number }[] {
  const counts = new Map<string, number>()
  for (const m of members) {
    const kind = kindOf(m, colouring)
    if (kind) counts.set(kind, (counts.get(kind) ?? 0) + 1)
  }
  return [...counts]
    .sort(([a, n], [b, m]) => m - n || a.localeCompare(b))
    .map(([kind, count], i) => ({ kind, count, colour: KIND_COLOURS[i % KIND_COLOURS.length]! }))
}

/** The kinds of some of the members, with the colours they have among all. */
export function legendOf(all: readonly Member[], shown: readonly Member[], colouring: Colouring) {
  const present = new Set(shown.map((m) => kindOf(m, colouring)))
  return legend(all, colouring).filter((k) => present.has(k.kind))
}

/** The colour of every member under a colouring. */
export function painter(members: readonly Member[], colouring: Colouring): (m: Member) => string {
  if (colouring === 'utilisation') return (m) => temper(m.status === 'not covered' ? null : (m.utilisation ?? null))
  if (colouring === 'nothing') return () => '#56626c'
  const colours = new Map(legend(members, colouring).map((k) => [k.kind, k.colour]))
  return (m) => colours.get(kindOf(m, colouring)) ?? '#56626c'
}
