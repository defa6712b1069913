import type { Schemas } from '../api/client'
import { mostOf } from './filters'
import { parseQuantity } from './quantity'
import { fixed } from './quantity'
import { readVector } from './vectors'
import { decksTable, forcesTable, groupForcesTable, statesTable, swayTable, type Response } from './responseTables'
import type { Cell } from './table'
import { figures } from './temper'

type Operation = Schemas['Operate']['operations'][number]
export interface Column {
  text: string
  number?: boolean
  use?: boolean
  /** What a typed value does to the row of that key; a sentence when it cannot be. */
  write?: (key: string, text: string) => Operation | string
}
/** whole: the cells as they are saved, where these say more than is shown; titles: what cells say when pointed at; member: the
 * one it stands for, where that is not the key. */
export interface Row {
  key: string
  cells: Cell[]
  whole?: Cell[]
  titles?: string[]
  member?: string
  use?: number | null
  status?: string
  bad?: boolean
}
export interface Table {
  head: Column[]
  rows: Row[]
  empty: string
}
/** What the balance of a case says: that it holds, by how much it does not, or which panels lose the moment of their load. */
export function balanceOf(c: Pick<Schemas['CaseOut'], 'holds' | 'off' | 'tilted'>): string {
  if (c.holds) return 'holds'
  return c.tilted.length ? `loses the moment of ${c.tilted.join(', ')}` : `off by ${(c.off * 100).toFixed(2)} %`
}
export const TABS = [
  'Groups',
  'Steelwork',
  'Nodes',
  'Supports',
  'Sections',
  'Members',
  'Deflection',
  'Reactions',
  'Balance',
  'Loads',
  'Combinations',
  'Forces',
  'Group forces',
  'States',
  'Sway',
  'Decks',
] as const
export type Tab = (typeof TABS)[number]
const COMPUTED: Tab[] = ['Groups', 'Members', 'Deflection', 'Reactions', 'Balance', 'Combinations']
/** Tabs of a stage: the steelwork's tables where it is set out, the computed ones elsewhere. */
export function tabsOf(stage: string): readonly Tab[] {
  if (stage === 'response')
    return ['Forces', 'Group forces', 'States', 'Sway', 'Deflection', 'Reactions', 'Decks', 'Balance', 'Combinations']
  if (stage === 'actions') return ['Groups', 'Balance', 'Loads', 'Reactions', 'Combinations']
  return stage === 'frame' ? ['Groups', 'Steelwork', 'Nodes', 'Supports', 'Sections', 'Members'] : COMPUTED
}

type Change = Extract<Operation, { do?: 'change' }>['change']
const change =
  (value: (text: string) => Change | string) =>
  (key: string, text: string): Operation | string => {
    const found = value(text.trim())
    return typeof found === 'string' ? found : { do: 'change', members: [key], change: found }
  }
const BEHAVIOURS = ['beam', 'bar', 'tension-only', 'compression-only', 'rigid link'] as const
const degrees = (text: string) => {
  const value = parseQuantity(text, 'angle')
  return typeof value === 'string' ? value : { roll: value }
}
/** Directions as written: “x y z rx”, or pinned, fixed, free. */
export function readDirections(text: string): string[] | string {
  const words = text.trim().toLowerCase()
  if (words === 'pinned') return ['x', 'y', 'z', 'rz']
  if (words === 'fixed') return ['x', 'y', 'z', 'rx', 'ry', 'rz']
  if (words === 'free' || !words) return []
  const found = words.split(/[\s,]+/)
  const wrong = found.find((w) => !/^r?[xyz]$/.test(w))
  return wrong ? `“${wrong}” is no direction; directions are x y z rx ry rz, or pinned, fixed, free.` : found
}

type LoadChange = Omit<Extract<Operation, { do?: 'load' }>, 'do' | 'number'>
const changeLoad =
  (value: (text: string) => LoadChange | string) =>
  (key: string, text: string): Operation | string => {
    const found = value(text.trim())
    return typeof found === 'string' ? found : { do: 'load', number: Number(key), ...found }
  }
