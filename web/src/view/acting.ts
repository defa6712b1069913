/** What acts on a building and within it, in three dimensions: supports, loads, internal forces, reactions. */

import type * as THREE from 'three'
import { NATURE_COLOURS, OXIDE } from '../lib/temper'
import type { useWorkbench } from '../stores/workbench'
import { areas } from './areas'
import { dots, hinges, loads, rails, supports } from './marks'
import { proposed } from './proposed'
import { forces, largest, reactions, type Drawn, type Figure, type Shaft } from './space'

/** Height of the heaviest load in metres at least: beside a small building it stands out of its members. */
export const STANDS = 0.6

/** Of the visible members, on one scale with what is drawn beside; reach: how far the largest reaches, in metres. */
export function acting(bench: ReturnType<typeof useWorkbench>, visible: Set<string>, reach: number): Required<Drawn> {
  const objects: THREE.Object3D[] = []
  const figures: Figure[] = []
  const bands: THREE.Mesh[] = []
  const shafts: Shaft[] = []
  const diagram = bench.diagram
  objects.push(...rails(bench.lists.crane_rails, bench.lists.nodes))
  objects.push(...supports(bench.lists.supports, bench.lists.nodes, Math.min(0.8, reach / 4)))
  if (bench.stage === 'frame') {
    const seen = bench.lists.members.filter((m) => visible.has(m.name))
    objects.push(...hinges(seen, bench.lists.nodes, Math.min(0.16, reach / 14)))
    objects.push(...dots(bench.lists.nodes))
  }
  objects.push(...proposed(bench.proposed, reach))
  if (bench.trial || bench.overlays.has('actions')) {
    const lying = (bench.trial ?? diagram?.loads ?? []).filter((l) => visible.has(l.member))
    const nature = bench.chain?.cases?.find((c) => c.symbol === diagram?.state)?.nature ?? ''
    const points = bench.trial ? [] : (diagram?.points ?? [])
    const found = loads(lying, points, Math.max(reach / 2, STANDS) * bench.arrowSize, NATURE_COLOURS[nature] ?? OXIDE)
    const lain = bench.trial
      ? null
      : areas(diagram?.areas ?? [], Math.max(reach / 3, STANDS / 2) * bench.arrowSize, NATURE_COLOURS[nature] ?? OXIDE)
    objects.push(...found.objects, ...(lain?.objects ?? []))
    figures.push(...found.figures, ...(lain?.figures ?? []))
    bands.push(...(found.bands ?? []), ...(lain?.bands ?? []))
    shafts.push(...(found.shafts ?? []), ...(lain?.shafts ?? []))
  }
  if (!diagram || diagram.kind === 'mode') return { objects, figures, bands, shafts }
  const runs = diagram.runs.filter((r) => visible.has(r.member))
  if (bench.overlays.has('moment') && !bench.trial) {
    const beside = bench.paired ? (bench.besideDiagram?.runs ?? []).filter((r) => visible.has(r.member)) : []
    const most = largest([...runs, ...beside], bench.quantity)
    const envelope = diagram.kind === 'envelope'
    const found = forces(runs, bench.quantity, (reach * bench.forceSize) / most, most, envelope, envelope)
    objects.push(...found.objects)
    figures.push(...found.figures)
  }
  if (bench.overlays.has('reactions')) {
    const found = reactions(diagram.reactions, reach)
    objects.push(...found.objects)
    figures.push(...found.figures)
  }
  return { objects, figures, bands, shafts }
}
