<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import NumberField from '../../components/NumberField.vue'
import TextField from '../../components/TextField.vue'
import ToggleField from '../../components/ToggleField.vue'
import { typedPoint } from '../../lib/snaps'
import { readHold } from '../../lib/releases'
import { readVector } from '../../lib/vectors'
import { readSpacings } from '../../lib/spacings'
import { added, removed, unnamed } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'
import DeckPart from './DeckPart.vue'

const bench = useWorkbench()
const section = ref('HEA 200')
const role = ref('member')
const behaviour = ref('beam')
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
  'wall bracing',
  'roof bracing',
  'web',
]
const BEHAVIOURS = ['beam', 'bar', 'tension-only', 'compression-only', 'rigid link']

function start() {
  bench.drawing = { points: [], section: section.value, role: role.value as 'member', behaviour: behaviour.value }
}
// what is chosen while a line is drawn counts for it
watch([section, role, behaviour], () => {
  if (bench.drawing)
    bench.drawing = {
      ...bench.drawing,
      section: section.value,
      role: role.value as 'member',
      behaviour: behaviour.value,
    }
})
function last(): readonly number[] | null {
  const p = bench.drawing?.points.at(-1)
  if (!p) return null
  if (typeof p !== 'string') return p
  return bench.chain?.nodes?.[bench.chain.node_names!.indexOf(p)] ?? null
}
function put() {
  const basis = bench.looking ?? { u: [1, 0, 0], v: [0, 0, 1] }
  const found = typedPoint(point.value, last(), basis)
  if (typeof found === 'string') {
    wrong.value = found
    return
  }
  wrong.value = ''
  point.value = ''
  if (!bench.drawing) start()
  bench.drawing = { ...bench.drawing!, points: [...bench.drawing!.points, found] }
}

/** The points drawn so far become the corners of a panel. */
async function makePanel() {
  const panels = bench.document?.panels ?? []
  const taken = new Set(panels.map((p) => p.name))
  let number = 1
  while (taken.has(`panel ${number}`)) number++
  const value = { name: `panel ${number}`, corners: bench.drawing!.points }
  const done = await bench.edit(`Panel ${number}`, added('panels', value))
  wrong.value = done ? '' : (bench.refusal?.message ?? '')
  if (done) bench.drawing = null
}
const dropPanel = (name: string) =>
  bench.edit(`${name} removed`, [
    ...unnamed('panels', bench.document?.panels, name),
    ...removed('panel_loads', ...(bench.document?.panel_loads ?? []).filter((load) => load.panel === name)),
  ])

// what is done to chosen members
const names = computed(() => [...bench.chosen])
const step = ref('0, 6, 0')
const count = ref(1)
const angle = ref(90)
const about = ref('0, 0, 0')
const mirrorAxis = ref<'X' | 'Y' | 'Z'>('X')
const mirrorAt = ref(0)
const pieces = ref(2)
const target = ref('')
const vector = (text: string): [number, number, number] | null => {
  const found = readVector(text)
  if (typeof found === 'string') {
    wrong.value = found
    return null
  }
  wrong.value = ''
  return found.value as [number, number, number]
}
function many(what: string) {
  return `${what} ${names.value.length === 1 ? (bench.member?.label ?? names.value[0]) : `${names.value.length} members`}`
}
function shift(copy: boolean) {
  const by = vector(step.value)
  if (!by) return
  if (copy)
    void bench.operate(many('Copied'), {
      do: 'copy',
      members: names.value,
      step: by,
      count: count.value,
      supports: true,
    })
  else void bench.operate(many('Moved'), { do: 'move', members: names.value, nodes: [], step: by })
}
function turn() {
  const at = vector(about.value)
  if (at)
    void bench.operate(many('Turned'), {
      do: 'rotate',
      members: names.value,
      about: at,
      axis: 'Z',
      angle: angle.value,
      count: count.value,
    })
}
const mirror = () =>
  bench.operate(many('Mirrored'), { do: 'mirror', members: names.value, axis: mirrorAxis.value, at: mirrorAt.value })
const divide = (cut: boolean) =>
  bench.operate(many(cut ? 'Cut' : 'Divided'), { do: 'divide', members: names.value, parts: pieces.value, cut })
