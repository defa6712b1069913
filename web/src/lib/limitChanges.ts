/** What a new limit of movement changes in the rules. */

import type { Schemas } from '../api/client'
import type { Change } from './changes'
import type { Limit } from './limit'

type Rules = Schemas['Rules']
/** Where a limit stands in the rules: its ratio, and which millimetres of which roles. */
export interface Changed {
  ratio: string
  mm: 'total_mm' | 'variable_mm' | 'imposed_mm' | 'lasting_mm'
  roles: readonly string[]
}

/** The ratio, and millimetres where they are others than they were. */
export function changesOf(rules: Rules, limit: Limit, fields: readonly Changed[]): Change[] {
  return fields.flatMap(({ ratio, mm, roles }) => [
    { path: `rules.${ratio}`, value: limit.ratio },
    ...roles
      .filter((role) => (rules.limits?.[role as 'column']?.[mm] ?? null) !== limit.mm)
      .map((role) => ({ path: `rules.limits.${role}.${mm}`, value: limit.mm })),
  ])
}
