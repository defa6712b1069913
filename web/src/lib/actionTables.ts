/** Tables of cases with their loads and balance, of combinations, and of what the ground takes. */

import type { Schemas } from '../api/client'
import type { Marks, Operation, Table } from './ledgerTypes'
import { fixed, parseQuantity } from './quantity'
import { readVector } from './vectors'
import { listsOf } from './lists'

/** What the balance of a case says: that it holds, by how much it does not, or which panels lose the moment of their load. */
export function balanceOf(c: Pick<Schemas['CaseOut'], 'holds' | 'off' | 'tilted'>): string {
  if (c.holds) return 'holds'
  return c.tilted.length ? `loses the moment of ${c.tilted.join(', ')}` : `off by ${(c.off * 100).toFixed(2)} %`
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
const triple = (v: readonly number[]) => v.map((x) => fixed(x, 1)).join(' / ')

/** Reactions by support and direction, least and greatest. */
export function reactionsTable(chain: Schemas['ChainOut'] | null): Table {
  return {
    head: [
      { text: 'Support' },
      { text: 'Direction' },
      n('Least kN, kNm'),
      { text: 'in' },
      n('Greatest kN, kNm'),
      { text: 'in' },
    ],
    rows: listsOf(chain).reactions.flatMap((r) =>
      r.directions.map((d, i) => ({
        key: `${r.node} ${d}`,
        state: r.most_in[i],
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
}

/** Pad footings with what acts under them at its worst. */
export function padsTable(chain: Schemas['ChainOut'] | null): Table {
  return {
    head: [
      { text: 'Support' },
      { text: 'Pad' },
      n('Weight kN'),
      n('Pressure kN/m²'),
      { text: 'in' },
      n('Slides H / μN'),
      { text: 'in' },
      n('Least on the ground kN'),
      { text: 'in' },
      { text: 'Told' },
    ],
    rows: listsOf(chain).pads.map((p) => ({
      key: p.node,
      state: p.pressure_in,
      cells: [
        p.node,
        p.size,
        fixed(p.weight, 1),
        p.pressure === null ? 'tips over' : fixed(p.pressure, 0),
        p.pressure_in,
        p.slide === null ? 'slides' : fixed(p.slide, 2),
        p.slide_in,
        fixed(p.least, 1),
        p.least_in,
        p.told,
      ],
    })),
    empty: 'No pad footings. Give supports one in the table of supports.',
  }
}

/** Loads by hand on members. */
export function loadsTable(loads: readonly Schemas['MemberLoad'][]): Table {
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
      member: load.member,
      cells: [
        load.case,
        load.member,
        load.kind ?? 'line',
        vector(load.value),
        load.value_end ? vector(load.value_end) : '',
        String(load.start),
        load.end === null || load.end === undefined ? 'end' : String(load.end),
        `${load.axes ?? 'global'}${load.ratio ? ', shares of the length' : ''}`,
      ],
    })),
    empty: 'No loads by hand on members. Put some in the Actions sheet, By hand.',
  }
}

/** Every case with what is applied and what the supports take. */
export function balanceTable(chain: Schemas['ChainOut'] | null): Table {
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
    rows: listsOf(chain).cases.map((c) => ({
      key: c.symbol,
      state: c.symbol,
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
}

/** Combinations, with how near each comes to what governs. */
export function combinationsTable(
  chain: Schemas['ChainOut'] | null,
  marks: Marks,
  labels: ReadonlyMap<string, string>,
): Table {
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
    rows: listsOf(chain)
      .combinations.filter((c) => !marks.onlyGoverning || c.use === 'lost' || marks.of.get(c.name)?.governs !== 0)
      .map((c) => {
        const mark = marks.of.get(c.name)
        return {
          key: c.name,
          state: c.name,
          cells: [
            c.name,
            c.own ? `${c.use}, own` : c.use,
            c.rule,
            c.formula,
            mark ? String(mark.governs) : '',
            mark ? `${Math.floor(mark.share * 100)} %` : '',
            labels.get(mark?.at ?? '') ?? mark?.at ?? '',
          ],
          bad: c.use === 'lost',
        }
      }),
    empty: 'No combinations yet.',
  }
}
