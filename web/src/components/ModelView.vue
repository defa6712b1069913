<script setup lang="ts">
import * as THREE from 'three'
import { OrbitControls } from 'three/addons/controls/OrbitControls.js'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { figures, OXIDE, STEPS, temper } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'

const bench = useWorkbench()
const holder = ref<HTMLDivElement>()
const unsupported = ref(false)
const label = ref<{ x: number; y: number; text: string; fails: boolean } | null>(null)
const shown = computed(() => (bench.chain?.members ?? []).filter((m) => !bench.hidden.has(m.role)))

let renderer: THREE.WebGLRenderer | undefined
let controls: OrbitControls | undefined
let mesh: THREE.InstancedMesh | undefined
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

/** The selected member's figure, kept beside it. */
function place() {
  const m = bench.member
  const nodes = bench.chain?.nodes
  if (!m || !nodes || !holder.value || bench.hidden.has(m.role)) {
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
let hatched: THREE.InstancedMesh | undefined
const texture = hatchTexture()

/** One box a member, in two draw calls: those that hold, and the hatched ones that fail. */
function build() {
  for (const old of [mesh, hatched]) {
    if (old) {
      scene.remove(old)
      old.geometry.dispose()
      ;(old.material as THREE.Material).dispose()
      old.dispose()
    }
  }
  const nodes = bench.chain?.nodes ?? []
  const make = (members: typeof shown.value, failing: boolean) => {
    const material = new THREE.MeshLambertMaterial(failing ? { map: texture } : {})
    const made = new THREE.InstancedMesh(new THREE.BoxGeometry(1, 1, 1), material, members.length)
    const matrix = new THREE.Matrix4()
    members.forEach((m, i) => {
      const a = new THREE.Vector3(...nodes[m.line[0]!]!)
      const b = new THREE.Vector3(...nodes[m.line.at(-1)!]!)
      const x = b.clone().sub(a)
      const length = x.length()
      x.normalize()
      const up = Math.abs(x.z) > 0.999 ? new THREE.Vector3(-1, 0, 0) : new THREE.Vector3(0, 0, 1)
      const z = up.sub(x.clone().multiplyScalar(up.dot(x))).normalize()
      const y = z.clone().cross(x)
      matrix.makeBasis(x.multiplyScalar(length), y.multiplyScalar(m.size[1]), z.multiplyScalar(m.size[0]))
      matrix.setPosition(a.add(b).multiplyScalar(0.5))
      made.setMatrixAt(i, matrix)
      const colour =
        m.name === bench.selected
          ? '#1d6480'
          : bench.overlays.has('utilisation')
            ? temper(m.utilisation ?? null)
            : '#8b98a1'
      made.setColorAt(i, new THREE.Color(colour))
    })
    made.userData.members = members.map((m) => m.name)
    scene.add(made)
    return made
  }
  const over = bench.overlays.has('utilisation')
  mesh = make(
    shown.value.filter((m) => !(over && m.status === 'fails')),
    false,
  )
  hatched = make(
    shown.value.filter((m) => over && m.status === 'fails'),
    true,
  )
  render()
}

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
  const hit = ray.intersectObjects([mesh, hatched].filter((m): m is THREE.InstancedMesh => !!m && m.count > 0))[0]
  if (hit?.instanceId !== undefined) bench.select((hit.object.userData.members as string[])[hit.instanceId]!)
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
  controls.addEventListener('change', render)
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
  frameAll()
})
watch(() => [shown.value, bench.selected, bench.overlays], build)
watch(() => JSON.stringify(bench.hall), frameAll)
onBeforeUnmount(() => {
  cancelAnimationFrame(asked)
  watcher?.disconnect()
  controls?.dispose()
  renderer?.dispose()
})
</script>

<template>
  <div ref="holder" class="holder" @click="pick" />
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
    <template v-if="bench.overlays.has('utilisation')">
      <span v-for="step in STEPS" :key="step.upTo"
        ><i :style="{ background: step.colour }" />≤ {{ step.upTo.toFixed(2) }}</span
      >
      <span><i class="hatched" :style="{ borderColor: OXIDE }" />fails</span>
    </template>
    <span>drag to turn, wheel to come nearer</span>
    <button class="quiet" @click="frameAll">show all</button>
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
.legend {
  position: absolute;
  left: 14px;
  bottom: 8px;
  display: flex;
  gap: 10px;
  align-items: center;
  font-size: 11px;
  color: var(--ink-2);
}
.legend span {
  display: flex;
  align-items: center;
  gap: 4px;
}
.legend i {
  width: 16px;
  height: 9px;
}
.legend i.hatched {
  background: var(--hatch);
}
</style>
