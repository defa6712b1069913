import type { Schemas } from '../api/client'
import { balanceTable, combinationsTable, loadsTable, padsTable, reactionsTable } from './actionTables'
import type { Marks, Table } from './ledgerTypes'
import {
  decksTable,
  forcesTable,
  groupForcesTable,
  slabsTable,
  statesTable,
  swayTable,
  type Response,
} from './responseTables'
import { nodesTable, sectionsTable, steelworkTable, supportsTable } from './steelTables'
import { deflectionTable, designTable, groupsTable, membersTable } from './verdictTables'
import { listsOf } from './lists'

export const TABS = [
  'Groups',
  'Steelwork',
  'Nodes',
  'Supports',
  'Sections',
  'Members',
  'Design members',
  'Deflection',
  'Reactions',
  'Footings',
  'Balance',
  'Loads',
  'Combinations',
  'Forces',
  'Group forces',
  'States',
  'Sway',
  'Decks',
  'Slabs',
] as const
export type Tab = (typeof TABS)[number]
const COMPUTED: Tab[] = [
  'Groups',
  'Members',
  'Design members',
  'Deflection',
  'Reactions',
  'Footings',
  'Balance',
  'Combinations',
]
/** Tabs of a stage: the steelwork's tables where it is set out, the computed ones elsewhere. */
export function tabsOf(stage: string): readonly Tab[] {
  if (stage === 'response')
    return [
      ...([
        'Forces',
        'Group forces',
        'States',
        'Sway',
        'Deflection',
        'Reactions',
        'Footings',
        'Decks',
        'Slabs',
      ] as const),
      ...(['Balance', 'Combinations'] as const),
    ]
  if (stage === 'actions') return ['Groups', 'Balance', 'Loads', 'Reactions', 'Combinations']
  return stage === 'frame' ? ['Groups', 'Steelwork', 'Nodes', 'Supports', 'Sections', 'Members'] : COMPUTED
}

/** What the ledger shows under a tab. */
export function ledger(
  tab: Tab,
  chain: Schemas['ChainOut'] | null,
  loads: readonly Schemas['MemberLoad'][] = [],
  marks: Marks = { of: new Map(), onlyGoverning: false },
  response: Response = { extremes: [], states: [], sways: [], decks: [], slabs: [] },
): Table {
  const members = listsOf(chain).members
  const labels = new Map(members.map((m) => [m.name, m.label]))
  const tables: Record<Tab, () => Table> = {
    Groups: () => groupsTable(chain),
    Steelwork: () => steelworkTable(members),
    Nodes: () => nodesTable(chain),
    Supports: () => supportsTable(chain),
    Sections: () => sectionsTable(members),
    Members: () => membersTable(members),
    'Design members': () => designTable(members, chain?.lines ?? []),
    Deflection: () => deflectionTable(members),
    Reactions: () => reactionsTable(chain),
    Footings: () => padsTable(chain),
    Balance: () => balanceTable(chain),
    Loads: () => loadsTable(loads),
    Combinations: () => combinationsTable(chain, marks, labels),
    Forces: () => forcesTable(response, labels),
    'Group forces': () => groupForcesTable(response, members, labels),
    States: () => statesTable(response),
    Sway: () => swayTable(response, labels),
    Decks: () => decksTable(response),
    Slabs: () => slabsTable(response),
  }
  return tables[tab]()
}
