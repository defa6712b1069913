/** Slabs, walls and pad footings as translucent solids of the three-dimensional view. */

import * as THREE from 'three'
import type { Schemas } from '../api/client'

const COLOUR = '#8d877a'

/** Each slab as a plate of its thickness, with its openings, and its edges as lines. */
export function slabSolids(panels: readonly Schemas['PanelBrief'][]): THREE.Object3D[] {
  return panels.flatMap((panel) => {
    const { plate, corners } = panel
    if (!plate || corners.length < 3) return []
    const origin = new THREE.Vector3(...corners[0]!)
    const z = new THREE.Vector3(...plate.outside)
    const x = new THREE.Vector3(...corners[1]!).sub(origin).normalize()
    const y = z.clone().cross(x)
    const flat = (p: readonly [number, number, number]) => {
      const d = new THREE.Vector3(...p).sub(origin)
      return new THREE.Vector2(d.dot(x), d.dot(y))
    }
    const shape = new THREE.Shape(corners.map(flat))
    shape.holes = plate.openings.map((hole) => new THREE.Path(hole.map(flat)))
    const geometry = new THREE.ExtrudeGeometry(shape, { depth: plate.thickness, bevelEnabled: false })
    const matrix = new THREE.Matrix4().makeBasis(x, y, z)
    matrix.setPosition(origin.addScaledVector(z, plate.rise - plate.thickness / 2))
    geometry.applyMatrix4(matrix)
    return translucent(geometry)
  })
}

/** Pads below their nodes. */
export function padSolids(
  supports: readonly Schemas['SupportOut'][],
  nodes: readonly (readonly [number, number, number])[],
): THREE.Object3D[] {
  return supports.flatMap(({ footing, index, turn }) => {
    const at = nodes[index]
    if (!footing || !at) return []
    const geometry = new THREE.BoxGeometry(footing.x, footing.y, footing.depth)
    geometry.rotateZ((turn * Math.PI) / 180)
    geometry.translate(at[0], at[1], at[2] - footing.depth / 2)
    return translucent(geometry)
  })
}

function translucent(geometry: THREE.BufferGeometry): THREE.Object3D[] {
  const body = new THREE.Mesh(
    geometry,
    new THREE.MeshLambertMaterial({
      color: COLOUR,
      transparent: true,
      opacity: 0.3,
      depthWrite: false,
      side: THREE.DoubleSide,
    }),
  )
  const edges = new THREE.LineSegments(
    new THREE.EdgesGeometry(geometry, 20),
    new THREE.LineBasicMaterial({ color: '#6d6a63' }),
  )
  return [body, edges]
}
