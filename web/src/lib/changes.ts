/** Changes of the document as the server takes them: items of lists by themselves, never a whole list. */

export interface Change {
  path: string
  value?: unknown
  do?: 'set' | 'add' | 'remove' | 'replace' | 'clear'
  was?: unknown
}

export const added = (path: string, ...items: readonly unknown[]): Change[] =>
  items.map((value) => ({ path, do: 'add', value }))

export const removed = (path: string, ...items: readonly unknown[]): Change[] =>
  items.map((value) => ({ path, do: 'remove', value }))

export const replaced = (path: string, was: unknown, value: unknown): Change[] => [{ path, do: 'replace', was, value }]

/** An item in place of the one of its name, or at the end where there is none. */
export const named = <T extends { name: string }>(path: string, items: readonly T[] | undefined, item: T): Change[] => {
  const was = items?.find((one) => one.name === item.name)
  return was ? replaced(path, was, item) : added(path, item)
}

/** Without the item of that name. */
export const unnamed = <T extends { name: string }>(
  path: string,
  items: readonly T[] | undefined,
  name: string,
): Change[] => removed(path, ...(items ?? []).filter((one) => one.name === name))

/** A key of a table with its value, or without it. */
export const keyed = (path: string, key: string, value: unknown): Change =>
  value === undefined ? { path: `${path}.${key}`, do: 'clear' } : { path: `${path}.${key}`, value }
