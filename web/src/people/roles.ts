import type { Schemas } from '../api/client'

/** Roles in the office, with what they mean. */
export const OFFICE_ROLES: readonly { value: Schemas['Me']['role']; label: string; means: string }[] = [
  { value: 'administrator', label: 'Administrator', means: 'designs, and sees to people and the office’s data' },
  { value: 'designer', label: 'Designer', means: 'makes projects and changes those shared as editor' },
  { value: 'checker', label: 'Checker', means: 'reads what is shared, changes nothing' },
  { value: 'viewer', label: 'Viewer', means: 'looks at what is shared, changes nothing' },
]
/** As what a project is shared. */
export const SHARED_ROLES: readonly { value: Schemas['ShareOut']['role']; label: string; means: string }[] = [
  { value: 'editor', label: 'Editor', means: 'changes everything but whom it is shared with' },
  { value: 'checker', label: 'Checker', means: 'reads everything, changes nothing' },
  { value: 'viewer', label: 'Viewer', means: 'looks at everything, changes nothing' },
]
/** A moment as it is written in lists. */
export const moment = (when: string): string =>
  new Date(when).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
/** A browser by what it says of itself. */
export function browser(said: string): string {
  const name = (
    [
      ['Edg/', 'Edge'],
      ['Firefox/', 'Firefox'],
      ['Chrome/', 'Chrome'],
      ['Safari/', 'Safari'],
    ] as const
  ).find(([mark]) => said.includes(mark))?.[1]
  const system = (
    [
      ['Android', 'Android'],
      ['iPhone', 'iPhone'],
      ['Windows', 'Windows'],
      ['Mac OS', 'macOS'],
      ['Linux', 'Linux'],
    ] as const
  ).find(([mark]) => said.includes(mark))?.[1]
  return name ? `${name}${system ? ` on ${system}` : ''}` : said.slice(0, 60) || 'unknown'
}
/** What the server said against something. */
export const told = (error: unknown): string =>
  (error as Partial<Schemas['Problem']> | undefined)?.message ?? 'The server did not answer.'
