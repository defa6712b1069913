<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import { readHold } from '../../../lib/releases'
import { readVector } from '../../../lib/vectors'
import { useWorkbench } from '../../../stores/workbench'

/** What is done to the chosen members: copies, cuts, supports. section, role: of members that are extruded. */
const props = defineProps<{ section: string; role: string }>()
const bench = useWorkbench()
const wrong = ref('')
const names = computed(() => [...bench.chosen])
const step = ref('0, 6, 0')
const times = ref('1')
const across = ref('')
const rows = ref('')
const withLoads = ref(false)
const angle = ref('90')
const about = ref('0, 0, 0')
const mirrorAxis = ref<'X' | 'Y' | 'Z'>('X')
const mirrorAt = ref('0')
const pieces = ref('2')
const target = ref('')
type Vector = [number, number, number]
function vector(text: string): Vector | null {
  const found = readVector(text)
  wrong.value = typeof found === 'string' ? found : ''
  return typeof found === 'string' ? null : (found.value as Vector)
}
function numberOf(text: string, what: string): number | null {
  const value = Number(text.replace(',', '.').replace('−', '-'))
  const sound = text.trim() !== '' && Number.isFinite(value)
  wrong.value = sound ? '' : `${what}: a number is needed.`
  return sound ? value : null
}
const many = (what: string) =>
  `${what} ${names.value.length === 1 ? (bench.member?.label ?? names.value[0]) : `${names.value.length} members`}`
async function operate(
  label: string,
  ...operations: Parameters<typeof bench.operate> extends [string, ...infer O] ? O : never
) {
  const done = await bench.operate(label, ...operations)
  wrong.value = done ? '' : (bench.refusal?.message ?? '')
}
function shift(copy: boolean) {
  const by = vector(step.value)
  if (!by) return
  if (!copy) return operate(many('Moved'), { do: 'move', members: names.value, nodes: [], step: by })
  const count = numberOf(times.value, 'Times')
  const second = across.value.trim() ? vector(across.value) : ([0, 0, 0] as Vector)
  if (count === null || !second) return
  const lines = rows.value.trim() ? numberOf(rows.value, 'Rows') : across.value.trim() ? 1 : 0
  if (lines === null) return
  return operate(many('Copied'), {
    do: 'copy',
    members: names.value,
    step: by,
    count,
    across: second,
    rows: lines,
    supports: true,
    loads: withLoads.value,
  })
}
function turn() {
  const at = vector(about.value)
  const by = at && numberOf(angle.value, 'Turn by')
  const count = by === null ? null : numberOf(times.value, 'Times')
  if (at && by !== null && count !== null)
    void operate(many('Turned'), {
      do: 'rotate',
      members: names.value,
      about: at,
      axis: 'Z',
      angle: by,
      count,
      supports: true,
      loads: withLoads.value,
    })
}
function mirror() {
  const at = numberOf(mirrorAt.value, 'Mirror at')
  if (at !== null)
    void operate(many('Mirrored'), {
      do: 'mirror',
      members: names.value,
      axis: mirrorAxis.value,
      at,
      supports: true,
      loads: withLoads.value,
    })
}
function divide(cut: boolean) {
  const parts = numberOf(pieces.value, 'Parts')
  if (parts !== null) void operate(many(cut ? 'Cut' : 'Divided'), { do: 'divide', members: names.value, parts, cut })
}
const join = () => operate(many('Joined'), { do: 'join', members: names.value })
const cross = () => operate(many('Joined at crossings'), { do: 'cross', members: names.value })
const trim = () => operate(many('Trimmed'), { do: 'trim', members: names.value, to: target.value })

// supports
const nodeAt = (n: number) => bench.chain!.nodes![n]!
const ends = computed(() => [...new Set(bench.picked.flatMap((m) => [m.line[0]!, m.line.at(-1)!]))])
const feet = computed(() => {
  const least = Math.min(...ends.value.map((n) => nodeAt(n)[2]))
  return ends.value.filter((n) => nodeAt(n)[2] < least + 0.01)
})
const where = ref<'feet' | 'ends' | 'nodes'>('feet')
const typedNodes = ref('')

