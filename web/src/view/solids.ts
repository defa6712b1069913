/** Members as solids of the three-dimensional view: one draw call for all that look alike. */

import * as THREE from 'three'
import type { Member } from '../stores/workbench'

type Place = [number, number, number]

function hatchTexture(): THREE.Texture {
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = 16
  const pen = canvas.getContext('2d')!
  pen.fillStyle = '#ffffff'
  pen.fillRect(0, 0, 16, 16)
  pen.strokeStyle = '#5f2014'
  pen.lineWidth = 5
  pen.beginPath()
  for (const x of [-16, 0, 16]) {
    pen.moveTo(x, 16)
    pen.lineTo(x + 16, 0)
  }
  pen.stroke()
  const texture = new THREE.CanvasTexture(canvas)
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping
  texture.repeat.set(1, 1)
  return texture
}
const TEXTURE = hatchTexture()

/** Unit solids along x, one a kind of section: an I, a round, a box. */
function unitSolids(): Record<string, THREE.BufferGeometry> {
  const shape = new THREE.Shape()
  const [w, f] = [0.06, 0.42]
  const outline = [
    [-0.5, -0.5], [0.5, -0.5], [0.5, -f], [w, -f], [w, f], [0.5, f],
    [0.5, 0.5], [-0.5, 0.5], [-0.5, f], [-w, f], [-w, -f], [-0.5, -f],
  ] as const // prettier-ignore
  outline.forEach(([y, z], i) => (i ? shape.lineTo(y, z) : shape.moveTo(y, z)))
  const beam = new THREE.ExtrudeGeometry(shape, { depth: 1, bevelEnabled: false })
  // the outline's plane becomes y–z, its depth x
  beam.applyMatrix4(
    new THREE.Matrix4().makeBasis(new THREE.Vector3(0, 1, 0), new THREE.Vector3(0, 0, 1), new THREE.Vector3(1, 0, 0)),
  )
  beam.translate(-0.5, 0, 0)
  const round = new THREE.CylinderGeometry(0.5, 0.5, 1, 10)
  round.rotateZ(Math.PI / 2)
  return { I: beam, round, box: new THREE.BoxGeometry(1, 1, 1) }
}
const SOLIDS = unitSolids()
/** Above this many members a box stands in for every shape: at that distance it shows the same, and turns smoothly. */
const MANY = 1500
const solidOf = (m: Member) =>
  ['I', 'welded I', 'haunched', 'tee'].includes(m.shape)
    ? 'I'
    : ['circular', 'round'].includes(m.shape)
      ? 'round'
      : 'box'

/** How a member is drawn: it holds, fails (hatched), or is faded. */
export type Style = 'holds' | 'fails' | 'faded'

/** The members in one draw call a kind: by solid and style. */
export function solids(
  members: Member[],
  nodes: Place[],
  styleOf: (m: Member) => Style,
  colourOf: (m: Member) => string,
): THREE.InstancedMesh[] {
  const kinds = new Map<string, Member[]>()
  for (const m of members) {
    const key = `${members.length > MANY ? 'box' : solidOf(m)} ${styleOf(m)}`
    kinds.set(key, [...(kinds.get(key) ?? []), m])
  }
  const [a, b, x, up] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()]
  const matrix = new THREE.Matrix4()
  const colour = new THREE.Color()
  return [...kinds].map(([key, members]) => {
    const [solid, style] = key.split(' ') as [string, string]
    const look =
      style === 'fails'
        ? { map: TEXTURE }
        : style === 'faded'
          ? { transparent: true, opacity: 0.12, depthWrite: false }
          : {}
    const made = new THREE.InstancedMesh(SOLIDS[solid], new THREE.MeshLambertMaterial(look), members.length)
    members.forEach((m, i) => {
      a.set(...nodes[m.line[0]!]!)
      b.set(...nodes[m.line.at(-1)!]!)
      x.copy(b).sub(a)
      const length = x.length()
      x.normalize()
      if (Math.abs(x.z) > 0.999) up.set(-Math.sign(x.z), 0, 0)
      else up.set(0, 0, 1)
      const z = up
        .clone()
        .sub(x.clone().multiplyScalar(up.dot(x)))
        .normalize()
      z.applyAxisAngle(x, (m.roll * Math.PI) / 180)
      const y = z.clone().cross(x)
      matrix.makeBasis(x.clone().multiplyScalar(length), y.multiplyScalar(m.size[1]), z.multiplyScalar(m.size[0]))
      matrix.setPosition(a.add(b).multiplyScalar(0.5))
      made.setMatrixAt(i, matrix)
      made.setColorAt(i, colour.set(colourOf(m)))
    })
    made.userData.members = members.map((m) => m.name)
    return made
  })
}

/** Haunches as wedges below their members, in the colour of steel: nothing of them is checked. */
export function wedges(members: Member[], nodes: Place[]): THREE.Mesh | undefined {
  const corners: number[] = []
  for (const m of members) {
    const [a, b] = [new THREE.Vector3(...nodes[m.line[0]!]!), new THREE.Vector3(...nodes[m.line.at(-1)!]!)]
    const x = b.clone().sub(a).normalize()
    const up = Math.abs(x.z) > 0.999 ? new THREE.Vector3(-Math.sign(x.z), 0, 0) : new THREE.Vector3(0, 0, 1)
    const z = up
      .sub(x.clone().multiplyScalar(up.dot(x)))
      .normalize()
      .applyAxisAngle(x, (m.roll * Math.PI) / 180)
    const y = z.clone().cross(x)
    const at = (along: number, below: number, aside: number) =>
      a
        .clone()
        .addScaledVector(x, along)
        .addScaledVector(z, -m.size[0] / 2 - below)
        .addScaledVector(y, aside)
        .toArray()
    for (const h of m.haunches) {
      const half = m.size[1] / 2
      const side = (s: number) => [at(h.foot, 0, s), at(h.foot, h.depth, s), at(h.tip, 0, s)] as const
      const [a0, a1, a2] = side(-half)
      const [b0, b1, b2] = side(half)
      for (const face of [
        [a0, a1, a2],
        [b0, b2, b1],
        [a1, b1, b2],
        [a1, b2, a2],
        [a0, b0, b1],
        [a0, b1, a1],
      ])
        for (const corner of face) corners.push(...corner)
    }
  }
  if (!corners.length) return undefined
  const geometry = new THREE.BufferGeometry().setAttribute(
    'position',
    new THREE.BufferAttribute(new Float32Array(corners), 3),
  )
  geometry.computeVertexNormals()
  const look = new THREE.MeshLambertMaterial({ color: '#8b949b', side: THREE.DoubleSide })
  return new THREE.Mesh(geometry, look)
}

/** Take meshes out of a scene, with what the graphics card holds of them; `shared`: their geometry is used again. */
export function drop(scene: THREE.Scene, objects: THREE.Object3D[], shared = false) {
  for (const old of objects) {
    scene.remove(old)
    const mesh = old as THREE.Mesh
    if (!shared) mesh.geometry.dispose()
    ;(mesh.material as THREE.Material).dispose()
    if (mesh instanceof THREE.InstancedMesh) mesh.dispose()
  }
}
