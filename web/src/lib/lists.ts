/** The lists of a chain, each of them empty as long as there is none. */
import type { Schemas } from '../api/client'

type Chain = Schemas['ChainOut']
const EMPTY = {
  members: [],
  cases: [],
  combinations: [],
  grid: [],
  levels: [],
  panels: [],
  nodes: [],
  node_names: [],
  supports: [],
  roles: [],
  reactions: [],
  local: [],
  lengths: [],
  limits: [],
  limits_variable: [],
  limits_slenderness: [],
  secondary: [],
  snags: [],
  simplifications: [],
} satisfies Partial<Chain>

export type Lists = Pick<Chain, keyof typeof EMPTY>
export const listsOf = (chain: Lists | null | undefined): Lists => chain ?? EMPTY
