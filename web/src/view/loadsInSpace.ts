/** Loads by hand in three dimensions: which is pointed at, and a mark along those that are chosen. */

import * as THREE from 'three'
import { piecesOf } from '../lib/loadTracks'
import { stretchOf } from '../lib/loadPlaces'
import { useChosenLoad, type LoadPlace } from '../stores/chosenLoad'
import { useLoadChoice } from './loadChoice'
import type { Bench } from './plane'
import { projected, type Bears, type Shaft } from './space'

/** Seen on what is chosen as well as on what is not. */
const MARK = '#ffffff'
/** Pixels within which an arrow is pointed at. */
const NEAR = 7

/** How far a point lies from the line between two others, in pixels. */
function distance([x, y]: readonly number[], [ax, ay]: readonly number[], [bx, by]: readonly number[]): number {
  const [dx, dy] = [bx! - ax!, by! - ay!]
  const t = Math.min(Math.max(((x! - ax!) * dx + (y! - ay!) * dy) / Math.max(dx * dx + dy * dy, 1e-9), 0), 1)
  return Math.hypot(ax! + t * dx - x!, ay! + t * dy - y!)
}

/** What the arrow nearest to a pixel acts on, if one is near. */
export function shaftAt(
  shafts: readonly Shaft[],
  at: readonly [number, number],
  onScreen: (p: THREE.Vector3) => readonly [number, number] | null,
): Bears | null {
  let best: { far: number; bears: Bears | null } = { far: NEAR, bears: null }
  for (const { tail, tip, bears } of shafts) {
    const [a, b] = [onScreen(tail), onScreen(tip)]
    const far = a && b ? distance(at, a, b) : Infinity
    if (far < best.far) best = { far, bears }
  }
  return best.bears
}

export function useLoadsInSpace(bench: Bench) {
  const chosen = useChosenLoad()
  const choice = useLoadChoice(bench)
  const node = (n: number) => new THREE.Vector3(...bench.chain!.nodes[n]!)

  /** Choose the load that was pointed at, or the member that bears it; false where there is neither: what lies behind is meant. */
  function choose(bears: Bears, beside: boolean): boolean {
    if (bears.on === 'node') return choice.onNode(bears.at, beside)
    if (bears.on === 'panel') return choice.onPanel(bears.panel, null, beside)
    const m = bench.lists.members.find((one) => one.name === bears.member)
    if (!m) return false
    const start = node(m.line[0]!)
    const [x, y] = [bears.from, bears.to].map((p) => start.distanceTo(new THREE.Vector3(p[0], p[1], p[2])))
    choice.along(m.name, { start: Math.min(x!, y!), end: Math.max(x!, y!) }, beside)
    return true
  }

  /** Where a chosen load acts: from place to place along its members, or at its node. */
  function placesOf({ key, number }: LoadPlace): THREE.Vector3[] {
    const onNode = key === 'node_loads' ? bench.stated.node_loads[number] : null
    if (onNode?.case === choice.ofCase.value) {
      const n = bench.chain!.node_names.indexOf(onNode.node)
      return n < 0 ? [] : [node(n), node(n)]
    }
    const load = key === 'member_loads' ? bench.stated.member_loads[number] : null
    if (!load || load.case !== choice.ofCase.value) return []
    const pieces = piecesOf([load.member, ...(load.run ?? [])], bench.lists.members)
    const end = pieces?.at(-1)
    const on = end && stretchOf(load, end.from + end.length)
    if (!pieces || !on) return []
    return pieces.flatMap(({ from, length, ends }) => {
      const [x, y] = [Math.max(on.start, from), Math.min(on.end, from + length)]
      const at = (place: number) => node(ends[0]).lerp(node(ends[1]), (place - from) / length)
      return x <= y ? [at(x), at(y)] : []
    })
  }

  /** The load that is pointed at: its arrow, or what a click met first of its band and the members. */
  function pointed(
    event: MouseEvent,
    box: DOMRect,
    camera: THREE.Camera,
    shafts: readonly Shaft[],
    hit?: THREE.Intersection,
  ) {
    if (!choice.may.value) return null
    const at = [event.clientX - box.left, event.clientY - box.top] as const
    const near = shaftAt(shafts, at, projected(camera, box.width, box.height))
    if (near || hit?.faceIndex == null) return near
    return (hit.object.userData.bears as Bears[] | undefined)?.[hit.faceIndex] ?? null
  }

  /** Rods along what is chosen, as thick as that. */
  function marks(thick: number): THREE.Object3D[] {
    if (!choice.may.value) return []
    const look = new THREE.MeshBasicMaterial({ color: MARK, transparent: true, opacity: 0.85, depthTest: false })
    return chosen.all.flatMap((place) => {
      const places = placesOf(place)
      const found: THREE.Object3D[] = []
      for (let i = 0; i < places.length; i += 2) found.push(rod(places[i]!, places[i + 1]!, thick, look))
      return found
    })
  }
  return { may: choice.may, pointed, choose, marks, chosen }
}

function rod(a: THREE.Vector3, b: THREE.Vector3, thick: number, look: THREE.Material): THREE.Mesh {
  const length = a.distanceTo(b)
  const short = length < thick
  const shape = short ? new THREE.SphereGeometry(1.6 * thick) : new THREE.CylinderGeometry(thick, thick, length, 8)
  const mesh = new THREE.Mesh(shape, look)
  mesh.position.copy(a).lerp(b, 0.5)
  if (!short) mesh.quaternion.setFromUnitVectors(new THREE.Vector3(0, 1, 0), b.clone().sub(a).normalize())
  mesh.renderOrder = 2
  return mesh
}
