import * as THREE from 'three'
import type { Schemas } from '../api/client'
import { fixed } from '../lib/quantity'
import type { Bears, Drawn, Figure, Shaft } from './space'

/** What is drawn of loads and supports on the whole building. */

const SUPPORT = '#1f2a33'
/** depth and width of a drawn crane rail, m */
const RAIL = 0.15
const MOST_FIGURES = 40
const vector = (v: readonly number[]) => new THREE.Vector3(v[0], v[1], v[2])

export function lines(places: readonly number[], color: string): THREE.LineSegments {
  return new THREE.LineSegments(
    new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(places, 3)),
    new THREE.LineBasicMaterial({ color }),
  )
}
/** Triangles; bears: what the load of each acts on, where they are to be pointed at. */
export function faces(places: readonly number[], color: string, opacity: number, bears: Bears[] = []): THREE.Mesh {
  const look = new THREE.MeshBasicMaterial({
    color,
    transparent: true,
    opacity,
    side: THREE.DoubleSide,
    depthWrite: false,
  })
  const mesh = new THREE.Mesh(
    new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(places, 3)),
    look,
  )
  mesh.userData.bears = bears
  return mesh
}

/** An arrow from a tail to a tip, its barbs in the plane of `aside`. */
export function arrow(edges: number[], tail: THREE.Vector3, tip: THREE.Vector3, aside: THREE.Vector3, barb: number) {
  const along = tip.clone().sub(tail)
  const length = along.length()
  if (length < 1e-6) return
  along.divideScalar(length)
  edges.push(...tail.toArray(), ...tip.toArray())
  for (const sense of [1, -1]) {
    const end = tip
      .clone()
      .addScaledVector(along, -barb)
      .addScaledVector(aside, sense * barb * 0.4)
    edges.push(...end.toArray(), ...tip.toArray())
  }
}

/**
 * Line loads as bands whose height is their size, with arrows that point onto the members, and concentrated ones as arrows; reach:
 * height of the largest in metres.
 */
export function loads(
  found: readonly Schemas['LoadOut'][],
  points: readonly Schemas['PointOut'][],
  reach: number,
  color: string,
): Drawn {
  const size = (v: readonly number[]) => Math.hypot(v[0]!, v[1]!, v[2]!)
  const most = Math.max(1e-9, ...found.flatMap((l) => [size(l.first), size(l.last)]))
  const [bands, edges, figures]: [number[], number[], Figure[]] = [[], [], []]
  const [bears, shafts]: [Bears[], Shaft[]] = [[], []]
  for (const load of found) {
    const own: Bears = { on: 'member', member: load.member, from: load.start, to: load.end }
    bears.push(own, own)
    const [a, b] = [vector(load.start), vector(load.end)]
    const lift = (at: THREE.Vector3, value: readonly number[]) =>
      at.clone().addScaledVector(vector(value), -reach / most)
    const [c, d] = [lift(a, load.first), lift(b, load.last)]
    for (const p of [a, b, d, a, d, c]) bands.push(p.x, p.y, p.z)
    edges.push(...c.toArray(), ...d.toArray(), ...a.toArray(), ...c.toArray(), ...b.toArray(), ...d.toArray())
    const along = b.clone().sub(a)
    const count = Math.max(1, Math.round(along.length() / (1.6 * reach)))
    along.normalize()
    for (let i = 0; i <= count; i++) {
      const [tail, tip] = [c.clone().lerp(d, i / count), a.clone().lerp(b, i / count)]
      if (tail.distanceTo(tip) > 0.12 * reach) arrow(edges, tail, tip, along, 0.18 * reach)
    }
    const value = Math.max(size(load.first), size(load.last))
    if (value > 0.1 * most) figures.push({ at: c.lerp(d, 0.5), text: fixed(value, 2), most: value })
  }
  figures.sort((p, q) => q.most - p.most)
  if (figures[0]) figures[0].text += ' kN/m'
  const strongest = Math.max(1e-9, ...points.map((p) => size(p.force)))
  for (const point of points) {
    const value = size(point.force)
    const at = vector(point.at)
    if (value > 0.005) {
      const way = vector(point.force).divideScalar(value)
      const tail = at.clone().addScaledVector(way, -reach * (0.6 + 0.9 * (value / strongest)))
      const aside = Math.abs(way.z) > 0.9 ? new THREE.Vector3(1, 0, 0) : new THREE.Vector3(0, 0, 1)
      arrow(edges, tail, at, aside, 0.25 * reach)
      const on: Bears = point.member
        ? { on: 'member', member: point.member, from: point.at, to: point.at }
        : { on: 'node', at: point.at }
      shafts.push({ tail, tip: at, bears: on })
      figures.push({ at: tail, text: `${fixed(value, 1)} kN`, most: most * (value / strongest) })
    }
    const couple = size(point.moment)
    if (couple > 0.005) figures.push({ at, text: `${fixed(couple, 1)} kNm`, most: most / 2 })
  }
  const cover = bands.length ? [faces(bands, color, 0.18, bears)] : []
  const objects: THREE.Object3D[] = [...cover, ...(edges.length ? [lines(edges, color)] : [])]
  return { objects, figures: figures.slice(0, MOST_FIGURES), bands: cover, shafts }
}