const join = () => bench.operate(many('Joined'), { do: 'join', members: names.value })
const cross = () => bench.operate(many('Joined at crossings'), { do: 'cross', members: names.value })
const trim = () => bench.operate(many('Trimmed'), { do: 'trim', members: names.value, to: target.value })
/** Nodes of what is chosen that lie lowest: the feet. */
const feet = computed(() => {
  const nodes = [...new Set(bench.picked.flatMap((m) => [m.line[0]!, m.line.at(-1)!]))]
  const least = Math.min(...nodes.map((n) => bench.chain!.nodes![n]![2]))
  return nodes.filter((n) => bench.chain!.nodes![n]![2] < least + 0.01).map((n) => bench.chain!.node_names![n]!)
})
const ends = computed(() =>
  [...new Set(bench.picked.flatMap((m) => [m.line[0]!, m.line.at(-1)!]))].map((n) => bench.chain!.node_names![n]!),
)
const HOLDS = { pinned: 'x y z rz', fixed: 'x y z rx ry rz', sliding: 'y z rz', none: '' }
const held = ref('x y z+ rz ry=5000')
const heldTurn = ref(0)
const settled = ref('0, 0, 0')
function support(words: string, text: string, turn = 0, settlement: [number, number, number] = [0, 0, 0]) {
  const found = readHold(text)
  if (typeof found === 'string') {
    wrong.value = found
    return
  }
  wrong.value = ''
  void bench.operate(`Supports ${words}`, { do: 'support', nodes: feet.value, ...found, turn, settlement })
}
function supportSo() {
  const settlement = vector(settled.value)
  if (settlement) support(held.value, held.value, heldTurn.value, settlement)
}
function extrude() {
  const by = vector(step.value)
  if (by)
    void bench.operate(`Members from ${ends.value.length} nodes`, {
      do: 'extrude',
      nodes: ends.value,
      step: by,
      count: count.value,
      section: section.value,
      role: role.value as 'member',
      material: bench.hall?.grade ?? 'S355',
    })
}

// grid lines and levels by hand
const gridAxis = ref<'X' | 'Y'>('X')
const gridFrom = ref(0)
const gridList = ref('3*6')
function addGrid() {
  const found = readSpacings(gridList.value)
  if (typeof found === 'string') {
    wrong.value = found
    return
  }
  wrong.value = ''
  const taken = new Set((bench.chain?.grid ?? []).map((g) => g.name))
  const places = found.value.reduce((all, by) => [...all, all.at(-1)! + by], [gridFrom.value])
  let n = 0
  const next = () => {
    for (;;) {
      const name =
        gridAxis.value === 'X'
          ? String.fromCharCode(65 + (n % 26)) + (n >= 26 ? Math.floor(n / 26) : '')
          : String(n + 1)
      n++
      if (!taken.has(name)) return name
    }
  }
  const lines = places.map((at) => ({ name: next(), axis: gridAxis.value, at: Number(at.toFixed(6)) }))
  void bench.edit('Grid lines added', added('grid', ...lines))
}
const levelName = ref('')
const levelHeight = ref(3)
const levelBase = ref('')
const levels = computed(() => bench.chain?.levels ?? [])
function addLevel() {
  const below = levels.value.find((v) => v.name === levelBase.value)?.height ?? 0
  const name = levelName.value.trim() || `Level ${(bench.document?.levels?.length ?? 0) + 1}`
  const level = { name, height: Number((below + levelHeight.value).toFixed(6)) }
  void bench.edit(`Level ${name} at ${level.height} m`, added('levels', level))
}
function dropLevel(name: string) {
  void bench.edit(`Level ${name} removed`, unnamed('levels', bench.document?.levels, name))
}
const own = computed(() => bench.document?.grid ?? [])
</script>

