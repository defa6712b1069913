<script lang="ts">
import { shallowRef } from 'vue'
/** Where the views of the whole building are looked at from, and which of two side by side was moved last. */
const stand = shallowRef<{
  from: boolean
  eye: [number, number, number]
  target: [number, number, number]
} | null>(null)
</script>

<script setup lang="ts">
import { ElButton } from 'element-plus'
import * as THREE from 'three'
import { OrbitControls } from 'three/addons/controls/OrbitControls.js'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { legendOf, painter } from '../lib/colours'
import { figures, NATURE_COLOURS, OXIDE, STEPS } from '../lib/temper'
import { saveBlob } from '../lib/table'
import { useWorkbench, type Member } from '../stores/workbench'
import { turnedRound } from '../view/plane'
import { loads, supports } from '../view/marks'
import { forces, largest, placed, reactions, type Figure } from '../view/space'

const props = defineProps<{ turned?: boolean }>()
const store = useWorkbench()
const bench = props.turned ? turnedRound(store) : store
const holder = ref<HTMLDivElement>()
const unsupported = ref(false)
const label = ref<{ x: number; y: number; text: string; fails: boolean } | null>(null)
const written = ref<{ x: number; y: number; text: string }[]>([])
const shown = computed(() => (bench.chain?.members ?? []).filter((m) => bench.shows(m)))

const kinds = computed(() => legendOf(bench.chain?.members ?? [], shown.value, bench.colouring))

let renderer: THREE.WebGLRenderer | undefined
let controls: OrbitControls | undefined
let watcher: ResizeObserver | undefined
const scene = new THREE.Scene()
const camera = new THREE.PerspectiveCamera(32, 1, 0.5, 2000)
camera.up.set(0, 0, 1)
let asked = 0

function render() {
  cancelAnimationFrame(asked)
  asked = requestAnimationFrame(() => {
    renderer?.render(scene, camera)
    place()
  })
}

/** The figures of forces and reactions, and the selected member's, kept where they belong. */
function place() {
  if (holder.value) {
    const { clientWidth, clientHeight } = holder.value
    written.value = placed(said, camera, clientWidth, clientHeight)
  }
  const m = bench.member
  const nodes = bench.chain?.nodes
  if (!m || !nodes || !holder.value || !bench.shows(m)) {
    label.value = null
    return
  }
  const [a, b] = [nodes[m.line[0]!]!, nodes[m.line.at(-1)!]!]
  const at = new THREE.Vector3((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2).project(camera)
  const { clientWidth, clientHeight } = holder.value
  label.value = {
    x: ((at.x + 1) / 2) * clientWidth,
    y: ((1 - at.y) / 2) * clientHeight,
    text: `${m.label} ${figures(m.utilisation ?? null)}${m.status === 'fails' ? ' fails' : ''}`,
    fails: m.status === 'fails',
  }
}

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
const texture = hatchTexture()
let meshes: THREE.InstancedMesh[] = []

/** Unit solids along x, one a kind of section: an I, a round, a box. */
function solids(): Record<string, THREE.BufferGeometry> {
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
const SOLIDS = solids()
/** Above this many members a box stands in for every shape: at that distance it shows the same, and turns smoothly. */
const MANY = 1500
const solidOf = (m: Member) =>
  ['I', 'welded I', 'haunched', 'tee'].includes(m.shape)
    ? 'I'
    : ['circular', 'round'].includes(m.shape)
      ? 'round'
      : 'box'

/** The members in one draw call a kind: by solid, and by whether they hold, fail (hatched) or are faded. */
function build() {
  for (const old of meshes) {
    scene.remove(old)
    ;(old.material as THREE.Material).dispose()
    old.dispose()
  }
  const nodes = bench.chain?.nodes ?? []
  const over = bench.colouring === 'utilisation'
  const paint = painter(bench.chain?.members ?? [], bench.colouring)
  const kinds = new Map<string, Member[]>()
  for (const m of shown.value) {
    const style = bench.dimmed.has(m.name) ? 'faded' : over && m.status === 'fails' ? 'fails' : 'holds'
    const key = `${shown.value.length > MANY ? 'box' : solidOf(m)} ${style}`
    kinds.set(key, [...(kinds.get(key) ?? []), m])
  }
  const [a, b, x, up] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()]
  const matrix = new THREE.Matrix4()
  const colour = new THREE.Color()
  meshes = [...kinds].map(([key, members]) => {
    const [solid, style] = key.split(' ') as [string, string]
    const look =
      style === 'fails'
        ? { map: texture }
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
      made.setColorAt(i, colour.set(bench.chosen.has(m.name) ? '#1d6480' : paint(m)))
    })
    made.userData.members = members.map((m) => m.name)
    scene.add(made)
    return made
  })
  buildHaunches(shown.value.filter((m) => m.haunches?.length))
  render()
}

