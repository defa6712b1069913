<script setup lang="ts">
import { ElButton, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { added } from '../../../lib/changes'
import { typedPoint } from '../../../lib/snaps'
import { useWorkbench } from '../../../stores/workbench'

/** Drawing members and panels: what the fields say when a member is made is what it becomes. */
const section = defineModel<string>('section', { required: true })
const role = defineModel<string>('role', { required: true })
const bench = useWorkbench()
const behaviour = ref('beam')
const material = ref('')
const roll = ref('0')
const ends = ref('rigid – rigid')
const point = ref('')
const wrong = ref('')
const ROLES = [
  'member',
  'column',
  'rafter',
  'main beam',
  'joist',
  'purlin',
  'side rail',
  'strut',
  'tie',
  'top chord',
  'bottom chord',
  'wall bracing',
  'roof bracing',
  'web',
]
const BEHAVIOURS = ['beam', 'bar', 'tension-only', 'compression-only', 'rigid link']
type Freedom = 'ry' | 'rz'
const HINGE: Freedom[] = ['ry', 'rz']
const ENDS: Record<string, { start: Freedom[]; end: Freedom[] }> = {
  'rigid – rigid': { start: [], end: [] },
  'hinged – hinged': { start: HINGE, end: HINGE },
  'hinged – rigid': { start: HINGE, end: [] },
  'rigid – hinged': { start: [], end: HINGE },
}
const said = computed(() => ({
  section: section.value,
  role: role.value as 'member',
  behaviour: behaviour.value,
  material: material.value.trim() || (bench.hall?.grade ?? 'S355'),
  roll: Number(roll.value.replace(',', '.')) || 0,
  releases: { ...ENDS[ends.value]!, start_springs: {}, end_springs: {} },
}))
function start() {
  bench.drawing = { points: [], ...said.value }
}
watch(said, (now) => {
  if (bench.drawing) bench.drawing = { ...bench.drawing, ...now }
})
function last(): readonly number[] | null {
  const p = bench.drawing?.points.at(-1)
  if (!p) return null
  if (typeof p !== 'string') return p
  return bench.chain?.nodes?.[bench.chain.node_names.indexOf(p)] ?? null
}
/** One typed point, several parted by semicolons; an empty Enter makes what is drawn. */
function put() {
  if (!point.value.trim() && (bench.drawing?.points.length ?? 0) > 1) return void bench.drawn()
  const basis = bench.looking ?? { u: [1, 0, 0], v: [0, 0, 1] }
  for (const text of point.value
    .split(';')
    .map((part) => part.trim())
    .filter(Boolean)) {
    const found = bench.chain?.node_names?.includes(text) ? text : typedPoint(text, last(), basis)
    if (typeof found === 'string' && found !== text) {
      wrong.value = found
      return
    }
    if (!bench.drawing) start()
    bench.drawing = { ...bench.drawing!, points: [...bench.drawing!.points, found] }
  }
  wrong.value = ''
  point.value = ''
}
/** The points drawn so far become the corners of a panel. */
async function makePanel(kind: 'panel' | 'slab') {
  const taken = new Set(bench.stated.panels.map((p) => p.name))
  let number = 1
  while (taken.has(`${kind} ${number}`)) number++
  const name = `${kind} ${number}`
  const made = bench.drawing!
  const value = { name, corners: made.points, ...(kind === 'slab' ? { diaphragm: 'slab' } : {}) }
  wrong.value = ''
  // what is drawn while the answer comes is something else
  bench.drawing = null
  const done = await bench.edit(name[0]!.toUpperCase() + name.slice(1), added('panels', value))
  if (!done) wrong.value = bench.refusal?.message ?? ''
  if (!done) bench.drawing ??= made
}
</script>

<template>
  <h4>Draw <span>in the plane that is looked at</span></h4>
  <div class="load-grid">
    <span>Section</span>
    <ElInput v-model="section" size="small" list="sections" aria-label="Section to draw" />
    <span>Role</span>
    <ElSelect v-model="role" size="small" aria-label="Role to draw">
      <ElOption v-for="r in ROLES" :key="r" :value="r" :label="r" />
    </ElSelect>
    <span>Behaviour</span>
    <ElSelect v-model="behaviour" size="small" aria-label="Behaviour to draw">
      <ElOption v-for="b in BEHAVIOURS" :key="b" :value="b" :label="b" />
    </ElSelect>
    <span>Ends</span>
    <ElSelect v-model="ends" size="small" aria-label="Ends to draw">
      <ElOption v-for="(_, e) in ENDS" :key="e" :value="e" :label="e" />
    </ElSelect>
    <span>Grade</span>
    <ElInput v-model="material" size="small" :placeholder="bench.hall?.grade ?? 'S355'" aria-label="Grade to draw" />
    <span>Roll, °</span>
    <ElInput v-model="roll" size="small" aria-label="Roll to draw" />
    <span
      title="x, y, z in metres; @ dx, dy, dz from the last point; 6 < 30 for a length and a direction in the plane; the name of a node; several parted by semicolons"
      >Point</span
    >
    <ElInput
      v-model="point"
      size="small"
      placeholder="x, y, z  or  6 < 30"
      aria-label="Typed point"
      @keydown.enter.stop="put"
    />
  </div>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <p class="note">
    <ElButton v-if="!bench.drawing" size="small" type="primary" :disabled="!bench.mayChange" @click="start"
      >Draw members</ElButton
    >
    <template v-else>
      <ElButton size="small" type="primary" :disabled="bench.drawing.points.length < 2" @click="bench.drawn()"
        >Make {{ Math.max(bench.drawing.points.length - 1, 0) }} (Enter)</ElButton
      >
      <ElButton
        size="small"
        :disabled="bench.drawing.points.length < 3"
        title="A floor or surface between these points, carried by the beams that lie in it"
        @click="makePanel('panel')"
        >Make a panel</ElButton
      >
      <ElButton
        size="small"
        :disabled="bench.drawing.points.length < 3"
        title="A concrete slab or wall between these points that bends by itself, joined to what meets it"
        @click="makePanel('slab')"
        >Make a slab</ElButton
      >
      <ElButton size="small" @click="bench.drawing = null">Stop (Esc)</ElButton>
    </template>
  </p>
  <p v-if="bench.drawing && !bench.looking" class="note">
    Type points, or choose a plane in the key plan to draw in it by pointing.
  </p>
</template>
