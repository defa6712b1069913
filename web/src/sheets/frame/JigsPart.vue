<script setup lang="ts">
import FoldPart from '../../components/FoldPart.vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import SectionField from '../../components/SectionField.vue'
import TextField from '../../components/TextField.vue'
import { added, removed } from '../../lib/changes'
import { freeName, lineNames, overColumns, type Upright } from '../../lib/storeys'
import { useWorkbench } from '../../stores/workbench'
import BracingForm from './jigs/BracingForm.vue'
import FloorForm from './jigs/FloorForm.vue'
import TrussForm from './jigs/TrussForm.vue'

const bench = useWorkbench()
const jigs = computed(() => bench.stated.jigs)
const words = { truss: 'Truss', floor: 'Floor', bracing: 'Bracing' } as const
const forms = { truss: TrussForm, floor: FloorForm, bracing: BracingForm }
type Kind = keyof typeof words
const next = (kind: string) =>
  freeName(
    kind,
    jigs.value.map((j) => j.name),
  )
function put(kind: Kind, name: string, value: Record<string, unknown>) {
  void bench.edit(`${words[kind]} jig ${name} added`, added('jigs', { kind, name, ...value }))
}
const clad = computed(() => bench.chain?.panels?.some((p) => p.kind === 'roof' || p.kind === 'wall') ?? false)

const uprights = computed<Upright[]>(() =>
  bench.lists.members.flatMap((m) => {
    const [a, b] = [bench.chain!.nodes[m.line[0]!]!, bench.chain!.nodes[m.line.at(-1)!]!]
    const head = a[2] > b[2] ? a : b
    const stands = Math.abs(a[2] - b[2]) > 0.1 && Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-3
    return stands ? [{ name: m.name, head }] : []
  }),
)
/** The two columns that are chosen, if two are. */
const pair = computed(() => {
  const found = uprights.value.filter((u) => bench.chosen.has(u.name))
  return found.length === 2 && bench.chosen.size === 2 ? ([found[0]!, found[1]!] as const) : null
})
function addTruss() {
  if (!pair.value) return put('truss', next('truss'), { columns: 5.0 })
  const { on, count, step } = overColumns(pair.value, uprights.value)
  const over = count > 1 ? { roofed: true, purlins: true, stay_every: 1, braced: count > 2 ? [1, -1] : [1] } : {}
  put('truss', next('truss'), { on, repeat: { count, step }, ...over })
}
function addFloor() {
  const span = bench.chain?.hall?.span ?? 12
  put('floor', next('floor'), { across: bounds('X'), along: bounds('Y'), divide: Math.max(1, Math.round(span / 6)) })
}
/** A field in each of the four outer lines, so that it stands. */
function outerFields(across: number[], along: number[]) {
  const grid = bench.lists.grid
  return [...lineNames(grid, 'X', across), ...lineNames(grid, 'Y', along)].map((line) => ({ line, bay: 2 }))
}
function addStoreys() {
  const [across, along] = [
    [6, 6, 6],
    [6, 6, 6, 6],
  ]
  put('floor', next('storeys'), {
    level: 4,
    grid: { across, along },
    storeys: [{ height: 3.5 }, { height: 3.5 }],
    top: clad.value ? 'floor' : 'roof',
    walls: !clad.value,
    braced: outerFields(across, along),
    imposed: 3,
    sections: { main_beams: 'IPE 360', joists: 'IPE 240', columns: 'HEA 200', bracing: 'CHS 139.7x5' },
  })
}
function addBracing() {
  const corners = [
    [0, 0, 0],
    [4, 0, 0],
    [4, 0, 4],
    [0, 0, 4],
  ]
  put('bracing', next('bracing'), { corners })
}
/** The first two grid lines of an axis: a floor starts between them. */
function bounds(axis: string) {
  const lines = bench.lists.grid.filter((g) => g.axis === axis).map((g) => g.name)
  return lines.length > 1
    ? [lines[0], lines[axis === 'X' ? lines.length - 1 : 1]]
    : axis === 'X'
      ? ['A', 'B']
      : ['1', '2']
}
/** The jig once more: a floor 3.5 m higher, others beyond their last copy. */
function copy(i: number) {
  const jig = jigs.value[i]!
  const name = next(jig.kind)
  if (jig.kind === 'floor') {
    const rise = [jig.level, ...jig.storeys.map((s) => s.height ?? 3.5)].reduce((a, b) => a + b) + 3.5
    return put('floor', name, { ...jig, name, level: rise, base: rise - 3.5, storeys: [], top: 'floor', walls: false })
  }
  const far = (jig.repeat?.step ?? [0, 6, 0]).map((v) => v * (jig.repeat?.count ?? 1))
  const moved = (p: unknown) => (Array.isArray(p) ? p.map((v: number, k) => v + far[k]!) : p)
  if (jig.kind === 'truss') put('truss', name, { ...jig, name, start: moved(jig.start), end: moved(jig.end) })
  else put('bracing', name, { ...jig, name, corners: jig.corners.map(moved) })
}
function remove(i: number) {
  void bench.edit(`Jig ${jigs.value[i]!.name} removed`, removed('jigs', jigs.value[i]))
}
</script>

<template>
  <p class="note add">
    Add a jig:
    <ElButton size="small" :disabled="!bench.mayChange" @click="addTruss">{{
      pair ? 'Truss on the two columns' : 'Truss'
    }}</ElButton>
    <ElButton
      size="small"
      :disabled="!bench.mayChange || !bench.chain?.grid?.length"
      title="A floor lies between grid lines"
      @click="addFloor"
      >Floor</ElButton
    >
    <ElButton
      size="small"
      :disabled="!bench.mayChange"
      title="Floors one above another, on grid lines of their own"
      @click="addStoreys"
      >Storeys</ElButton
    >
    <ElButton size="small" :disabled="!bench.mayChange" @click="addBracing">Bracing</ElButton>
  </p>
  <p v-if="!jigs.length" class="note">
    A truss stands between two points, or on two columns that are chosen; a floor lies between grid lines at a level,
    and storeys repeat it upwards; bracing fills the field between four points. Each can be changed for as long as the
    project lives.
  </p>
  <FoldPart v-for="(jig, i) in jigs" :key="jig.name" open
    ><template #title>{{ words[jig.kind as Kind] }} · {{ jig.name }}</template>
    <TextField
      label="Name"
      :path="`jigs.${i}.name`"
      :written="jig.name"
      hint="First part of the names of its members; edits follow the name"
    />
    <component :is="forms[jig.kind as Kind]" :jig="jig as never" :path="`jigs.${i}`" />
    <template v-if="jig.kind !== 'bracing'">
      <SectionField
        v-for="(value, key) in jig.sections"
        :key="key"
        :label="String(key).replace('_', ' ')"
        :path="`jigs.${i}.sections.${key}`"
        :value="value ?? ''"
      />
    </template>
    <p class="note">
      <ElButton size="small" :disabled="!bench.mayChange" @click="copy(i)">Copy</ElButton>
      <ElButton
        size="small"
        :disabled="!bench.mayChange"
        @click="bench.operate(`Jig ${jig.name} released`, { do: 'release', jig: jig.name })"
        >Release into free members</ElButton
      >
      <ElButton size="small" :disabled="!bench.mayChange" @click="remove(i)">Remove</ElButton>
    </p>
  </FoldPart>
</template>

<style scoped>
.add {
  padding-top: 10px;
}
.add :deep(.el-button) {
  margin: 0 4px 4px 0;
}
</style>
