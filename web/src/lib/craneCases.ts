/** Cases of a crane that stands at a frame: the heavier end on either rail, pushing across either way. */

import type { Schemas } from '../api/client'

type Case = Pick<Schemas['CaseInput'], 'name' | 'nature' | 'excludes'>
type Load = Pick<Schemas['NodeLoad'], 'case' | 'node' | 'force'>

/** What a crane presses on a frame with, in kN: on the rail that it is nearer to, on the other one, and across on both together. */
export interface Wheels {
  most: number
  least: number
  across: number
}

/** The cases and their loads at pairs of nodes that are opposite each other, by number from the first frame of the rails. They never act
 * together. force: of a kilonewton in the document's unit. */
export function craneCases(
  rails: Pick<Schemas['RailsOut'], 'name' | 'pairs' | 'across'>,
  at: readonly number[],
  wheels: Wheels,
  nodes: readonly string[],
  force: number,
): { cases: Case[]; loads: Load[] } {
  const cases: Case[] = []
  const loads: Load[] = []
  for (const number of at)
    for (const heavy of [0, 1])
      for (const way of wheels.across ? [1, -1] : [0]) {
        const side = way ? `, ${way > 0 ? '→' : '←'}` : ''
        const name = `${rails.name} at ${number + 1}, ${heavy ? 'second' : 'first'} rail${side}`
        cases.push({ name, nature: 'crane', excludes: rails.name })
        for (const rail of [0, 1]) {
          const [x, y] = rails.across.map((v) => tidy((v * way * wheels.across * force) / 2))
          const down = -(rail === heavy ? wheels.most : wheels.least) * force
          loads.push({ case: name, node: nodes[rails.pairs[number]![rail]!]!, force: [x!, y!, down] })
        }
      }
  return { cases, loads }
}

const tidy = (value: number) => Number(value.toFixed(6)) + 0
