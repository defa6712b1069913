<script setup lang="ts">
import * as THREE from 'three'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { legendOf, painter } from '../lib/colours'
import type { Seen } from '../lib/loadTracks'
import { figures } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import ModelLegend from './ModelLegend.vue'
import SpaceOver from './space/SpaceOver.vue'
import { turnedRound } from '../view/plane'
import { acting, STANDS } from '../view/acting'
import { useLoadsInSpace } from '../view/loadsInSpace'
import { farthest, movement } from '../view/movement'
import { saveShot } from '../view/shot'
import { drop, solids, wedges } from '../view/solids'
import { padSolids, slabSolids } from '../view/slabSolids'
import { useStage } from '../view/stage'
import { placed, projected, seenFrom, type Drawn } from '../view/space'

const props = defineProps<{ turned?: boolean }>()
const store = useWorkbench()
const bench = props.turned ? turnedRound(store) : store
const holder = ref<HTMLDivElement>()
const label = ref<{ x: number; y: number; text: string; fails: boolean } | null>(null)
const written = ref<{ x: number; y: number; text: string }[]>([])
const eye = shallowRef<(place: readonly number[]) => Seen | null>(() => null)
const shown = computed(() => bench.lists.members.filter((m) => bench.shows(m)))

const kinds = computed(() => legendOf(bench.lists.members, shown.value, bench.colouring))

const stage = useStage(holder, {
  turned: props.turned,
  paired: () => bench.paired,
  drawn: place,
  ready() {
    build()
    buildMovement()
    buildForces()
    frameAll()
    stage.comeNear(bench.aim)
    bench.aim = null
  },
})
const { scene, camera, unsupported, render } = stage
const frameAll = () => stage.frameAll(bench.lists.nodes, Math.max(extentOf() / 16, STANDS))

/** The figures of forces and reactions, and the selected member's, kept where they belong. */
function place() {
  if (!holder.value) return
  const { clientWidth, clientHeight } = holder.value
  written.value = placed(acts.figures, camera, clientWidth, clientHeight)
  if (inSpace.may.value) eye.value = seenFrom(camera, clientWidth, clientHeight)
  const m = bench.member
  const nodes = bench.chain?.nodes
  label.value = null
  if (!m || !nodes || !bench.shows(m)) return
  const [a, b] = [m.line[0]!, m.line.at(-1)!].map((n) => new THREE.Vector3(...nodes[n]!))
  const at = projected(camera, clientWidth, clientHeight)(a!.lerp(b!, 0.5))
  label.value = at && {
    x: at[0],
    y: at[1],
    text: `${m.label} ${figures(m.utilisation ?? null)}${m.status === 'fails' ? ' fails' : ''}`,
    fails: m.status === 'fails',
  }
}

let meshes: THREE.InstancedMesh[] = []
let others: THREE.Object3D[] = []

/** The members, their haunches, and slabs. */
function build() {
  drop(scene, meshes, true)
  drop(scene, others)
  const nodes = bench.lists.nodes
  const over = bench.colouring === 'utilisation'
  const paint = painter(bench.lists.members, bench.colouring)
  meshes = solids(
    shown.value,
    nodes,
    (m) => (bench.dimmed.has(m.name) ? 'faded' : over && m.status === 'fails' ? 'fails' : 'holds'),
    (m) => (bench.chosen.has(m.name) ? '#1d6480' : paint(m)),
  )
  const haunched = shown.value.filter((m) => m.haunches?.length)
  const concrete = [...slabSolids(bench.lists.panels), ...padSolids(bench.lists.supports, nodes)]
  others = [wedges(haunched, nodes), ...concrete].filter((made) => made !== undefined)
  scene.add(...meshes, ...others)
  render()
}

