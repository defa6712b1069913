import type { Schemas } from '../api/client'

/** A verdict in a few words: what fails, what is not covered, else what it leaves out. */
export function standing(e: Schemas['EffectOut']): string {
  if (e.failing) return `${e.failing} fail`
  if (e.not_covered) return `${e.not_covered} not covered`
  if (e.worst === null) return 'nothing is verified'
  return e.left_out ? `all pass, ${e.left_out} left out` : 'all pass'
}