const nodes = computed(() => {
  if (where.value === 'nodes')
    return typedNodes.value
      .split(/\s*[,;]\s*/)
      .map((name) => name.trim())
      .filter(Boolean)
  return (where.value === 'feet' ? feet.value : ends.value).map((n) => bench.chain!.node_names![n]!)
})
const HOLDS = ['pinned', 'fixed', 'sliding', 'none'] as const
/** The axis that a node's member runs along, most nearly: about it a pinned support holds against spinning, along it a sliding one
 * gives way. */
function axisAt(name: string): 'x' | 'y' | 'z' {
  const n = bench.chain!.node_names!.indexOf(name)
  const at = (m: (typeof bench.picked)[number]) => m.line.includes(n)
  const member = bench.picked.find(at) ?? bench.chain!.members!.find(at)
  if (!member) return 'z'
  const [a, b] = [nodeAt(member.line[0]!), nodeAt(member.line.at(-1)!)]
  const way = [0, 1, 2].map((i) => Math.abs(b[i]! - a[i]!))
  return (['x', 'y', 'z'] as const)[way.indexOf(Math.max(...way))]!
}
function directionsOf(kind: (typeof HOLDS)[number], axis: 'x' | 'y' | 'z'): string {
  if (kind === 'none') return ''
  if (kind === 'fixed') return 'x y z rx ry rz'
  const slides = axis === 'z' ? 'x' : axis
  const held = ['x', 'y', 'z'].filter((way) => kind === 'pinned' || way !== slides)
  return [...held, `r${axis}`].join(' ')
}
/** One of the usual supports, by node as its member runs. */
function supportAs(kind: (typeof HOLDS)[number]) {
  wrong.value = nodes.value.length ? '' : 'Name the nodes that are held.'
  if (wrong.value) return
  const byAxis = new Map<'x' | 'y' | 'z', string[]>()
  for (const name of nodes.value) byAxis.set(axisAt(name), [...(byAxis.get(axisAt(name)) ?? []), name])
  void operate(
    `Supports ${kind}`,
    ...[...byAxis].flatMap(([axis, own]) => {
      const found = readHold(directionsOf(kind, axis))
      return typeof found === 'string'
        ? []
        : [{ do: 'support' as const, nodes: own, ...found, turn: 0, settlement: [0, 0, 0] as Vector }]
    }),
  )
}
const hold = ref('x y z+ rz ry=5000')
const heldTurn = ref('0')
const settled = ref('0, 0, 0')
function supportSo() {
  const found = readHold(hold.value)
  wrong.value = typeof found === 'string' ? found : ''
  if (typeof found === 'string') return
  const settlement = vector(settled.value)
  const turned = settlement && numberOf(heldTurn.value, 'Turned by')
  if (!settlement || turned === null) return
  void operate(`Supports ${hold.value}`, { do: 'support', nodes: nodes.value, ...found, turn: turned, settlement })
}
function extrude() {
  const by = vector(step.value)
  const count = by && numberOf(times.value, 'Times')
  if (!by || count === null) return
  void operate(`Members from ${ends.value.length} nodes`, {
    do: 'extrude',
    nodes: ends.value.map((n) => bench.chain!.node_names![n]!),
    step: by,
    count,
    section: props.section,
    role: props.role as 'member',
    material: bench.hall?.grade ?? 'S355',
  })
}
</script>