let moved: THREE.LineSegments | undefined
let swinging = 0
/** The movement of the whole building as lines beside the members; the largest is a thirtieth of the building's size. */
function buildMovement() {
  cancelAnimationFrame(swinging)
  if (moved) drop(scene, [moved])
  moved = undefined
  const runs = bench.overlays.has('sway') ? (bench.diagram?.runs ?? []) : []
  const most = farthest(bench.paired ? [...runs, ...(bench.besideDiagram?.runs ?? [])] : runs)
  if (!most) {
    render()
    return
  }
  const visible = new Set(shown.value.map((m) => m.name))
  const scale = ((extentOf() / 30) * bench.movementSize) / most
  const made = movement(
    runs.filter((r) => visible.has(r.member)),
    scale,
  )
  moved = made.line
  scene.add(moved)
  const put = (share: number) => {
    made.put(share)
    render()
  }
  put(1)
  const swing = (time: number) => {
    put(Math.sin((time / 1000) * Math.PI))
    swinging = requestAnimationFrame(swing)
  }
  if (bench.swinging) swinging = requestAnimationFrame(swing)
}

let acts: Required<Drawn> = { objects: [], figures: [], bands: [], shafts: [] }
let drawn: THREE.Object3D[] = []
const inSpace = useLoadsInSpace(bench)
/** Forces along the members and reactions, on one scale with what is drawn beside. */
function buildForces() {
  drop(scene, drawn)
  acts = acting(bench, new Set(shown.value.map((m) => m.name)), extentOf() / 16)
  drawn = [...acts.objects, ...inSpace.marks(extentOf() / 400)]
  for (const made of drawn) {
    made.frustumCulled = false
    scene.add(made)
  }
  render()
}
/** The building's size, corner to corner, in metres. */
function extentOf(): number {
  const box = new THREE.Box3().setFromPoints(bench.lists.nodes.map((n) => new THREE.Vector3(...n)))
  return box.getSize(new THREE.Vector3()).length()
}

/** Save the view with its figures as a picture. */
function savePicture() {
  const source = stage.shot()
  if (!source || !holder.value) return
  const name = bench.diagram ? `${bench.diagram.state}, ${bench.origin(bench.diagram.revision)}` : ''
  const file = `whole-${bench.diagram?.state.replaceAll(':', '-') ?? 'model'}.png`
  saveShot(source, holder.value, written.value, `${bench.project?.name ?? ''}: ${name}`, file)
}
defineExpose({ savePicture })

function pick(event: MouseEvent) {
  const first = inSpace.may.value ? stage.met(event, [...meshes, ...acts.bands]) : undefined
  const load = inSpace.pointed(event, holder.value!.getBoundingClientRect(), camera, acts.shafts, first)
  if (load && inSpace.choose(load, event.shiftKey)) return
  const hit = stage.met(event, meshes)
  if (hit?.instanceId !== undefined)
    bench.select((hit.object.userData.members as string[])[hit.instanceId]!, false, event.shiftKey)
}

watch(() => [shown.value, bench.chosen, bench.colouring, bench.dimmed, bench.lists], build)
watch(
  () => [shown.value, bench.diagram, bench.overlays, bench.movementSize, bench.swinging, bench.paired],
  buildMovement,
)
watch(
  () => [
    shown.value,
    bench.diagram,
    bench.stage,
    bench.overlays,
    bench.quantity,
    bench.forceSize,
    bench.paired,
    bench.trial,
    bench.proposed,
    bench.arrowSize,
    inSpace.chosen.all,
  ],
  buildForces,
)
watch(() => JSON.stringify([bench.hall, bench.document?.jigs]), frameAll)
watch(() => bench.aim, stage.comeNear)
onBeforeUnmount(() => cancelAnimationFrame(swinging))
</script>

<template>
  <div ref="holder" class="holder" @click="pick" />
  <p v-if="bench.paired && bench.diagram" class="which mono">
    {{ bench.diagram.state }} of revision {{ bench.diagram.revision }}
  </p>
  <p v-if="unsupported" class="note">This browser cannot draw in 3D (no WebGL). The frames in elevation work.</p>
  <SpaceOver :bench="bench" :written="written" :label="label" :members="shown" :eye="eye" />
  <ModelLegend :kinds="kinds" :utilisation="bench.colouring === 'utilisation'" @all="frameAll" />
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
</style>
