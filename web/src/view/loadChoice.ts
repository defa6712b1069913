/** Which load by hand is meant by a place in a view: of several there one after the other. */

import { computed } from 'vue'
import { nextOf, type Stretch } from '../lib/loadPlaces'
import { alongThere } from '../lib/loadTracks'
import type { Point } from '../lib/drawing'
import { awayFrom, within } from '../lib/surfaces'
import { useChosenLoad, type LoadKey } from '../stores/chosenLoad'
import type { Bench } from './plane'

/** Metres within which a load lies on a node. */
const ON = 1e-3

export function useLoadChoice(bench: Bench) {
  const chosen = useChosenLoad()
  // by what is asked for: while its drawing is on its way, hands stay where they are
  const ofCase = computed(() => bench.lists.cases.find((c) => c.symbol === bench.state)?.name ?? '')
  const may = computed(
    () => bench.stage === 'actions' && !!ofCase.value && bench.overlays.has('actions') && !bench.trial,
  )

  /** Choose the next of some loads of a list; whether there is one. */
  function next(key: LoadKey, there: readonly number[], beside: boolean): boolean {
    // beside others the first that is not chosen yet, else the first is left
    const found = beside
      ? (there.find((number) => !chosen.has({ key, number })) ?? there[0] ?? null)
      : nextOf(there, chosen.at?.key === key ? chosen.at.number : null)
    chosen.choose(found === null ? null : { key, number: found }, beside)
    return found !== null
  }

  /** Choose a load that acts along a stretch of a member. Generated ones belong to their jig: their member is chosen. */
  function along(name: string, there: Stretch, beside = false) {
    const of = { member: name, case: ofCase.value }
    if (!beside) bench.select(name)
    next('member_loads', alongThere(bench.stated.member_loads, of, there, bench.lists.members), beside)
  }

  /** Choose a load on the node at a place; whether there is one by hand. */
  function onNode(at: readonly number[], beside = false): boolean {
    const near = (n: readonly number[]) => n.every((x, k) => Math.abs(x - at[k]!) < ON)
    const node = bench.chain?.node_names[bench.chain.nodes.findIndex(near)]
    const of = ofCase.value
    const there = bench.stated.node_loads.flatMap((l, i) => (l.node === node && l.case === of ? [i] : []))
    return next('node_loads', there, beside)
  }

  /** Choose a pressure by hand on a panel, at a place in the panel's own coordinates or anywhere, within so many metres of lines; whether there is one. */
  function onPanel(panel: string, at: Point | null, beside = false, near = 0): boolean {
    const of = ofCase.value
    const lies = (part: readonly Point[]) =>
      !at || !part.length || (part.length > 2 && within(part, at)) || awayFrom(part, at) <= near
    const there = bench.stated.panel_loads.flatMap((l, i) =>
      l.panel === panel && l.case === of && lies(l.part ?? []) ? [i] : [],
    )
    // lines and points before what lies below them
    const below = (i: number) => Number(bench.stated.panel_loads[i]!.kind === 'area')
    there.sort((a, b) => below(a) - below(b))
    return next('panel_loads', there, beside)
  }

  return { may, ofCase, along, onNode, onPanel }
}
