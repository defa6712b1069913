/** The temper scale: utilisation to colour, after the tempering colours of steel. Above 1 it is always hatched too. */

export const STEPS = [
  { upTo: 0.5, colour: '#b9c4cb' },
  { upTo: 0.7, colour: '#9fb0ae' },
  { upTo: 0.85, colour: '#d3bf7c' },
  { upTo: 0.95, colour: '#c1924a' },
  { upTo: 1.0, colour: '#8a5a7d' },
]
export const OXIDE = '#a8402a'
/** What is not covered: no colour of the scale. */
export const UNCOVERED = '#ffffff'

export function temper(utilisation: number | null): string {
  if (utilisation === null) return UNCOVERED
  return STEPS.find((step) => utilisation <= step.upTo)?.colour ?? OXIDE
}

/** A utilisation in figures: rounded up at the limit, so that 1.004 never reads 1.00. */
export function figures(utilisation: number | null): string {
  if (utilisation === null) return '–'
  if (utilisation > 1 && utilisation < 1.01) return '1.01'
  // what moves almost freely has figures without a meaning
  if (utilisation >= 1000) return '> 999'
  return utilisation.toFixed(2)
}

/** Quiet, distinct colours for kinds of things (sections, roles); reused when there are more kinds. */
export const KIND_COLOURS = [
  '#4a6f87',
  '#9a6b3f',
  '#6b7f4e',
  '#7d5a86',
  '#3f8280',
  '#a3574b',
  '#8a8240',
  '#5b5fa0',
  '#7a6a5d',
  '#437a52',
  '#9c5d7b',
  '#5e7486',
]

export const NATURE_COLOURS: Record<string, string> = {
  permanent: '#6d6a63',
  imposed: '#a97b22',
  snow: '#4f93ad',
  wind: '#5c7f3b',
  other: '#56626c',
}