function vectorOf(text: string, key: 'value' | 'value_end'): LoadChange | string {
  const found = readVector(text)
  return typeof found === 'string' ? found : { [key]: found.value }
}
function distanceOf(text: string, key: 'start' | 'end'): LoadChange | string {
  const value = parseQuantity(text, 'length')
  return typeof value === 'string' ? value : { [key]: value }
}
const vector = (v: readonly number[]) => v.map((x) => String(Number(x.toPrecision(6))).replace('-', '−')).join(', ')

const n = (text: string) => ({ text, number: true })
const KINDS = ['section', 'stability', 'service'] as const
const triple = (v: readonly number[]) => v.map((x) => fixed(x, 1)).join(' / ')
/** How near combinations come to what governs, by name, and whether those that govern nothing are hidden. */
export interface Marks {
  of: ReadonlyMap<string, Schemas['MarkOut']>
  onlyGoverning: boolean
}
/** What the ledger shows under a tab. */
export function ledger(
  tab: Tab,
  chain: Schemas['ChainOut'] | null,
  loads: readonly Schemas['MemberLoad'][] = [],
  marks: Marks = { of: new Map(), onlyGoverning: false },
  response: Response = { extremes: [], states: [], sways: [], decks: [] },
): Table {
  const members = chain?.members ?? []
  const labels = new Map(members.map((m) => [m.name, m.label]))
  switch (tab) {
    case 'Groups':
      return {
        head: [
          { text: 'Role' },
          { text: 'Section' },
          n('Count'),
          { text: 'Worst utilisation', use: true },
          n('Mass kg'),
        ],
        rows: [...(chain?.roles ?? [])]
          .sort((a, b) => (b.worst ?? 9) - (a.worst ?? 9))
          .map((r) => ({
            key: r.role,
            cells: [r.label, r.section, r.count, r.worst ?? null, Math.round(r.mass)],
            use: r.worst ?? null,
            status: r.status,
          })),
        empty: 'No members yet.',
      }
    case 'Steelwork':
      return {
        head: [
          { text: 'Member' },
          { text: 'Role' },
          { text: 'Section', write: change((section) => (section ? { section } : 'A section is needed.')) },
          { text: 'Grade', write: change((material) => (material ? { material } : 'A grade is needed.')) },
          n('Length m'),
          { text: 'Turned °', number: true, write: change(degrees) },
          {
            text: 'Behaviour',
            write: change((text) =>
              BEHAVIOURS.includes(text as 'beam')
                ? { behaviour: text as 'beam' }
                : `One of ${BEHAVIOURS.join(', ')} is needed.`,
            ),
          },
          { text: 'Group', write: change((group) => ({ group })) },
          { text: 'Released' },
          { text: 'From' },
          n('Mass kg'),
        ],
        rows: members.map((m) => ({
          key: m.name,
          cells: [
            m.label,
            m.role,
            m.section,
            m.material,
            m.length.toFixed(3),
            Number(m.roll.toFixed(2)),
            m.behaviour,
            m.group,
            m.releases.join('; '),
            `${m.jig || 'by hand'}${m.edited ? ' · edited' : ''}`,
            Math.round(m.mass),
          ],
        })),
        empty: 'No members yet.',
      }
    case 'Nodes': {
      const names = chain?.node_names ?? []
      const at = (key: string) => chain!.nodes![names.indexOf(key)]!
      const move = (axis: number) => (key: string, text: string) => {
        const value = parseQuantity(text, 'altitude')
        if (typeof value === 'string') return value
        const step: [number, number, number] = [0, 0, 0]
        step[axis] = value - at(key)[axis]!
        return { do: 'move' as const, members: [], nodes: [key], step }
      }
      return {
        head: [
          { text: 'Node' },
          { text: 'X m', number: true, write: move(0) },
          { text: 'Y m', number: true, write: move(1) },
          { text: 'Z m', number: true, write: move(2) },
        ],
        rows: names.map((name, i) => ({ key: name, cells: [name, ...chain!.nodes![i]!.map((x) => x.toFixed(3))] })),
        empty: 'No nodes yet.',
      }
    }
    case 'Supports': {
      const supports = chain?.supports ?? []
      const put = (change: (s: Schemas['SupportOut']) => Partial<Schemas['Support']> | string) => (key: string) => {
        const s = supports.find((x) => x.node === key)!
        const next = change(s)
        if (typeof next === 'string') return next
        const whole = { fixed: s.fixed, springs: s.springs, one_way: s.one_way, turn: s.turn, settlement: s.settlement }
        return { do: 'support', nodes: [key], ...whole, ...next } as Operation
      }
      const number = (text: string) => parseQuantity(text || '0', 'factor')
      return {
        head: [
          { text: 'Node' },
          {
            text: 'Held',
            write: (key, text) =>
              put(() => {
                const found = readDirections(text)
                return typeof found === 'string' ? found : { fixed: found as 'x'[] }
              })(key),
          },
          { text: 'Springs kN/m, kNm/rad' },
          {
            text: 'Pushes back only',
            write: (key, text) =>
              put(() => {
                const found = readDirections(text)
                return typeof found === 'string' ? found : { one_way: found as 'x'[] }
              })(key),
          },
          {
            text: 'Own axes turned °',
            number: true,
            write: (key, text) =>
              put(() => {
                const value = number(text)
                return typeof value === 'string' ? value : { turn: value }
              })(key),
          },
          {
            text: 'Settles down mm',
            number: true,
            write: (key, text) =>
              put((s) => {
                const value = number(text)
                return typeof value === 'string'
                  ? value
                  : { settlement: [s.settlement[0], s.settlement[1], -value / 1000] }
              })(key),
          },
          { text: 'From' },
        ],
        rows: supports.map((s) => ({
          key: s.node,
          cells: [
            s.node,
            s.fixed.join(' '),
            Object.entries(s.springs)
              .map(([f, k]) => `${f} ${k}`)
              .join(', '),
            s.one_way.join(' '),
            Number(s.turn.toFixed(2)),
            Number((-s.settlement[2] * 1000).toFixed(2)),
            s.own ? 'by hand' : 'its jig',
          ],
        })),
        empty: 'No supports yet. Choose members and give their feet a support.',
      }
    }
    case 'Sections': {
      const found = new Map<string, { count: number; length: number; mass: number; grades: Set<string> }>()
      for (const m of members) {
        const s = found.get(m.section) ?? { count: 0, length: 0, mass: 0, grades: new Set<string>() }
        s.count++
        s.length += m.length
        s.mass += m.mass
        s.grades.add(m.material)
        found.set(m.section, s)
      }
      return {
        head: [{ text: 'Section' }, { text: 'Grades' }, n('Members'), n('Length m'), n('Mass kg')],
        rows: [...found]
          .sort(([, a], [, b]) => b.mass - a.mass)
          .map(([name, s]) => ({
            key: name,
            cells: [name, [...s.grades].join(', '), s.count, s.length.toFixed(2), Math.round(s.mass)],
          })),
        empty: 'No sections in use yet.',
      }
    }
    case 'Members':
      return {
        head: [
          { text: 'Member' },
          { text: 'Section' },
          n('Length m'),
          { text: 'Governs' },
          { text: 'Combination' },
          n('Cross-section'),
          n('Stability'),
          n('Deflection'),
          { text: 'Utilisation', use: true },
          n('Mass kg'),
        ],
        rows: [...members]
          .sort(
            (a, b) =>
              (b.status === 'not covered' ? 9 : (b.utilisation ?? 0)) -
              (a.status === 'not covered' ? 9 : (a.utilisation ?? 0)),
          )
          .map((m) => ({
            key: m.name,
            cells: [
              m.label,
              m.section,
              m.length.toFixed(2),
              m.not_covered.length ? m.not_covered.join('; ') : m.governs,
              m.combination,
              ...KINDS.map((kind) => figures(mostOf(m, kind))),
              m.utilisation ?? null,
              Math.round(m.mass),
            ],
            use: m.utilisation ?? null,
            status: m.status,
          })),
        empty: 'No members yet.',
      }
    case 'Deflection':
      return {
        head: [
          { text: 'Member' },
          { text: 'Criterion' },
          { text: 'Combination' },
          { text: 'In symbols' },
          { text: 'Utilisation', use: true },
        ],
        rows: members
          .flatMap((m) =>
            (m.checks ?? [])
              .filter((c) => c.criterion === 'deflection' || c.criterion === 'sway')
              .map((c) => ({ m, c })),
          )
          .sort((a, b) => b.c.utilisation - a.c.utilisation)
          .map(({ m, c }) => ({
            key: m.name,
            cells: [m.label, c.words, c.combination, c.formula, c.utilisation],
            use: c.utilisation,
          })),
        empty: 'Deflection limits act on rafters and eaves of a hall; there are none here.',
      }
    case 'Reactions':
      return {
        head: [
          { text: 'Support' },
          { text: 'Direction' },
          n('Least kN, kNm'),
          { text: 'in' },
          n('Greatest kN, kNm'),
          { text: 'in' },
        ],
        rows: (chain?.reactions ?? []).flatMap((r) =>
          r.directions.map((d, i) => ({
            key: `${r.node} ${d}`,
            cells: [
              r.node,
              d.toUpperCase().replace('R', 'M about '),
              fixed(r.least[i]!, 1),
              r.least_in[i]!,
              fixed(r.most[i]!, 1),
              r.most_in[i]!,
            ],
          })),
        ),
        empty: 'No supports.',
      }
    case 'Loads':
      return {
        head: [
          { text: 'Case' },
          { text: 'Member' },
          { text: 'Kind' },
          { text: 'Value x y z', number: true, write: changeLoad((text) => vectorOf(text, 'value')) },
          { text: 'At its end', number: true, write: changeLoad((text) => vectorOf(text, 'value_end')) },
          { text: 'From', number: true, write: changeLoad((text) => distanceOf(text, 'start')) },
          { text: 'To', number: true, write: changeLoad((text) => distanceOf(text, 'end')) },
          { text: 'Axes' },
        ],
        rows: loads.map((load, i) => ({
          key: String(i),
          cells: [
            load.case,
            load.member,
            load.kind ?? 'line',
            vector(load.value),
            load.value_end ? vector(load.value_end) : '',
            String(load.start ?? 0),
            load.end === null || load.end === undefined ? 'end' : String(load.end),
            `${load.axes ?? 'global'}${load.ratio ? ', shares of the length' : ''}`,
          ],
        })),
        empty: 'No loads by hand on members. Put some in the Actions sheet, By hand.',
      }
    case 'Balance':
      return {
        head: [
          { text: 'Case' },
          { text: 'Name' },
          { text: 'What it is' },
          n('Expected X / Y / Z kN'),
          n('To the ground'),
          n('Applied'),
          n('Reacted'),
          { text: 'Balance' },
        ],
        rows: (chain?.cases ?? []).map((c) => ({
          key: c.symbol,
          cells: [
            c.symbol,
            c.name,
            c.note,
            triple(c.expected),
            c.ground.some((v) => Math.abs(v) >= 0.05) ? triple(c.ground) : '',
            triple(c.applied),
            triple(c.reacted),
            balanceOf(c),
          ],
          bad: !c.holds,
        })),
        empty: 'No cases yet.',
      }
    case 'Forces':
      return forcesTable(response, labels)
    case 'Group forces':
      return groupForcesTable(response, members, labels)
    case 'States':
      return statesTable(response)
    case 'Sway':
      return swayTable(response, labels)
    case 'Decks':
      return decksTable(response)
    default:
      return {
        head: [
          { text: 'Name' },
          { text: 'Use' },
          { text: 'By' },
          { text: 'In symbols' },
          n('Governs'),
          n('Reaches, of what governs'),
          { text: 'at' },
        ],
        rows: (chain?.combinations ?? [])
          .filter((c) => !marks.onlyGoverning || c.use === 'lost' || marks.of.get(c.name)?.governs !== 0)
          .map((c) => {
            const mark = marks.of.get(c.name)
            return {
              key: c.name,
              cells: [
                c.name,
                c.own ? `${c.use}, own` : c.use,
                c.rule,
                c.formula,
                mark ? String(mark.governs) : '',
                mark ? `${Math.floor(mark.share * 100)} %` : '',
                mark?.at ?? '',
              ],
              bad: c.use === 'lost',
            }
          }),
        empty: 'No combinations yet.',
      }
  }
}
