/** Tables of what was verified. */

import type { Schemas } from '../api/client'
import { mostOf } from './filters'
import type { Table } from './ledgerTypes'
import { figures } from './temper'
import { listsOf } from './lists'

type Member = Schemas['MemberOut']
const KINDS = ['section', 'stability', 'service'] as const
const n = (text: string) => ({ text, number: true })

/** Roles with their worst utilisation. */
export function groupsTable(chain: Schemas['ChainOut'] | null): Table {
  return {
    head: [{ text: 'Role' }, { text: 'Section' }, n('Count'), { text: 'Worst utilisation', use: true }, n('Mass kg')],
    rows: [...listsOf(chain).roles]
      .sort((a, b) => (b.worst ?? 9) - (a.worst ?? 9))
      .map((r) => ({
        key: r.role,
        cells: [r.label, r.section, r.count, r.worst ?? null, Math.round(r.mass)],
        use: r.worst ?? null,
        status: r.status,
      })),
    empty: 'No members yet.',
  }
}

/** Members, the worst first. */
export function membersTable(members: readonly Member[]): Table {
  return {
    head: [
      { text: 'Member' },
      { text: 'Section' },
      n('Length m'),
      { text: 'Governs' },
      { text: 'Combination' },
      n('Cross-section'),
      n('Stability'),
      n('Deflection'),
      { text: 'Utilisation', use: true },
      n('Mass kg'),
    ],
    rows: [...members]
      .sort((a, b) => use(b) - use(a))
      .map((m) => ({
        key: m.name,
        cells: [
          m.label,
          m.section,
          m.length.toFixed(2),
          m.not_covered.length ? m.not_covered.join('; ') : m.governs,
          m.combination,
          ...KINDS.map((kind) => figures(mostOf(m, kind))),
          m.utilisation ?? null,
          Math.round(m.mass),
        ],
        use: m.utilisation ?? null,
        status: m.status,
      })),
    empty: 'No members yet.',
  }
}

const use = (m: Member) => (m.status === 'not covered' ? 9 : (m.utilisation ?? 0))

/** Members that are one piece of steel, whatever they were drawn in, each with the worst of its pieces. lines: their numbers, in order. */
export function designTable(members: readonly Member[], lines: readonly (readonly number[])[]): Table {
  const pieces = new Set(lines.flat())
  const alone = members.flatMap((_, i) => (pieces.has(i) ? [] : [[i]]))
  const found = [...lines, ...alone].map((line) => {
    const own = line.map((i) => members[i]!)
    return { own, worst: own.reduce((a, b) => (use(b) > use(a) ? b : a)) }
  })
  return {
    head: [
      { text: 'Design member' },
      { text: 'Section' },
      n('Pieces'),
      n('Length m'),
      { text: 'Governs' },
      { text: 'In' },
      { text: 'Combination' },
      ...KINDS.map((kind) => n({ section: 'Cross-section', stability: 'Stability', service: 'Deflection' }[kind])),
      { text: 'Utilisation', use: true },
      n('Mass kg'),
    ],
    rows: found
      .sort((a, b) => use(b.worst) - use(a.worst))
      .map(({ own, worst }) => ({
        key: own[0]!.name,
        cells: [
          own.length > 1 ? `${own[0]!.label} … ${own.at(-1)!.label}` : own[0]!.label,
          own[0]!.section,
          own.length,
          own.reduce((sum, m) => sum + m.length, 0).toFixed(2),
          worst.not_covered.length ? worst.not_covered.join('; ') : worst.governs,
          own.length > 1 ? worst.label : '',
          worst.combination,
          ...KINDS.map((kind) => figures(mostOfAll(own, kind))),
          worst.utilisation ?? null,
          Math.round(own.reduce((sum, m) => sum + m.mass, 0)),
        ],
        use: worst.utilisation ?? null,
        status: worst.status,
      })),
    empty: 'No members yet.',
  }
}
function mostOfAll(own: readonly Member[], kind: (typeof KINDS)[number]): number | null {
  const found = own.map((m) => mostOf(m, kind)).filter((u): u is number => u !== null)
  return found.length ? Math.max(...found) : null
}

/** Limits of deflection and sway, the worst first. */
export function deflectionTable(members: readonly Member[]): Table {
  return {
    head: [
      { text: 'Member' },
      { text: 'Criterion' },
      { text: 'Combination' },
      { text: 'In symbols' },
      { text: 'Utilisation', use: true },
    ],
    rows: members
      .flatMap((m) => m.checks.filter((c) => c.kind === 'service').map((c) => ({ m, c })))
      .sort((a, b) => b.c.utilisation - a.c.utilisation)
      .map(({ m, c }) => ({
        key: m.name,
        cells: [m.label, c.words, c.combination, c.formula, c.utilisation],
        use: c.utilisation,
      })),
    empty: 'No limit of deflection or sway acts on anything here: set them in the Verification sheet.',
  }
}