/** Haunches as wedges below their members, in the colour of steel: nothing of them is checked. */
let wedges: THREE.Mesh | undefined
function buildHaunches(members: Member[]) {
  if (wedges) {
    scene.remove(wedges)
    wedges.geometry.dispose()
    ;(wedges.material as THREE.Material).dispose()
    wedges = undefined
  }
  const nodes = bench.chain?.nodes ?? []
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
    for (const h of m.haunches ?? []) {
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
  if (!corners.length) return
  const geometry = new THREE.BufferGeometry().setAttribute(
    'position',
    new THREE.BufferAttribute(new Float32Array(corners), 3),
  )
  geometry.computeVertexNormals()
  const look = new THREE.MeshLambertMaterial({ color: '#8b949b', side: THREE.DoubleSide })
  wedges = new THREE.Mesh(geometry, look)
  scene.add(wedges)
}

let moved: THREE.LineSegments | undefined
let swinging = 0
/** The movement of the whole building as lines beside the members; the largest is a thirtieth of the building's size. */
function buildMovement() {
  cancelAnimationFrame(swinging)
  if (moved) {
    scene.remove(moved)
    moved.geometry.dispose()
    ;(moved.material as THREE.Material).dispose()
    moved = undefined
  }
  const runs = bench.overlays.has('sway') ? (bench.diagram?.runs ?? []) : []
  const both = bench.paired ? [...runs, ...(bench.besideDiagram?.runs ?? [])] : runs
  const most = Math.max(0, ...both.flatMap((r) => r.displacement.map((d) => Math.hypot(d[0], d[1], d[2]))))
  if (!most) {
    render()
    return
  }
  const visible = new Set(shown.value.map((m) => m.name))
  const scale = ((extentOf() / 30) * bench.movementSize) / most
  const still: number[] = []
  const by: number[] = []
  for (const run of runs) {
    if (!visible.has(run.member)) continue
    for (let i = 1; i < run.points.length; i++)
      for (const k of [i - 1, i]) {
        still.push(...run.points[k]!)
        by.push(...run.displacement[k]!.map((d) => d * scale))
      }
  }
  const place = new Float32Array(still)
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(place, 3))
  moved = new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: '#1d6480' }))
  moved.frustumCulled = false
  scene.add(moved)
  const put = (phase: number) => {
    for (let i = 0; i < place.length; i++) place[i] = still[i]! + by[i]! * phase
    geometry.attributes.position!.needsUpdate = true
    render()
  }
  put(1)
  const swing = (time: number) => {
    put(Math.sin((time / 1000) * Math.PI))
    swinging = requestAnimationFrame(swing)
  }
  if (bench.swinging) swinging = requestAnimationFrame(swing)
}

let said: Figure[] = []
let drawn: THREE.Object3D[] = []
/** Forces along the members and reactions, on one scale with what is drawn beside. */
function buildForces() {
  for (const old of drawn) {
    scene.remove(old)
    const made = old as THREE.Mesh
    made.geometry.dispose()
    ;(made.material as THREE.Material).dispose()
  }
  drawn = []
  said = []
  const diagram = bench.diagram
  const visible = new Set(shown.value.map((m) => m.name))
  const reach = extentOf() / 16
  drawn.push(...supports(bench.chain?.supports ?? [], bench.chain?.nodes ?? [], Math.min(0.8, reach / 4)))
  if (bench.trial || bench.overlays.has('actions')) {
    const lying = (bench.trial ?? diagram?.loads ?? []).filter((l) => visible.has(l.member))
    const nature = bench.chain?.cases?.find((c) => c.symbol === diagram?.state)?.nature ?? ''
    const points = bench.trial ? [] : (diagram?.points ?? [])
    const found = loads(lying, points, (reach / 2) * bench.arrowSize, NATURE_COLOURS[nature] ?? OXIDE)
    drawn.push(...found.objects)
    said.push(...found.figures)
  }
  if (!diagram || diagram.kind === 'mode') {
    for (const made of drawn) scene.add(made)
    render()
    return
  }
  const runs = diagram.runs.filter((r) => visible.has(r.member))
  if (bench.overlays.has('moment') && !bench.trial) {
    const beside = bench.paired ? (bench.besideDiagram?.runs ?? []).filter((r) => visible.has(r.member)) : []
    const most = largest([...runs, ...beside], bench.quantity)
    const envelope = diagram.kind === 'envelope'
    const found = forces(runs, bench.quantity, (reach * bench.forceSize) / most, most, envelope, envelope)
    drawn.push(...found.objects)
    said.push(...found.figures)
  }
  if (bench.overlays.has('reactions')) {
    const found = reactions(diagram.reactions ?? [], reach)
    drawn.push(...found.objects)
    said.push(...found.figures)
  }
  for (const made of drawn) {
    made.frustumCulled = false
    scene.add(made)
  }
  render()
}
/** The building's size, corner to corner, in metres. */
function extentOf(): number {
  const box = new THREE.Box3().setFromPoints((bench.chain?.nodes ?? []).map((n) => new THREE.Vector3(...n)))
  return box.getSize(new THREE.Vector3()).length()
}