/** Crane rails as bars from bracket to bracket. */
export function rails(pairs: readonly Schemas['RailsOut'][], nodes: readonly (readonly number[])[]): THREE.Object3D[] {
  return pairs
    .flatMap(({ lines }) =>
      lines.flatMap((line) => line.slice(1).map((n, i) => [nodes[line[i]!]!, nodes[n]!] as const)),
    )
    .map(([a, b]) => {
      const [from, to] = [vector(a), vector(b)]
      const bar = new THREE.Mesh(
        new THREE.BoxGeometry(RAIL, RAIL, from.distanceTo(to)),
        new THREE.MeshLambertMaterial({ color: SUPPORT }),
      )
      bar.position.copy(from).add(to).multiplyScalar(0.5)
      bar.position.z += RAIL
      bar.lookAt(to.x, to.y, to.z + RAIL)
      return bar
    })
}

/** Ends that are free to bend as rings beside their nodes, in three planes so that one is seen from anywhere; size in metres. */
export function hinges(
  members: readonly Pick<Schemas['MemberOut'], 'line' | 'hinged'>[],
  nodes: readonly (readonly number[])[],
  size: number,
): THREE.Object3D[] {
  const edges: number[] = []
  const ring = Array.from({ length: 13 }, (_, i) => [Math.cos((i * Math.PI) / 6), Math.sin((i * Math.PI) / 6)])
  for (const m of members) {
    const ends = [m.line[0]!, m.line.at(-1)!].map((n) => vector(nodes[n]!))
    for (const k of [0, 1]) {
      if (!m.hinged?.[k]) continue
      const along = ends[1 - k]!.clone().sub(ends[k]!)
      if (along.length() < 4 * size) continue
      const at = ends[k]!.clone().addScaledVector(along.normalize(), 1.6 * size)
      for (const [u, v] of [
        [0, 1],
        [1, 2],
        [2, 0],
      ] as const)
        for (let i = 0; i + 1 < ring.length; i++)
          for (const [a, b] of [ring[i]!, ring[i + 1]!]) {
            const place = at.toArray()
            place[u] += size * a!
            place[v] += size * b!
            edges.push(...place)
          }
    }
  }
  return edges.length ? [lines(edges, SUPPORT)] : []
}

/** Nodes as dots, for whoever draws from one to the other. */
export function dots(nodes: readonly (readonly number[])[]): THREE.Object3D[] {
  if (!nodes.length) return []
  return [
    new THREE.Points(
      new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(nodes.flat(), 3)),
      new THREE.PointsMaterial({ color: SUPPORT, size: 4, sizeAttenuation: false }),
    ),
  ]
}

/** Supports as pyramids below their nodes: open where they are free to turn, with a plate where they are clamped; size in metres. */
export function supports(
  found: readonly Schemas['SupportOut'][],
  nodes: readonly (readonly number[])[],
  size: number,
): THREE.Object3D[] {
  const edges: number[] = []
  for (const support of found) {
    const at = vector(nodes[support.index]!)
    const half = size / 2
    const corners = [
      [-half, -half],
      [half, -half],
      [half, half],
      [-half, half],
    ].map(([x, y]) => at.clone().add(new THREE.Vector3(x, y, -size)))
    const clamped = support.fixed.includes('rx') && support.fixed.includes('ry')
    corners.forEach((corner, i) => {
      const next = corners[(i + 1) % 4]!
      edges.push(...corner.toArray(), ...next.toArray())
      if (!clamped) edges.push(...at.toArray(), ...corner.toArray())
      else edges.push(...corner.toArray(), corner.x, corner.y, at.z, corner.x, corner.y, at.z, next.x, next.y, at.z)
    })
    // what may slide stands on rollers: a second line below
    if (!support.fixed.includes('x') || !support.fixed.includes('y'))
      corners.forEach((corner, i) => {
        const next = corners[(i + 1) % 4]!
        edges.push(corner.x, corner.y, corner.z - size / 4, next.x, next.y, next.z - size / 4)
      })
  }
  return edges.length ? [lines(edges, SUPPORT)] : []
}
