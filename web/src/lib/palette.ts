/** Something that can be gone to or done by its name. */
export interface Entry {
  /** Unique among all; what is remembered of it. */
  key: string
  label: string
  kind: 'Stage' | 'View' | 'Member' | 'Case' | 'Combination' | 'Command'
  /** What else is said of it, and found by. */
  detail: string
  run: () => unknown
}

/** Entries that are listed at once. */
export const MOST = 60
const KINDS: readonly Entry['kind'][] = ['Command', 'Stage', 'View', 'Case', 'Combination', 'Member']

const plain = (text: string) => text.toLowerCase().replace(/[·“”]/g, ' ')

/** How well an entry fits the words, the smaller the better; null where one of them is not in it. */
function fit(entry: Entry, words: readonly string[]): number | null {
  const label = plain(entry.label)
  const all = `${label} ${plain(entry.detail)} ${entry.key.toLowerCase()} ${entry.kind.toLowerCase()}`
  if (!words.every((word) => all.includes(word))) return null
  const parts = label.split(/\s+/)
  const whole = words.join(' ')
  const rank =
    label === whole
      ? 0
      : label.startsWith(whole)
        ? 1
        : words.every((word) => parts.some((part) => part.startsWith(word)))
          ? 2
          : words.every((word) => label.includes(word))
            ? 3
            : 4
  return rank * KINDS.length + KINDS.indexOf(entry.kind)
}

/** The entries that fit a query, best first; of none, those chosen last and then what can be gone to from anywhere. */
export function fitting(entries: readonly Entry[], query: string, recent: readonly string[]): Entry[] {
  const words = plain(query).split(/\s+/).filter(Boolean)
  if (!words.length) {
    const last = recent.flatMap((key) => entries.find((e) => e.key === key) ?? [])
    const rest = entries.filter((e) => !last.includes(e) && ['Command', 'Stage', 'View'].includes(e.kind))
    return [...last, ...rest].slice(0, MOST)
  }
  return entries
    .map((entry, at) => ({ entry, at, rank: fit(entry, words) }))
    .filter((f) => f.rank !== null)
    .sort((a, b) => a.rank! - b.rank! || a.at - b.at)
    .slice(0, MOST)
    .map((f) => f.entry)
}