/** Save the view with its figures as a picture. */
function savePicture() {
  if (!renderer || !holder.value) return
  renderer.render(scene, camera)
  const source = renderer.domElement
  const canvas = document.createElement('canvas')
  canvas.width = source.width
  canvas.height = source.height
  const pen = canvas.getContext('2d')!
  pen.fillStyle = '#faf9f6'
  pen.fillRect(0, 0, canvas.width, canvas.height)
  pen.drawImage(source, 0, 0)
  const k = source.width / holder.value.clientWidth
  pen.scale(k, k)
  pen.fillStyle = '#1f2a33'
  pen.font = '11.5px IBM Plex Mono, monospace'
  pen.textAlign = 'center'
  for (const f of written.value) pen.fillText(f.text, f.x, f.y)
  pen.textAlign = 'left'
  const name = bench.diagram ? `${bench.diagram.state}, ${bench.origin(bench.diagram.revision)}` : ''
  pen.fillText(`${bench.project?.name ?? ''}: ${name}`, 14, holder.value.clientHeight - 12)
  canvas.toBlob((blob) => {
    if (blob) saveBlob(`whole-${bench.diagram?.state.replaceAll(':', '-') ?? 'model'}.png`, blob)
  })
}
defineExpose({ savePicture })

let ground: THREE.Object3D | undefined
function frameAll() {
  const nodes = bench.chain?.nodes ?? []
  if (!nodes.length || !controls) return
  const box = new THREE.Box3().setFromPoints(nodes.map((n) => new THREE.Vector3(...n)))
  const middle = box.getCenter(new THREE.Vector3())
  const radius = box.getSize(new THREE.Vector3()).length() / 2
  const away = (radius * 1.02) / Math.sin((camera.fov * Math.PI) / 360) / Math.min(1, camera.aspect * 0.8)
  camera.position.copy(middle).add(new THREE.Vector3(-0.62, -0.68, 0.42).normalize().multiplyScalar(away))
  controls.target.copy(middle)
  if (ground) scene.remove(ground)
  const size = Math.ceil(radius / 6) * 24
  const grid = new THREE.GridHelper(size, size / 6, '#d9d4c8', '#e6e1d6')
  grid.rotation.x = Math.PI / 2
  grid.position.set(middle.x, middle.y, box.min.z - 0.01)
  scene.add(grid)
  ground = grid
  controls.update()
  render()
}

