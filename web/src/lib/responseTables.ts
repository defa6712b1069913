import type { Schemas } from '../api/client'
import type { Row, Table } from './ledgerTypes'
import { fixed, minus } from './quantity'
import { SLAB_QUANTITIES, type SlabQuantity } from './slab'

/** Tables of the Response stage: envelopes, checks of combinations, sways, decks. */

export interface Response {
  extremes: readonly Schemas['ExtremesOut'][]
  states: readonly Schemas['StateOut'][]
  sways: readonly Schemas['SwayOut'][]
  decks: readonly Schemas['DeckForcesOut'][]
  slabs: readonly Schemas['SlabRow'][]
}
type Extremes = Schemas['ExtremesOut']
/** Labels of members by name. */
type Labels = ReadonlyMap<string, string>

const n = (text: string) => ({ text, number: true })
const triple = (v: readonly number[]) => v.map((x) => fixed(x, 1)).join(' / ')
const QUANTITIES = ['N kN', 'V_y', 'V_z', 'T kNm', 'M_y', 'M_z'].flatMap((q) => [n(`${q} most`), n('least')])

/** Greatest and least of each force in turn; whole: with where they are. */
function figuresOf(e: Extremes, whole: boolean): string[] {
  const at = (place: number | undefined) => (whole ? ` at ${(place ?? 0).toFixed(2)}` : '')
  return e.most.flatMap((most, i) => [
    `${fixed(most, 1)} ${e.most_in?.[i]}${at(e.most_at?.[i])}`,
    `${fixed(e.least[i]!, 1)} ${e.least_in?.[i]}${at(e.least_at?.[i])}`,
  ])
}

/** Envelopes of members over the strength combinations. */
export function forcesTable(response: Response, labels: Labels): Table {
  return {
    head: [{ text: 'Member' }, ...QUANTITIES],
    rows: response.extremes.map((e) => {
      const name = labels.get(e.member) ?? e.member
      return { key: e.member, cells: [name, ...figuresOf(e, false)], whole: [name, ...figuresOf(e, true)] }
    }),
    empty: 'Envelopes of the members are being drawn up.',
  }
}

/** Envelopes of all members that are sized alike: of one role and section, or of a group by name. */
export function groupForcesTable(response: Response, members: readonly Schemas['MemberOut'][], labels: Labels): Table {
  const groups = new Map<string, { words: string; section: string; own: Extremes[] }>()
  const byName = new Map(members.map((m) => [m.name, m]))
  for (const e of response.extremes) {
    const m = byName.get(e.member)
    if (!m) continue
    const key = `${m.group || m.role}|${m.section}`
    const group = groups.get(key) ?? { words: m.group || m.role, section: m.section, own: [] }
    group.own.push(e)
    groups.set(key, group)
  }
  return {
    head: [{ text: 'Group' }, ...QUANTITIES],
    rows: [...groups].map(([key, { words, section, own }]): Row => {
      const figures = own[0]!.most.flatMap((_, i) => {
        const top = own.reduce((a, b) => (b.most[i]! > a.most[i]! ? b : a))
        const low = own.reduce((a, b) => (b.least[i]! < a.least[i]! ? b : a))
        return [
          { text: `${fixed(top.most[i]!, 1)} ${top.most_in[i]}`, member: top.member },
          { text: `${fixed(low.least[i]!, 1)} ${low.least_in[i]}`, member: low.member },
        ]
      })
      return {
        key,
        members: own.map((e) => e.member),
        cells: [`${own.length} × ${words} ${section}`, ...figures.map((f) => f.text)],
        titles: ['', ...figures.map((f) => labels.get(f.member) ?? f.member)],
      }
    }),
    empty: 'Envelopes of the groups are being drawn up.',
  }
}

