/** What lies on slabs, in three dimensions: a cushion as high as it is heavy, with arrows onto the slab. */

import * as THREE from 'three'
import type { Schemas } from '../api/client'
import { fixed } from '../lib/quantity'
import { within } from '../lib/surfaces'
import { arrow, faces, lines, loads } from './marks'
import type { Bears, Drawn, Figure } from './space'

type Area = Schemas['AreaOut']
/** Arrows along the longer side of what is loaded. */
const ALONG = 6

const vector = (v: readonly number[]) => new THREE.Vector3(v[0], v[1], v[2])
const size = (v: readonly number[]) => Math.hypot(v[0]!, v[1]!, v[2]!)

/** A plane through corners: its origin, axes and the corners in it. */
function plane(corners: readonly THREE.Vector3[]) {
  const origin = corners[0]!
  const x = corners[1]!.clone().sub(origin).normalize()
  const far = corners.reduce((a, b) => (off(b, origin, x).length() > off(a, origin, x).length() ? b : a))
  const y = off(far, origin, x).normalize()
  const flat = corners.map((c) => {
    const d = c.clone().sub(origin)
    return new THREE.Vector2(d.dot(x), d.dot(y))
  })
  return { origin, x, y, flat }
}
const off = (c: THREE.Vector3, origin: THREE.Vector3, x: THREE.Vector3) => {
  const d = c.clone().sub(origin)
  return d.addScaledVector(x, -d.dot(x))
}

/** Whether a point lies within a polygon. */
export const inside = (p: THREE.Vector2, polygon: readonly THREE.Vector2[]): boolean =>
  within(
    polygon.map((q) => q.toArray()),
    p.toArray(),
  )

/** Points at even distances within a polygon, not at its edges. */
export function grid(polygon: readonly THREE.Vector2[]): THREE.Vector2[] {
  const box = new THREE.Box2().setFromPoints([...polygon])
  const wide = box.getSize(new THREE.Vector2())
  const step = Math.max(wide.x, wide.y) / ALONG
  if (!(step > 0)) return []
  const [nx, ny] = [Math.max(1, Math.round(wide.x / step)), Math.max(1, Math.round(wide.y / step))]
  const found: THREE.Vector2[] = []
  for (let i = 0; i < nx; i++)
    for (let j = 0; j < ny; j++) {
      const p = new THREE.Vector2(box.min.x + ((i + 0.5) / nx) * wide.x, box.min.y + ((j + 0.5) / ny) * wide.y)
      if (inside(p, polygon)) found.push(p)
    }
  return found
}

/** Both ends of a strip: the middles of its two shortest sides. */
export function endsOf(corners: readonly THREE.Vector3[]): [THREE.Vector3, THREE.Vector3] {
  const sides = corners.map((a, i) => [a, corners[(i + 1) % corners.length]!] as const)
  const [one, other] = sides.sort(([a, b], [c, d]) => a.distanceTo(b) - c.distanceTo(d))
  const middle = ([a, b]: readonly [THREE.Vector3, THREE.Vector3]) => a.clone().lerp(b, 0.5)
  return [middle(one!), middle(other!)]
}

/** What lies along lines and at points of slabs, as what lies along members and on nodes is drawn; each kind on a scale of its own. */
function narrow(found: readonly Area[], reach: number, color: string): Required<Drawn> {
  const on = (kind: Area['kind']) => found.filter((a) => a.kind === kind)
  const lines = on('line').map((a) => {
    const [start, end] = endsOf(a.corners.map(vector)).map((p) => p.toArray())
    return { member: a.panel, start: start!, end: end!, first: a.force[0]!, last: a.force.at(-1)! }
  })
  const points = on('point').map((a) => {
    const middle = a.corners.map(vector).reduce((sum, p) => sum.add(p), new THREE.Vector3())
    const at = middle.divideScalar(a.corners.length).toArray()
    return { member: a.panel, at, force: a.force[0]!, moment: [0, 0, 0] as [number, number, number] }
  })
  const { objects, figures, bands = [], shafts = [] } = loads(lines, points, reach, color)
  const onPanel = (bears: Bears): Bears => (bears.on === 'member' ? { on: 'panel', panel: bears.member } : bears)
  for (const band of bands) band.userData.bears = (band.userData.bears as Bears[]).map(onPanel)
  return { objects, figures, bands, shafts: shafts.map((s) => ({ ...s, bears: onPanel(s.bears) })) }
}

/** reach: height of the heaviest in metres. */
export function areas(all: readonly Area[], reach: number, color: string): Required<Drawn> {
  const found = all.filter((a) => a.kind === 'area')
  const beside = narrow(all, 1.5 * reach, color)
  const most = Math.max(1e-9, ...found.flatMap((a) => a.force.map(size)))
  const [bands, edges, figures]: [number[], number[], Figure[]] = [[], [], []]
  const bears: Bears[] = []
  for (const area of found) {
    const feet = area.corners.map(vector)
    if (feet.length < 3) continue
    const heads = feet.map((c, i) => c.clone().addScaledVector(vector(area.force[i]!), -reach / most))
    const { origin, x, y, flat } = plane(feet)
    for (const triangle of THREE.ShapeUtils.triangulateShape(flat, [])) {
      for (const k of triangle) bands.push(...heads[k]!.toArray())
      bears.push({ on: 'panel', panel: area.panel })
    }
    feet.forEach((foot, i) => {
      const next = (i + 1) % feet.length
      edges.push(...heads[i]!.toArray(), ...heads[next]!.toArray(), ...foot.toArray(), ...heads[i]!.toArray())
    })
    const mean = area.force.reduce((sum, f) => sum.add(vector(f)), new THREE.Vector3()).divideScalar(area.force.length)
    for (const p of grid(flat)) {
      const tip = origin.clone().addScaledVector(x, p.x).addScaledVector(y, p.y)
      arrow(edges, tip.clone().addScaledVector(mean, -reach / most), tip, x, 0.25 * reach)
    }
    const value = mean.length()
    const middle = heads.reduce((sum, h) => sum.add(h), new THREE.Vector3()).divideScalar(heads.length)
    figures.push({ at: middle, text: `${fixed(value, 2)} kN/m²`, most: value })
  }
  const cover = bands.length ? [faces(bands, color, 0.15, bears)] : []
  const objects: THREE.Object3D[] = [...cover, ...(edges.length ? [lines(edges, color)] : [])]
  return {
    objects: [...objects, ...beside.objects],
    figures: [...figures, ...beside.figures],
    bands: [...cover, ...beside.bands],
    shafts: beside.shafts,
  }
}