<template>
  <h4>
    Chosen
    <span>{{ names.length || 'nothing' }}{{ names.length ? (names.length === 1 ? ' member' : ' members') : '' }}</span>
  </h4>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <p v-if="!names.length" class="note">
    Point at members, or drag a window: from left to right it takes what it encloses, from right to left what it
    touches. Shift adds.
  </p>
  <template v-else>
    <div class="load-grid">
      <span>Step (x, y, z)</span>
      <ElInput v-model="step" size="small" aria-label="Step" />
      <span>Times</span>
      <ElInput v-model="times" size="small" aria-label="Times" />
      <span title="All of it again by another step: an array in two directions">Second step</span>
      <ElInput v-model="across" size="small" aria-label="Second step" placeholder="none" />
      <template v-if="across.trim()">
        <span>Times that way</span>
        <ElInput v-model="rows" size="small" aria-label="Times the second way" placeholder="1" />
      </template>
    </div>
    <p class="note acts">
      <ElButton size="small" @click="shift(true)">Copy</ElButton>
      <ElButton size="small" @click="shift(false)">Move</ElButton>
      <ElButton size="small" title="A member from each end of what is chosen, along the step" @click="extrude"
        >Extrude ends</ElButton
      >
      <ElCheckbox v-model="withLoads" size="small" aria-label="Copy loads too">with loads</ElCheckbox>
    </p>
    <div class="load-grid">
      <span>Turn by, °</span>
      <ElInput v-model="angle" size="small" aria-label="Turn by" />
      <span>about (x, y, z)</span>
      <ElInput v-model="about" size="small" aria-label="Turn about" />
      <span>Mirror in the plane</span>
      <span class="two">
        <ElSelect v-model="mirrorAxis" size="small" aria-label="Axis of the mirror">
          <ElOption v-for="a in ['X', 'Y', 'Z']" :key="a" :value="a" :label="a" />
        </ElSelect>
        = <ElInput v-model="mirrorAt" size="small" aria-label="Mirror at" />
      </span>
    </div>
    <p class="note acts">
      <ElButton size="small" @click="turn">Turn copies</ElButton>
      <ElButton size="small" @click="mirror">Mirror</ElButton>
    </p>
    <div class="load-grid">
      <span>Parts</span>
      <ElInput v-model="pieces" size="small" aria-label="Parts" />
      <span>Trim to</span>
      <ElInput v-model="target" size="small" placeholder="name of a member" aria-label="Trim to" />
    </div>
    <p class="note acts">
      <ElButton size="small" title="Nodes on the members; they stay whole" @click="divide(false)">Divide</ElButton>
      <ElButton size="small" @click="divide(true)">Cut</ElButton>
      <ElButton size="small" :disabled="names.length < 2" @click="join">Join</ElButton>
      <ElButton
        size="small"
        :disabled="names.length < 2"
        title="A node where they cross, through which they pass"
        @click="cross"
        >At crossings</ElButton
      >
      <ElButton size="small" :disabled="!target" @click="trim">Trim</ElButton>
    </p>
    <h4>
      Supports <span>{{ nodes.length }} nodes</span>
    </h4>
    <div class="load-grid">
      <span>At</span>
      <ElSelect v-model="where" size="small" aria-label="Where the supports are">
        <ElOption value="feet" label="the feet of what is chosen" />
        <ElOption value="ends" label="all its ends" />
        <ElOption value="nodes" label="nodes by name" />
      </ElSelect>
      <template v-if="where === 'nodes'">
        <span>Nodes</span>
        <ElInput v-model="typedNodes" size="small" placeholder="n1, n2" aria-label="Nodes that are supported" />
      </template>
    </div>
    <p class="note acts holds">
      <ElButton v-for="kind in HOLDS" :key="kind" size="small" @click="supportAs(kind)">{{ kind }}</ElButton>
    </p>
    <div class="load-grid">
      <span
        title="x y z hold, rx ry rz clamp; z+ only pushes back and may lift off; ry=5000 is a spring in kNm/rad, z=2000 in kN/m"
        >or held in</span
      >
      <ElInput v-model="hold" size="small" aria-label="Directions that hold the feet" />
      <span title="The support's own axes, turned about Z">Turned by, °</span>
      <ElInput v-model="heldTurn" size="small" aria-label="Turn of the supports" />
      <span title="Imposed movement along X, Y, Z in metres">Settles by, m</span>
      <ElInput v-model="settled" size="small" aria-label="Settlement of the supports" />
    </div>
    <p class="note"><ElButton size="small" :disabled="!nodes.length" @click="supportSo">Support so</ElButton></p>
  </template>
</template>

<style scoped>
.two {
  display: flex;
  gap: 5px;
  align-items: center;
}
.two :deep(.el-select) {
  width: 64px;
}
.acts :deep(.el-button),
.acts :deep(.el-checkbox) {
  margin: 0 6px 4px 0;
}
</style>
