import * as THREE from 'three'
import type { Seen } from '../lib/loadTracks'
import { refined } from '../lib/diagram'
import { fixed } from '../lib/quantity'
import type { Schemas } from '../api/client'
import { QUANTITIES, type Quantity } from '../stores/workbench'

/** What is drawn of the response on the whole building: forces along members, reactions, and the figures at their peaks. */

type Run = Schemas['RunOut']
/** A figure at a place in space; most: how much it matters beside the others. */
export interface Figure {
  at: THREE.Vector3
  text: string
  most: number
}
/** What a load acts on that can be pointed at: a stretch of a member, a node, or a panel. */
export type Bears =
  | { on: 'member'; member: string; from: readonly number[]; to: readonly number[] }
  | { on: 'node'; at: readonly number[] }
  | { on: 'panel'; panel: string }
/** An arrow of a load, to point at. */
export interface Shaft {
  tail: THREE.Vector3
  tip: THREE.Vector3
  bears: Bears
}
/** bands: faces of loads whose user data say what each triangle of them bears on. */
export interface Drawn {
  objects: THREE.Object3D[]
  figures: Figure[]
  bands?: THREE.Mesh[]
  shafts?: Shaft[]
}
const FORCE = '#3d5566'
const PUSH = '#2f6b4f'
const MOST_FIGURES = 40

/** Local z of a member, or its y for what bends about the other axis: where values are drawn to. */
function sideOf(run: Run, quantity: Quantity): THREE.Vector3 {
  const z = new THREE.Vector3(...run.axis_z)
  if (quantity !== 'Mz' && quantity !== 'Vy') return z
  const [first, last] = [run.points[0]!, run.points.at(-1)!]
  const x = new THREE.Vector3(last[0] - first[0], last[1] - first[1], last[2] - first[2]).normalize()
  return z.cross(x)
}

/** The largest size of a force over runs. */
export function largest(runs: readonly Run[], quantity: Quantity): number {
  let most = 1e-9
  for (const run of runs)
    for (const list of [run[quantity], run[`least_${quantity}`]])
      for (const v of list) most = Math.max(most, Math.abs(v))
  return most
}

/** Diagrams of a force as bands beside the members, drawn on the tension side; scale: metres per kN or kNm. */
export function forces(
  runs: readonly Run[],
  quantity: Quantity,
  scale: number,
  most: number,
  straight: boolean,
  envelope: boolean,
): Drawn {
  const faces: number[] = []
  const edges: number[] = []
  const figures: Figure[] = []
  for (const run of runs) {
    const side = sideOf(run, quantity)
    const [a, b] = [new THREE.Vector3(...run.points[0]!), new THREE.Vector3(...run.points.at(-1)!)]
    const length = run.x.at(-1) || 1
    const series = [refined(run, quantity, straight)]
    if (envelope) series.push({ x: run.x, values: run[`least_${quantity}`] })
    for (const { x, values } of series) {
      const foot = x.map((v) => a.clone().lerp(b, v / length))
      const top = foot.map((p, i) => p.clone().addScaledVector(side, -values[i]! * scale))
      for (let i = 1; i < x.length; i++) {
        const [p, q, r, s] = [foot[i - 1]!, foot[i]!, top[i]!, top[i - 1]!]
        for (const v of [p, q, r, p, r, s]) faces.push(v.x, v.y, v.z)
        edges.push(s.x, s.y, s.z, r.x, r.y, r.z)
      }
      for (const end of [0, x.length - 1]) edges.push(...foot[end]!.toArray(), ...top[end]!.toArray())
      const k = values.reduce((best, v, i) => (Math.abs(v) > Math.abs(values[best]!) ? i : best), 0)
      if (Math.abs(values[k]!) >= 0.25 * most)
        figures.push({ at: top[k]!, text: fixed(values[k]!, 0), most: Math.abs(values[k]!) })
    }
  }
  figures.sort((p, q) => q.most - p.most)
  if (figures[0]) figures[0].text += ` ${QUANTITIES[quantity].unit}`
  const band = new THREE.Mesh(
    new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(faces, 3)),
    new THREE.MeshBasicMaterial({
      color: FORCE,
      transparent: true,
      opacity: 0.2,
      side: THREE.DoubleSide,
      depthWrite: false,
    }),
  )
  return { objects: [band, lines(edges, FORCE)], figures: figures.slice(0, MOST_FIGURES) }
}

