import type { Schemas } from '../api/client'

type Member = Schemas['MemberOut']
type Kind = Schemas['CheckOut']['kind']

/** The largest utilisation of a member among checks of a kind; null where it has none. */
export function mostOf(member: Member, kind: Kind): number | null {
  const own = member.checks.filter((c) => c.kind === kind).map((c) => c.utilisation)
  return own.length ? Math.max(...own) : null
}
const governs = (kind: Kind) => (m: Member) => m.status !== 'not covered' && m.checks?.[0]?.kind === kind

/** What members are looked at by in Verification; several together show what fits any of them. */
export const FILTERS = [
  { key: 'fails', label: 'fails', test: (m: Member) => m.status === 'fails' },
  { key: 'above', label: 'above 0.9', test: (m: Member) => (m.utilisation ?? 0) > 0.9 },
  { key: 'section', label: 'section governs', test: governs('section') },
  { key: 'stability', label: 'stability governs', test: governs('stability') },
  { key: 'service', label: 'deflection governs', test: governs('service') },
  { key: 'uncovered', label: 'not covered', test: (m: Member) => m.status === 'not covered' },
] as const
export type Filter = (typeof FILTERS)[number]['key']

/** The names of the members that fit any of the filters; of none, null: all are looked at. */
export function fitting(members: readonly Member[], filters: ReadonlySet<Filter>): Set<string> | null {
  const tests = FILTERS.filter((f) => filters.has(f.key))
  return tests.length ? new Set(members.filter((m) => tests.some((f) => f.test(m))).map((m) => m.name)) : null
}
