/** The lists of a chain and of a document, each of them empty as long as there is none. */
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
  pads: [],
  local: [],
  lengths: [],
  crane_rails: [],
  limits: [],
  limits_variable: [],
  limits_frequency: [],
  limits_slenderness: [],
  secondary: [],
  snags: [],
  simplifications: [],
  planes: [],
  psi: [],
  winds: [],
} satisfies Partial<Chain>

export type Lists = Pick<Chain, keyof typeof EMPTY>
export const listsOf = (chain: Lists | null | undefined): Lists => chain ?? EMPTY

type Document = Schemas['Document']
const BLANK = {
  jigs: [],
  edits: [],
  grid: [],
  levels: [],
  crane_rails: [],
  sets: [],
  views: [],
  sections: [],
  built_sections: [],
  load_tables: [],
  materials: [],
  members: [],
  panels: [],
  cases: [],
  member_loads: [],
  node_loads: [],
  panel_loads: [],
  area_loads: [],
  settlements: [],
  combinations: [],
} satisfies Partial<Document>

export type Stated = Pick<Document, keyof typeof BLANK>
export const statedOf = (document: Stated | null | undefined): Stated => document ?? BLANK