/** What an engineer checks of every combination. */
export function statesTable(response: Response): Table {
  return {
    head: [
      { text: 'Combination' },
      { text: 'Use' },
      n('Order'),
      n('α_cr'),
      n('Applied X / Y / Z kN'),
      n('Reacted'),
      n('Moves most mm'),
      { text: 'at' },
      n('Residual'),
      { text: 'Do not act' },
      { text: 'State' },
    ],
    rows: response.states.map((s) => ({
      key: s.name,
      state: s.name,
      cells: [
        s.name,
        s.use,
        String(s.order),
        s.alpha === null || s.free ? '' : s.alpha.toFixed(2),
        triple(s.applied),
        s.free ? '' : triple(s.reacted),
        s.free ? '' : s.moved.toFixed(1),
        s.free ? '' : s.node,
        s.free ? '' : s.residual.toExponential(1),
        s.slack.join(', '),
        s.free ? 'a mechanism' : !s.stable ? 'beyond its critical load' : !s.settled ? 'finds no state' : 'stands',
      ],
      bad: !s.stable || !s.settled,
    })),
    empty: 'The checks are being drawn up.',
  }
}

const ratio = (r: number | null) => (r === null ? '' : `1/${r < 10000 ? Math.floor(r) : '10000+'}`)

/** Sway of storeys and of whole columns. */
export function swayTable(response: Response, labels: Labels): Table {
  return {
    head: [
      { text: 'Column' },
      { text: 'Grid' },
      { text: 'From – to' },
      { text: 'Combinations for' },
      n('Along X mm'),
      n('of its height'),
      { text: 'in' },
      n('Along Y mm'),
      n('of height'),
      { text: 'in ' },
    ],
    rows: response.sways.map((s) => ({
      key: `${s.member} ${s.foot} ${s.whole} ${s.use}`,
      member: s.member,
      cells: [
        labels.get(s.member) ?? s.member,
        s.grid,
        minus(`${s.foot.toFixed(2)} – ${s.head.toFixed(2)} m`) + (s.whole ? '' : ', storey'),
        s.use,
        fixed(s.sway[0]!, 1),
        ratio(s.ratio[0]!),
        s.combination[0]!,
        fixed(s.sway[1]!, 1),
        ratio(s.ratio[1]!),
        s.combination[1]!,
      ],
    })),
    empty: 'No upright columns, or no combinations for deflection and strength yet.',
  }
}

/** Forces of stiff decks in their plane. */
export function decksTable(response: Response): Table {
  return {
    head: [
      { text: 'Deck' },
      n('Along its first side kN/m'),
      { text: 'in' },
      n('Across kN/m'),
      { text: 'in ' },
      n('Shear kN/m'),
      { text: 'in  ' },
    ],
    rows: response.decks.map((d) => ({
      key: d.panel,
      cells: [d.panel, ...d.force.flatMap((f, i) => [fixed(f, 2), d.combination[i]!])],
    })),
    empty:
      'No deck acts as a membrane. Give a floor jig or a panel by hand one in the Frame sheet; rigid floors have no forces of their own.',
  }
}

/** What is greatest and least within slabs and walls. */
export function slabsTable(response: Response): Table {
  const keys = Object.keys(SLAB_QUANTITIES) as SlabQuantity[]
  const place = (at: readonly number[] | undefined) => (at ? at.map((x) => fixed(x, 2)).join(' / ') : '')
  return {
    head: [
      { text: 'Slab or wall' },
      { text: 'What' },
      n('Least'),
      { text: 'in' },
      { text: 'at X / Y / Z m' },
      n('Greatest'),
      { text: 'in ' },
      { text: 'at X / Y / Z m ' },
    ],
    rows: response.slabs.flatMap((slab) =>
      keys.map((key) => {
        const [most, least] = [slab.most[key], slab.least[key]]
        return {
          key: `${slab.name} ${key}`,
          state: most?.combination ?? least?.combination,
          cells: [
            slab.name,
            `${SLAB_QUANTITIES[key].words}, ${SLAB_QUANTITIES[key].unit}`,
            fixed(least?.value ?? 0, 1),
            least?.combination ?? '',
            place(least?.at),
            fixed(most?.value ?? 0, 1),
            most?.combination ?? '',
            place(most?.at),
          ],
        }
      }),
    ),
    empty:
      'No slab bends here. A panel by hand, or the floors of a floor jig, can be slabs that bend: Frame, held in its plane.',
  }
}
