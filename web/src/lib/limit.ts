/** Limits of movement as engineers write them: "250" or "L/250", "25 mm", or both with a comma, of which what allows less holds. */

import { parseQuantity, shown } from './quantity'

export interface Limit {
  /** length over movement; null: as the role has it, 0: none */
  ratio: number | null
  mm: number | null
}

/** As it is written; without a ratio the millimetres stand alone. */
export function limitText({ ratio, mm }: Limit): string {
  const parts = [ratio === null || (!ratio && mm) ? '' : shown(ratio), mm ? `${shown(mm)} mm` : '']
  return parts.filter(Boolean).join(', ')
}

/** What was written, or a sentence that says what is wrong. Nothing at all leaves it to the role. */
export function readLimit(text: string): Limit | string {
  const found: Limit = { ratio: null, mm: null }
  for (const part of text.split(/;|,\s+/).map((p) => p.trim())) {
    if (!part) continue
    const length = /^(.*?)\s*(mm|cm)$/.exec(part)
    const value = parseQuantity(length ? length[1]! : part.replace(/^[Llh]\s*\//, ''), 'factor')
    if (typeof value === 'string') return value
    if (value < 0) return 'A limit is not negative.'
    const key = length ? 'mm' : 'ratio'
    if (found[key] !== null) return length ? 'Millimetres are stated twice.' : 'A ratio is stated twice.'
    found[key] = length?.[2] === 'cm' ? value * 10 : value
  }
  if (found.mm !== null && found.ratio === null) found.ratio = 0
  return found
}
