import * as THREE from 'three'

/** Axes as they would be, in three dimensions: as rods that are seen through the steel; reach: a sixteenth of the building's size, metres. */
export function proposed(
  axes: readonly (readonly [readonly number[], readonly number[]])[],
  reach: number,
): THREE.Object3D[] {
  const look = new THREE.MeshBasicMaterial({ color: PROPOSED, transparent: true, opacity: 0.85, depthTest: false })
  return axes.map(([start, end]) => {
    const a = new THREE.Vector3(...start)
    const b = new THREE.Vector3(...end)
    const rod = new THREE.Mesh(new THREE.CylinderGeometry(reach / 26, reach / 26, a.distanceTo(b), 6), look)
    rod.position.copy(a).lerp(b, 0.5)
    rod.quaternion.setFromUnitVectors(new THREE.Vector3(0, 1, 0), b.sub(a).normalize())
    rod.renderOrder = 3
    return rod
  })
}

/** The colour of what would be, in every view. */
export const PROPOSED = '#a3227e'