function pick(event: MouseEvent) {
  if (!holder.value) return
  const box = holder.value.getBoundingClientRect()
  const at = new THREE.Vector2(
    ((event.clientX - box.left) / box.width) * 2 - 1,
    1 - ((event.clientY - box.top) / box.height) * 2,
  )
  const ray = new THREE.Raycaster()
  ray.setFromCamera(at, camera)
  const hit = ray.intersectObjects(meshes)[0]
  if (hit?.instanceId !== undefined)
    bench.select((hit.object.userData.members as string[])[hit.instanceId]!, false, event.shiftKey)
}

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
  controls.addEventListener('change', () => {
    stand.value = { from: props.turned ?? false, eye: camera.position.toArray(), target: controls!.target.toArray() }
    render()
  })
  watcher = new ResizeObserver(([entry]) => {
    const { width, height } = entry!.contentRect
    renderer!.setSize(width, height, false)
    camera.aspect = width / Math.max(height, 1)
    camera.updateProjectionMatrix()
    render()
  })
  watcher.observe(holder.value!)
  const { clientWidth, clientHeight } = holder.value!
  camera.aspect = clientWidth / Math.max(clientHeight, 1)
  camera.updateProjectionMatrix()
  build()
  buildMovement()
  buildForces()
  frameAll()
  comeNear(bench.aim)
  bench.aim = null
})
/** Come near to a place: the target moves there, the camera with it, to twelve metres. */
function comeNear(at: readonly number[] | null) {
  if (!at || !controls) return
  const target = new THREE.Vector3(at[0]!, at[1]!, at[2]!)
  const away = camera.position.clone().sub(controls.target).normalize().multiplyScalar(12)
  controls.target.copy(target)
  camera.position.copy(target).add(away)
  controls.update()
  render()
}
watch(() => bench.aim, comeNear)
// two views side by side look from the same place
watch(stand, (at) => {
  if (!bench.paired || !at || at.from === (props.turned ?? false) || !controls) return
  camera.position.set(...at.eye)
  controls.target.set(...at.target)
  camera.lookAt(controls.target)
  render()
})
watch(() => [shown.value, bench.chosen, bench.colouring, bench.dimmed], build)
watch(
  () => [shown.value, bench.diagram, bench.overlays, bench.movementSize, bench.swinging, bench.paired],
  buildMovement,
)
watch(
  () => [
    shown.value,
    bench.diagram,
    bench.overlays,
    bench.quantity,
    bench.forceSize,
    bench.paired,
    bench.trial,
    bench.arrowSize,
  ],
  buildForces,
)
watch(() => JSON.stringify([bench.hall, bench.document?.jigs]), frameAll)
onBeforeUnmount(() => {
  cancelAnimationFrame(asked)
  cancelAnimationFrame(swinging)
  watcher?.disconnect()
  controls?.dispose()
  renderer?.dispose()
})
</script>

<template>
  <div ref="holder" class="holder" @click="pick" />
  <p v-if="bench.paired && bench.diagram" class="which mono">
    {{ bench.diagram.state }} of revision {{ bench.diagram.revision }}
  </p>
  <span
    v-for="(f, i) in written"
    :key="i"
    class="figure mono"
    :style="{ left: `${f.x}px`, top: `${f.y}px` }"
    aria-hidden="true"
    >{{ f.text }}</span
  >
  <p v-if="unsupported" class="note">This browser cannot draw in 3D (no WebGL). The frames in elevation work.</p>
  <div
    v-if="label"
    class="label mono"
    :class="{ fails: label.fails }"
    :style="{ left: `${label.x}px`, top: `${label.y}px` }"
  >
    {{ label.text }}
  </div>
  <div class="legend mono">
    <template v-if="bench.colouring === 'utilisation'">
      <span v-for="step in STEPS" :key="step.upTo"
        ><i :style="{ background: step.colour }" />≤ {{ step.upTo.toFixed(2) }}</span
      >
      <span><i class="hatched" :style="{ borderColor: OXIDE }" />fails</span>
      <span><i class="open" />not covered</span>
    </template>
    <template v-else>
      <span v-for="k in kinds.slice(0, 8)" :key="k.kind"><i :style="{ background: k.colour }" />{{ k.kind }}</span>
      <span v-if="kinds.length > 8">and {{ kinds.length - 8 }} more</span>
    </template>
    <span>drag to turn, wheel to come nearer</span>
    <ElButton link type="primary" size="small" @click="frameAll">show all</ElButton>
  </div>
</template>

<style scoped>
.holder {
  position: absolute;
  inset: 0;
}
.holder :deep(canvas) {
  width: 100%;
  height: 100%;
  display: block;
}
.label {
  position: absolute;
  transform: translate(10px, -26px);
  background: var(--sheet);
  border: 1px solid var(--chalk);
  font-size: 11.5px;
  padding: 2px 6px;
  pointer-events: none;
  white-space: nowrap;
}
.figure {
  position: absolute;
  transform: translate(-50%, -50%);
  font-size: 11px;
  color: var(--ink);
  background: rgb(250 249 246 / 78%);
  padding: 0 2px;
  pointer-events: none;
  white-space: nowrap;
}
.which {
  position: absolute;
  left: 0;
  right: 0;
  top: 126px;
  text-align: center;
  font-size: 12px;
  color: var(--ink);
  pointer-events: none;
}
.legend {
  position: absolute;
  left: 14px;
  bottom: 8px;
  display: flex;
  gap: 10px;
  align-items: center;
  font-size: 11px;
  color: var(--ink-2);
  flex-wrap: wrap;
  right: 14px;
  background: rgb(250 249 246 / 82%);
}
.legend span {
  white-space: nowrap;
  display: flex;
  align-items: center;
  gap: 4px;
}
.legend i {
  width: 16px;
  height: 9px;
}
.legend i.open {
  background: #fff;
  border: 1px dashed var(--ink-2);
}
.legend i.hatched {
  background: var(--hatch);
}
</style>
