import type { Schemas } from '../api/client'

/** Terrain categories of table 4.1. */
export const TERRAIN = [
  { value: '0', label: '0 · sea, coast' },
  { value: 'I', label: 'I · lakes, flat' },
  { value: 'II', label: 'II · low vegetation' },
  { value: 'III', label: 'III · villages, forest' },
  { value: 'IV', label: 'IV · town' },
]

export const DIRECTIONS = ['left', 'right', 'front', 'back'] as const

type Site = NonNullable<Schemas['Document']['site']>

/** Where a value comes from: the service, or by hand once it was changed. */
export function originOf(site: Site | undefined, key: 'altitude' | 'ground_snow' | 'wind_speed' | 'terrain'): string {
  const source = site?.sources?.[key]
  return source && source.value === site?.[key] ? source.words : 'entered by hand'
}
