/** The stage of a three-dimensional view: what draws, from where it is looked at, and what a click meets. */

import { useResizeObserver } from '@vueuse/core'
import * as THREE from 'three'
import { OrbitControls } from 'three/addons/controls/OrbitControls.js'
import { onBeforeUnmount, onMounted, ref, watch, type Ref } from 'vue'
import { allSeen } from './allSeen'
import { stand } from './stand'

/** Room between a building and what lies over the picture, px; below it supports are drawn. */
const CLEAR = { top: 6, bottom: 16 }
/** Room at the top that is kept for the formula of a combination, whether it stands there or not: a building does not jump, px. */
const KEPT = 98

interface Options {
  /** Whether it is the second of two side by side. */
  turned: boolean
  /** Whether two are looked at from the same place. */
  paired: () => boolean
  /** After each drawing. */
  drawn: () => void
  /** Once there is something to draw on. */
  ready: () => void
}

/** A stage in an element, which it fills; it goes with the component that asks for it. */
export function useStage(holder: Ref<HTMLDivElement | undefined>, options: Options) {
  const unsupported = ref(false)
  const scene = new THREE.Scene()
  const camera = new THREE.PerspectiveCamera(32, 1, 0.5, 2000)
  camera.up.set(0, 0, 1)
  let renderer: THREE.WebGLRenderer | undefined
  let controls: OrbitControls | undefined
  let ground: THREE.Object3D | undefined
  let asked = 0
  /** Sees all again, until somebody looks elsewhere. */
  let whole: (() => void) | null = null

  function render() {
    cancelAnimationFrame(asked)
    asked = requestAnimationFrame(() => {
      renderer?.render(scene, camera)
      options.drawn()
    })
  }

  function shape(width: number, height: number) {
    camera.aspect = width / Math.max(height, 1)
    camera.updateProjectionMatrix()
  }

  /** What lies over the picture, as marked by `data-over`. */
  function covered() {
    const box = holder.value!.getBoundingClientRect()
    const over = [...(holder.value!.closest('[data-view]')?.querySelectorAll<HTMLElement>('[data-over]') ?? [])]
    const of = (side: string, reach: (r: DOMRect) => number) =>
      Math.max(0, ...over.filter((e) => e.dataset.over === side).map((e) => reach(e.getBoundingClientRect())))
    const height = Math.max(box.height, 1)
    return {
      top:
        Math.max(
          KEPT,
          of('top', (r) => r.bottom - box.top + CLEAR.top),
        ) / height,
      bottom: of('bottom', (r) => box.bottom - r.top + CLEAR.bottom) / height,
    }
  }

  /** See all of a building of these nodes, on a ground of squares of 6 m; beyond: how far loads and forces are drawn above it, and half as
   * far beside it, m. */
  function frameAll(nodes: [number, number, number][], beyond: number) {
    if (!nodes.length || !controls) return
    const box = new THREE.Box3().setFromPoints(nodes.map((n) => new THREE.Vector3(...n)))
    const middle = box.getCenter(new THREE.Vector3())
    const radius = box.getSize(new THREE.Vector3()).length() / 2
    const way = new THREE.Vector3(-0.62, -0.68, 0.42).normalize()
    const least = box.min.clone().sub(new THREE.Vector3(beyond / 2, beyond / 2, 0))
    const most = box.max.clone().add(new THREE.Vector3(beyond / 2, beyond / 2, beyond))
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map(
      (k) => new THREE.Vector3((k & 1 ? most : least).x, (k & 2 ? most : least).y, (k & 4 ? most : least).z),
    )
    const { away, target } = allSeen(corners, middle, way, (camera.fov * Math.PI) / 180, camera.aspect, covered())
    camera.position.copy(target).addScaledVector(way, away)
    controls.target.copy(target)
    whole = () => frameAll(nodes, beyond)
    if (ground) scene.remove(ground)
    const size = Math.ceil(radius / 6) * 24
    ground = new THREE.GridHelper(size, size / 6, '#d9d4c8', '#e6e1d6')
    ground.rotation.x = Math.PI / 2
    ground.position.set(middle.x, middle.y, box.min.z - 0.01)
    scene.add(ground)
    controls.update()
    render()
  }

  /** Come near to a place: the target moves there, the camera with it, to twelve metres. */
  function comeNear(at: readonly number[] | null) {
    if (!at || !controls) return
    const target = new THREE.Vector3(at[0], at[1], at[2])
    const away = camera.position.clone().sub(controls.target).normalize().multiplyScalar(12)
    controls.target.copy(target)
    whole = null
    camera.position.copy(target).add(away)
    controls.update()
    render()
  }

  /** What a click meets first of some objects. */
  function met(event: MouseEvent, objects: THREE.Object3D[]): THREE.Intersection | undefined {
    if (!holder.value) return undefined
    const box = holder.value.getBoundingClientRect()
    const at = new THREE.Vector2(
      ((event.clientX - box.left) / box.width) * 2 - 1,
      1 - ((event.clientY - box.top) / box.height) * 2,
    )
    const ray = new THREE.Raycaster()
    ray.setFromCamera(at, camera)
    return ray.intersectObjects(objects)[0]
  }

  /** The picture as it is drawn now. */
  function shot(): HTMLCanvasElement | undefined {
    renderer?.render(scene, camera)
    return renderer?.domElement
  }

  useResizeObserver(holder, ([entry]) => {
    const { width, height } = entry!.contentRect
    renderer?.setSize(width, height, false)
    shape(width, height)
    whole?.()
    render()
  })
  onMounted(() => {
    try {
      renderer = new THREE.WebGLRenderer({ antialias: true, alpha: true })
    } catch {
      unsupported.value = true
      return
    }
    renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2))
    holder.value!.append(renderer.domElement)
    scene.add(new THREE.HemisphereLight('#ffffff', '#b9b2a2', 2.6))
    const sun = new THREE.DirectionalLight('#ffffff', 1.2)
    sun.position.set(-40, -60, 90)
    scene.add(sun)
    controls = new OrbitControls(camera, renderer.domElement)
    controls.addEventListener('start', () => (whole = null))
    controls.addEventListener('change', () => {
      stand.value = { from: options.turned, eye: camera.position.toArray(), target: controls!.target.toArray() }
      render()
    })
    shape(holder.value!.clientWidth, holder.value!.clientHeight)
    options.ready()
  })
  // two views side by side look from the same place
  watch(stand, (at) => {
    if (!options.paired() || !at || at.from === options.turned || !controls) return
    camera.position.set(...at.eye)
    controls.target.set(...at.target)
    camera.lookAt(controls.target)
    render()
  })
  onBeforeUnmount(() => {
    cancelAnimationFrame(asked)
    controls?.dispose()
    renderer?.dispose()
  })
  return { scene, camera, unsupported, render, frameAll, comeNear, met, shot }
}
