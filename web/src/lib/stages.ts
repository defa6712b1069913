import type { Schemas } from '../api/client'

/** The links of the chain, in order, and the computed stage whose freshness each shows. */
export const LINKS = [
  { key: 'site', label: 'Site', computed: 'loading' },
  { key: 'frame', label: 'Frame', computed: 'structure' },
  { key: 'actions', label: 'Actions', computed: 'loading' },
  { key: 'combinations', label: 'Combinations', computed: 'combinations' },
  { key: 'response', label: 'Response', computed: 'response' },
  { key: 'verification', label: 'Verification', computed: 'verification' },
  { key: 'sizing', label: 'Sizing', computed: 'verification' },
  { key: 'dossier', label: 'Dossier', computed: 'verification' },
] as const

export type Link = (typeof LINKS)[number]['key']
export type Freshness = 'current' | 'refreshing' | 'behind' | 'broken'

const ORDER = ['structure', 'loading', 'combinations', 'response', 'verification']

/** Whether a link's numbers belong to the present revision: nothing but a comparison of fingerprints. */
export function freshness(
  link: (typeof LINKS)[number],
  project: Pick<Schemas['ProjectOut'], 'fingerprints'>,
  chain: Pick<Schemas['ChainOut'], 'fingerprints' | 'problem' | 'broken_stage'> | null,
  refreshing: boolean,
): Freshness {
  const same = chain?.fingerprints?.[link.computed] === project.fingerprints[link.computed]
  if (!chain || !same) return refreshing ? 'refreshing' : 'behind'
  if (chain.problem && ORDER.indexOf(link.computed) >= ORDER.indexOf(chain.broken_stage)) return 'broken'
  return 'current'
}