function lines(places: readonly number[], color: string): THREE.LineSegments {
  return new THREE.LineSegments(
    new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(places, 3)),
    new THREE.LineBasicMaterial({ color }),
  )
}

/** Reactions as arrows that point at the supports, one a direction; reach: length of the longest, metres. */
export function reactions(pushes: readonly Schemas['PushOut'][], reach: number): Drawn {
  const most = Math.max(1e-9, ...pushes.flatMap((p) => p.force.map(Math.abs)))
  const edges: number[] = []
  const figures: Figure[] = []
  for (const push of pushes) {
    const at = new THREE.Vector3(...push.at)
    push.force.forEach((value, axis) => {
      if (Math.abs(value) < 0.01 * most || Math.abs(value) < 0.05) return
      const along = new THREE.Vector3().setComponent(axis, Math.sign(value))
      const length = Math.max((Math.abs(value) / most) * reach, 0.12 * reach)
      const tail = at.clone().addScaledVector(along, -length)
      const across = new THREE.Vector3().setComponent(axis === 2 ? 0 : 2, 0.06 * reach)
      edges.push(...tail.toArray(), ...at.toArray())
      for (const sense of [1, -1]) {
        const barb = at
          .clone()
          .addScaledVector(along, -0.14 * reach)
          .addScaledVector(across, sense)
        edges.push(...barb.toArray(), ...at.toArray())
      }
      if (Math.abs(value) > 0.1 * most)
        figures.push({ at: tail, text: `${'XYZ'[axis]} ${fixed(value, 1)}`, most: Math.abs(value) })
    })
  }
  figures.sort((p, q) => q.most - p.most)
  if (figures[0]) figures[0].text += ' kN'
  return { objects: edges.length ? [lines(edges, PUSH)] : [], figures: figures.slice(0, MOST_FIGURES) }
}

/** The place of a point in a picture of that size; null behind the eye. */
export const projected =
  (camera: THREE.Camera, width: number, height: number) =>
  (p: THREE.Vector3): [number, number] | null => {
    const q = p.clone().project(camera)
    return q.z > 1 ? null : [((q.x + 1) / 2) * width, ((1 - q.y) / 2) * height]
  }

/** Where places are seen from where a camera stands now, in pixels, and how far from it along the way it looks. */
export function seenFrom(camera: THREE.Camera, width: number, height: number) {
  const [onScreen, look] = [projected(camera, width, height), camera.matrixWorldInverse.clone()]
  return (p: readonly number[]): Seen | null => {
    const at = new THREE.Vector3(p[0], p[1], p[2])
    const spot = onScreen(at)
    return spot && [...spot, -at.applyMatrix4(look).z]
  }
}

/** Figures that have room, the ones that matter most first, as places in pixels. */
export function placed(
  figures: readonly Figure[],
  camera: THREE.Camera,
  width: number,
  height: number,
): { x: number; y: number; text: string }[] {
  const found: { x: number; y: number; text: string }[] = []
  const onScreen = projected(camera, width, height)
  for (const figure of [...figures].sort((p, q) => q.most - p.most)) {
    const at = onScreen(figure.at)
    if (!at) continue
    const [x, y] = at
    // the caption and the tools stand at the top, the legend at the bottom
    if (x < 20 || x > width - 30 || y < 96 || y > height - 34) continue
    if (
      found.some((o) => Math.abs(o.x - x) < 12 + 3.4 * (o.text.length + figure.text.length) && Math.abs(o.y - y) < 15)
    )
      continue
    found.push({ x, y, text: figure.text })
  }
  return found
}
