import { parseQuantity } from './quantity'
import type { Member } from '../stores/workbench'

/** How many neighbours are named. */
const MOST = 8

/** The value that all of them have, and “mixed” where they differ. */
function shared<T extends string | number>(values: readonly T[]): { value: T | ''; mixed: string } {
  const found = new Set(values)
  return found.size === 1 ? { value: [...found][0]!, mixed: '' } : { value: '', mixed: 'mixed' }
}

/** What chosen members have in common. */
export function commonOf(members: readonly Member[]) {
  const of = <T extends string | number>(get: (m: Member) => T) => shared(members.map(get))
  const said = (get: (m: Member) => string) => of(get).value || 'mixed'
  const [section, material, group] = [of((m) => m.section), of((m) => m.material), of((m) => m.group)]
  const roll = of((m) => Number(m.roll.toFixed(2)))
  return {
    section: section.value,
    material: material.value,
    group: group.value,
    roll: roll.value,
    mixed: { section: section.mixed, material: material.mixed, group: group.mixed, roll: roll.mixed },
    role: said((m) => m.role),
    behaviour: said((m) => m.behaviour),
    from: said((m) => m.jig || 'by hand'),
    mass: Math.round(members.reduce((sum, m) => sum + m.mass, 0)),
  }
}

/** Members that meet one at a node, those that bend before bars. */
export function neighboursOf(one: Member, members: readonly Member[]): Member[] {
  const nodes = new Set(one.line)
  return members
    .filter((m) => m.name !== one.name && m.line.some((n) => nodes.has(n)))
    .sort((a, b) => Number(a.behaviour !== 'beam') - Number(b.behaviour !== 'beam'))
    .slice(0, MOST)
}

/** A turn as typed, in degrees; a sentence where it is none. */
export function degreesOf(text: string): number | string {
  return parseQuantity(text || '0', 'angle')
}