<template>
  <h4>Draw <span>in the plane that is looked at</span></h4>
  <div class="form">
    <label>Section <input v-model="section" list="sections" aria-label="Section to draw" /></label>
    <label
      >Role
      <select v-model="role">
        <option v-for="r in ROLES" :key="r">{{ r }}</option>
      </select></label
    >
    <label
      >Behaviour
      <select v-model="behaviour">
        <option v-for="b in BEHAVIOURS" :key="b">{{ b }}</option>
      </select></label
    >
    <label
      title="x, y, z in metres; @ dx, dy, dz from the last point; 6 < 30 for a length and a direction in the plane"
    >
      Point
      <input v-model="point" placeholder="x, y, z   or   6 < 30" aria-label="Typed point" @keydown.enter="put" />
    </label>
    <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
    <p class="buttons">
      <button v-if="!bench.drawing" class="plate solid" @click="start">Draw members</button>
      <template v-else>
        <button class="plate solid" :disabled="bench.drawing.points.length < 2" @click="bench.drawn()">
          Make {{ Math.max(bench.drawing.points.length - 1, 0) }} (Enter)
        </button>
        <button
          class="plate"
          :disabled="bench.drawing.points.length < 3"
          title="A floor or surface between these points, carried by the beams that lie in it"
          @click="makePanel"
        >
          Make a panel
        </button>
        <button class="plate" @click="bench.drawing = null">Stop (Esc)</button>
      </template>
    </p>
    <p v-if="bench.drawing && !bench.looking" class="note">
      Type points, or choose a plane in the key plan to draw in it by pointing.
    </p>
  </div>

  <template v-if="bench.document?.panels?.length">
    <h4>Panels by hand</h4>
    <template v-for="(p, i) in bench.document.panels" :key="p.name">
      <p class="buttons">
        <b>{{ p.name }}</b>
        <button class="quiet" @click="bench.openPanel(p.name)">lay flat</button>
        <button class="quiet" :title="`Remove ${p.name}`" @click="dropPanel(p.name)">×</button>
      </p>
      <NumberField label="Deck and finishes" :path="`panels.${i}.permanent`" kind="pressure" :value="p.permanent" />
      <NumberField label="Imposed" :path="`panels.${i}.imposed`" kind="pressure" :value="p.imposed" />
      <ToggleField label="Spans two ways" :path="`panels.${i}.two_way`" :value="p.two_way" />
      <DeckPart :path="`panels.${i}`" :diaphragm="p.diaphragm ?? 'none'" :membrane="p.membrane" />
      <ToggleField
        label="Imposed reduced by area, α_A"
        :path="`panels.${i}.reduced`"
        :value="p.reduced"
        hint="EN 1991-1-1 6.3.1.2(10), categories A to D"
      />
      <NumberField
        label="Snow, μ"
        :path="`panels.${i}.snow`"
        kind="factor"
        :value="p.snow"
        optional="none"
        hint="Shape coefficient with which it takes part in the generated snow"
      />
      <NumberField
        v-for="d in ['left', 'right', 'front', 'back'] as const"
        :key="d"
        :label="`Wind from the ${d}, net c_p`"
        :path="`panels.${i}.wind.${d}`"
        kind="factor"
        :value="p.wind?.[d]"
        optional="none"
        hint="Net pressure coefficient, pressing from outside, with q_p at its top"
      />
    </template>
  </template>

  <h4>
    Chosen
    <span>{{ names.length || 'nothing' }}{{ names.length ? (names.length === 1 ? ' member' : ' members') : '' }}</span>
  </h4>
  <p v-if="!names.length" class="note">
    Point at members, or drag a window: from left to right it takes what it encloses, from right to left what it
    touches. Shift adds.
  </p>
  <div v-else class="form">
    <label>Step (x, y, z) <input v-model="step" /></label>
    <label>Times <input v-model.number="count" type="number" min="1" max="200" /></label>
    <p class="buttons">
      <button class="plate" @click="shift(true)">Copy</button>
      <button class="plate" @click="shift(false)">Move</button>
      <button class="plate" title="A member from each end of what is chosen, along the step" @click="extrude">
        Extrude ends
      </button>
    </p>
    <label>Turn by ° <input v-model.number="angle" type="number" /></label>
    <label>about (x, y, z) <input v-model="about" /></label>
    <label>
      Mirror in
      <span class="two"
        ><select v-model="mirrorAxis">
          <option>X</option>
          <option>Y</option>
          <option>Z</option>
        </select>
        = <input v-model.number="mirrorAt" type="number" step="any"
      /></span>
    </label>
    <p class="buttons">
      <button class="plate" @click="turn">Turn copies</button>
      <button class="plate" @click="mirror">Mirror</button>
    </p>
    <label>Parts <input v-model.number="pieces" type="number" min="2" max="100" /></label>
    <label>Trim to <input v-model="target" placeholder="name of a member" /></label>
    <p class="buttons">
      <button class="plate" title="Nodes on the members; they stay whole" @click="divide(false)">Divide</button>
      <button class="plate" @click="divide(true)">Cut</button>
      <button class="plate" :disabled="names.length < 2" @click="join">Join</button>
      <button
        class="plate"
        :disabled="names.length < 2"
        title="A node where they cross, through which they pass"
        @click="cross"
      >
        At crossings
      </button>
      <button class="plate" :disabled="!target" @click="trim">Trim</button>
    </p>
    <p class="buttons">
      Feet:
      <button v-for="(text, kind) in HOLDS" :key="kind" class="plate" @click="support(kind, text)">
        {{ kind }}
      </button>
    </p>
    <label
      title="x y z hold, rx ry rz clamp; z+ only pushes back and may lift off; ry=5000 is a spring in kNm/rad, z=2000 in kN/m"
      >Feet held in <input v-model="held" aria-label="Directions that hold the feet"
    /></label>
    <label title="The support's own axes, turned about Z"
      >Turned by ° <input v-model.number="heldTurn" type="number" step="any" aria-label="Turn of the supports"
    /></label>
    <label title="Imposed movement along X, Y, Z in metres"
      >Settles by m <input v-model="settled" aria-label="Settlement of the supports"
    /></label>
    <p class="buttons">
      <button class="plate" :disabled="!feet.length" @click="supportSo">Support the feet so</button>
    </p>
  </div>

  <h4>Grid lines and levels</h4>
  <div class="form">
    <label>
      Lines across
      <span class="two"
        ><select v-model="gridAxis" aria-label="Axis of the grid lines">
          <option>X</option>
          <option>Y</option>
        </select>
        from <input v-model.number="gridFrom" type="number" step="any" aria-label="First grid line at"
      /></span>
    </label>
    <label>Spacings <input v-model="gridList" placeholder="3*6 + 4.5" aria-label="Spacings of the grid lines" /></label>
    <p class="buttons"><button class="plate" @click="addGrid">Add grid lines</button></p>
    <label>Level <input v-model="levelName" placeholder="name" aria-label="Name of the level" /></label>
    <label>
      Height m
      <span class="two"
        ><input v-model.number="levelHeight" type="number" step="any" aria-label="Height of the level" />
        <select v-model="levelBase" aria-label="Height counted from">
          <option value="">above ±0</option>
          <option v-for="v in levels" :key="v.name" :value="v.name">above {{ v.name }}</option>
        </select></span
      >
    </label>
    <p class="buttons"><button class="plate" @click="addLevel">Add level</button></p>
  </div>
  <TextField
    v-for="(line, i) in own"
    :key="line.name"
    :label="`Grid ${line.name} (${line.axis})`"
    :path="`grid.${i}.at`"
    :written="String(line.at)"
    :read="
      (text: string) => (Number.isFinite(Number(text)) ? { value: Number(text) } : 'A number of metres is needed.')
    "
  />
  <ul class="levels">
    <li v-for="v in levels" :key="v.name">
      <span>{{ v.name }}</span><b class="mono">{{ v.height.toFixed(3) }} m</b>
      <button v-if="v.own" class="quiet" :title="`Remove level ${v.name}`" @click="dropLevel(v.name)">×</button>
    </li>
  </ul>
</template>

<style scoped>
.two {
  display: flex;
  gap: 5px;
  align-items: center;
}
.two input {
  flex: 1;
  width: 60px;
}
.levels {
  list-style: none;
  margin: 0 12px 8px;
  padding: 0;
  font: 400 12.5px var(--condensed);
}
.levels li {
  display: flex;
  gap: 8px;
  justify-content: space-between;
}
.levels b {
  font-weight: 400;
  margin-left: auto;
}
</style>
