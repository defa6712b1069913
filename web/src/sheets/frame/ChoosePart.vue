<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { kindOf } from '../../lib/colours'
import { readHaunch, type Haunch } from '../../lib/haunches'
import { readEnd } from '../../lib/releases'
import { named, unnamed } from '../../lib/changes'
import { useWorkbench, type Member } from '../../stores/workbench'
import PickList from '../../components/PickList.vue'

const bench = useWorkbench()
const all = computed(() => bench.chain?.members ?? [])
type By = 'role' | 'section' | 'grade' | 'group' | 'storey' | 'level' | 'frame' | 'direction' | 'jig' | 'length'
const by = ref<By>('role')
const BYS: By[] = ['role', 'section', 'grade', 'group', 'storey', 'level', 'frame', 'direction', 'jig', 'length']
const each = <T extends string>(values: readonly T[]) => values.map((value) => ({ value, label: value || 'as it is' }))
const BEHAVIOURS = ['', 'beam', 'bar', 'tension-only', 'compression-only', 'rigid link']
const LIES_AT = ['', 'centre', 'top flange', 'bottom flange']
const from = ref(0)
const to = ref(3)

function direction(m: Member): string {
  const [a, b] = [bench.chain!.nodes![m.line[0]!]!, bench.chain!.nodes![m.line.at(-1)!]!]
  const d = [0, 1, 2].map((i) => Math.abs(a[i]! - b[i]!) / m.length)
  const along = ['along X', 'along Y', 'upright'][d.findIndex((x) => x > 0.999)]
  return along ?? (d[2]! < 0.02 ? 'level, askew' : 'inclined')
}
function kind(m: Member): string {
  if (by.value === 'frame') return m.frame ? `frame ${m.frame}` : 'no frame'
  if (by.value === 'direction') return direction(m)
  if (by.value === 'jig') return m.jig || 'by hand'
  if (by.value === 'level') {
    const [a, b] = [bench.chain!.nodes![m.line[0]!]![2], bench.chain!.nodes![m.line.at(-1)!]![2]]
    const level = Math.abs(a - b) < 1e-3 ? bench.chain!.levels!.find((v) => Math.abs(v.height - a) < 1e-3) : null
    return level?.name ?? 'between levels'
  }
  if (by.value === 'length') return ''
  return kindOf(m, by.value)
}
const kinds = computed(() => {
  const found = new Map<string, string[]>()
  for (const m of all.value) {
    const key = kind(m)
    if (!key) continue
    const list = found.get(key) ?? []
    list.push(m.name)
    found.set(key, list)
  }
  return [...found].sort(([a], [b]) => a.localeCompare(b, undefined, { numeric: true }))
})
const add = ref(false)
function take(names: string[]) {
  bench.choose(add.value ? [...bench.chosen, ...names] : names)
}
const byLength = () =>
  take(all.value.filter((m) => m.length >= from.value - 1e-6 && m.length <= to.value + 1e-6).map((m) => m.name))
const invert = () =>
  bench.choose(all.value.filter((m) => bench.shows(m) && !bench.chosen.has(m.name)).map((m) => m.name))
function grow() {
  const nodes = new Set(bench.picked.flatMap((m) => m.line))
  bench.choose(all.value.filter((m) => m.line.some((n) => nodes.has(n))).map((m) => m.name))
}
const alone = () => (bench.gone = new Set(all.value.filter((m) => !bench.chosen.has(m.name)).map((m) => m.name)))
const fade = () => (bench.faded = new Set([...bench.faded, ...bench.chosen]))
const hide = () => (bench.gone = new Set([...bench.gone, ...bench.chosen]))
function showAll() {
  bench.gone = new Set()
  bench.faded = new Set()
  bench.hidden = new Set()
}
const name = ref('')
const sets = computed(() => bench.document?.sets ?? [])
const views = computed(() => bench.document?.views ?? [])
function keepSet() {
  const words = name.value.trim()
  if (!words || !bench.chosen.size) return
  const set = { name: words, members: [...bench.chosen] }
  void bench.edit(`Set “${words}” kept`, named('sets', sets.value, set))
  name.value = ''
}
const dropSet = (words: string) => bench.edit(`Set “${words}” dropped`, unnamed('sets', sets.value, words))
function keepView() {
  const words = name.value.trim()
  if (!words) return
  const view = {
    name: words,
    plane: bench.plane,
    colour: bench.colouring,
    hidden: [...bench.hidden, ...[...bench.gone].map((m) => `=${m}`)],
    faded: [...bench.faded],
    alone: [],
  }
  void bench.edit(`View “${words}” kept`, named('views', views.value, view))
  name.value = ''
}
function openView(words: string) {
  const view = views.value.find((v) => v.name === words)!
  bench.hidden = new Set((view.hidden ?? []).filter((h) => !h.startsWith('=')))
  bench.gone = new Set((view.hidden ?? []).filter((h) => h.startsWith('=')).map((h) => h.slice(1)))
  bench.faded = new Set(view.faded ?? [])
  bench.colouring = view.colour as typeof bench.colouring
  bench.look(view.plane ?? 'whole')
}
const dropView = (words: string) => bench.edit(`View “${words}” dropped`, unnamed('views', views.value, words))

// change what is chosen
const section = ref('')
const grade = ref('')
const roll = ref('')
const group = ref('')
const behaviour = ref('')
const align = ref('')
const offset = ref('')
const ends = ref('')
const taper = ref('')
const haunches = ref({ start: '', end: '' })
const letGo = ref({ start: '', end: '' })
const wrong = ref('')
const PRESETS: Record<string, { start: ('ry' | 'rz')[]; end: ('ry' | 'rz')[] }> = {
  'rigid – rigid': { start: [], end: [] },
  'hinged – hinged': { start: ['ry', 'rz'], end: ['ry', 'rz'] },
  'hinged – rigid': { start: ['ry', 'rz'], end: [] },
  'rigid – hinged': { start: [], end: ['ry', 'rz'] },
}
/** Ends from the preset chosen, or freedom by freedom as written. */
function released() {
  if (ends.value !== 'by freedom') {
    const preset = PRESETS[ends.value]
    return preset ? { ...preset, start_springs: {}, end_springs: {} } : null
  }
  const [start, end] = [readEnd(letGo.value.start), readEnd(letGo.value.end)]
  if (typeof start === 'string') return start
  if (typeof end === 'string') return end
  return { start: start.free, end: end.free, start_springs: start.springs, end_springs: end.springs }
}
async function change() {
  const releases = released()
  const moved = offset.value
    .trim()
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number)
  wrong.value = ''
  if (typeof releases === 'string') wrong.value = releases
  else if (offset.value.trim() && (moved.length !== 2 || !moved.every(Number.isFinite)))
    wrong.value = 'An offset is two numbers: along local y and z, in metres.'
  const shaped: Partial<Record<'haunch_start' | 'haunch_end', Haunch>> = {}
  for (const end of ['start', 'end'] as const) {
    if (!haunches.value[end].trim()) continue
    const haunch = readHaunch(haunches.value[end])
    if (typeof haunch === 'string') wrong.value = haunch
    else shaped[`haunch_${end}`] = haunch
  }
  if (wrong.value || typeof releases === 'string') return
  const done = await bench.operate(
    `Changed ${bench.chosen.size === 1 ? bench.member?.label : `${bench.chosen.size} members`}`,
    {
      do: 'change',
      members: [...bench.chosen],
      change: {
        ...(section.value && { section: section.value }),
        ...(grade.value && { material: grade.value }),
        ...(roll.value !== '' && { roll: Number(roll.value) }),
        ...(group.value && { group: group.value }),
        ...(behaviour.value && { behaviour: behaviour.value as 'beam' }),
        ...(align.value && { align: align.value as 'centre' }),
        ...(moved.length === 2 && { offset: { y: moved[0]!, z: moved[1]! } }),
        ...(releases && { releases }),
        ...(taper.value && { end_section: taper.value }),
        ...shaped,
      },
    },
  )
  if (done)
    taper.value =
      haunches.value.start =
      haunches.value.end =
      section.value =
      grade.value =
      roll.value =
      group.value =
      behaviour.value =
      ends.value =
      align.value =
      offset.value =
        ''
  else wrong.value = bench.refusal?.message ?? ''
}
const prismatic = () =>
  bench.operate('Haunches and tapers taken off', {
    do: 'change',
    members: [...bench.chosen],
    change: { prismatic: true },
  })
const flange = ref<'outer' | 'inner' | 'both'>('inner')
const heldAt = ref(1)
const hold = (let_go: boolean) =>
  bench.operate(`${let_go ? 'Let go' : 'Held'} at ${heldAt.value} m`, {
    do: 'restrain',
    members: [...bench.chosen],
    flange: flange.value,
    at: heldAt.value,
    let_go,
  })
const remove = () =>
  bench.operate(`Removed ${bench.chosen.size === 1 ? bench.member?.label : `${bench.chosen.size} members`}`, {
    do: 'remove',
    members: [...bench.chosen],
  })
const restore = () =>
  bench.operate('Edits taken back', { do: 'restore', members: bench.picked.filter((m) => m.edited).map((m) => m.name) })
const removed = computed(() => (bench.document?.edits ?? []).filter((e) => e.removed).map((e) => e.member))
const putBack = (member: string) => bench.operate(`${member} put back`, { do: 'restore', members: [member] })
</script>

<template>
  <h4>
    Chosen <span>{{ bench.chosen.size }} of {{ all.length }}</span>
  </h4>
  <p class="buttons">
    <ElButton size="small" :disabled="!bench.chosen.size" @click="grow">Grow</ElButton>
    <ElButton size="small" @click="invert">Invert</ElButton>
    <ElButton size="small" :disabled="!bench.chosen.size" @click="bench.select('')">None</ElButton>
    <ElButton size="small" :disabled="!bench.chosen.size" @click="alone">Show alone</ElButton>
    <ElButton size="small" :disabled="!bench.chosen.size" @click="fade">Fade</ElButton>
    <ElButton size="small" :disabled="!bench.chosen.size" @click="hide">Hide</ElButton>
    <ElButton size="small" @click="showAll">Show all</ElButton>
  </p>
  <h4>
    Choose by
    <PickList v-model="by" :options="each(BYS)" label="Choose members by" />
  </h4>
  <p v-if="by === 'length'" class="buttons">
    <ElInput v-model.number="from" size="small" type="number" step="any" aria-label="Shortest" /> to
    <ElInput v-model.number="to" size="small" type="number" step="any" aria-label="Longest" /> m
    <ElButton size="small" @click="byLength">Choose</ElButton>
  </p>
  <ul v-else class="kinds">
    <li v-for="[key, names] in kinds" :key="key">
      <button @click="take(names)">
        <span>{{ key }}</span><b class="mono">{{ names.length }}</b>
      </button>
    </li>
  </ul>
  <ElCheckbox v-model="add" class="keep" size="small">add to what is chosen</ElCheckbox>
  <template v-if="bench.chosen.size">
    <h4>Change what is chosen</h4>
    <div class="form">
      <label
        >Section
        <ElInput
          v-model="section"
          size="small"
          list="sections"
          aria-label="New section"
          :placeholder="bench.member?.section"
      /></label>
      <label
        >Grade <ElInput v-model="grade" size="small" aria-label="New grade" :placeholder="bench.member?.material"
      /></label>
      <label>Turned by ° <ElInput v-model="roll" size="small" aria-label="New roll" placeholder="0" /></label>
      <label
        >Group
        <ElInput v-model="group" size="small" aria-label="Design group" :placeholder="bench.member?.group || 'none'"
      /></label>
      <label
        >Behaviour
        <PickList v-model="behaviour" :options="each(BEHAVIOURS)" label="New behaviour" placeholder="as it is"
      /></label>
      <label
        >Ends
        <PickList
          v-model="ends"
          :options="each(['', ...Object.keys(PRESETS), 'by freedom'])"
          label="New end releases"
          placeholder="as they are"
      /></label>
      <template v-if="ends === 'by freedom'">
        <label
          v-for="end in ['start', 'end'] as const"
          :key="end"
          title="x y z slide, rx twists, ry rz bend; ry=5000 is a spring in kNm/rad"
          >{{ end }} lets go
          <ElInput v-model="letGo[end]" size="small" :aria-label="`${end} lets go`" placeholder="ry rz=5000"
        /></label>
      </template>
      <label
        >Line lies at
        <PickList v-model="align" :options="each(LIES_AT)" label="Flange on the line" placeholder="as it is"
      /></label>
      <label title="Along local y and z, in metres"
        >Offset y, z <ElInput v-model="offset" size="small" aria-label="Offset" placeholder="0, 0"
      /></label>
      <label title="Section at the end: the member tapers to it. Both are welded I sections."
        >Tapers to <ElInput v-model="taper" size="small" list="sections" aria-label="Section at the end"
      /></label>
      <label
        v-for="end in ['start', 'end'] as const"
        :key="`haunch ${end}`"
        title="Length along the member × depth added below it, in metres; cut from the member's own section, or name another: 2.4 × 0.30 IPE 450"
        >Haunch at {{ end }}
        <ElInput v-model="haunches[end]" size="small" :aria-label="`Haunch at the ${end}`" placeholder="2.4 × 0.30"
      /></label>
      <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
    </div>
    <p class="buttons">
      <ElButton type="primary" size="small" @click="change">Change {{ bench.chosen.size }}</ElButton>
      <ElButton size="small" @click="remove">Remove</ElButton>
      <ElButton size="small" title="Takes haunches and tapers off" @click="prismatic">Make prismatic</ElButton>
      <ElButton
        v-if="bench.picked.some((m) => m.edited)"
        size="small"
        title="They stand again as their jig sets them"
        @click="restore"
      >
        Take edits back
      </ElButton>
    </p>
    <p class="buttons">
      Hold
      <PickList v-model="flange" :options="each(['outer', 'inner', 'both'])" label="Flange to hold" class="flange" />
      at
      <ElInput v-model.number="heldAt" size="small" type="number" step="any" aria-label="Distance from the start" /> m
      <ElButton size="small" @click="hold(false)">Hold</ElButton>
      <ElButton size="small" @click="hold(true)">Let go</ElButton>
    </p>
  </template>
  <template v-if="removed.length">
    <h4>Taken out of jigs</h4>
    <ul class="kinds">
      <li v-for="m in removed" :key="m">
        <button :title="`Put ${m} back`" @click="putBack(m)">
          <span>{{ m }}</span><b>put back</b>
        </button>
      </li>
    </ul>
  </template>
  <h4>Sets and views</h4>
  <p class="buttons">
    <ElInput v-model="name" size="small" placeholder="name" aria-label="Name of the set or view" />
    <ElButton size="small" :disabled="!name.trim() || !bench.chosen.size" @click="keepSet">Keep as set</ElButton>
    <ElButton size="small" :disabled="!name.trim()" @click="keepView">Keep view</ElButton>
  </p>
  <ul class="kinds">
    <li v-for="s in sets" :key="s.name">
      <button @click="take(s.members)">
        <span>set {{ s.name }}</span
        ><b class="mono">{{ s.members.length }}</b>
      </button>
      <ElButton link type="primary" size="small" :title="`Drop the set ${s.name}`" @click="dropSet(s.name)">×</ElButton>
    </li>
    <li v-for="v in views" :key="v.name">
      <button @click="openView(v.name)">
        <span>view {{ v.name }}</span
        ><b>{{ v.plane }}</b>
      </button>
      <ElButton link type="primary" size="small" :title="`Drop the view ${v.name}`" @click="dropView(v.name)"
        >×</ElButton
      >
    </li>
  </ul>
</template>

<style scoped>
.buttons {
  padding: 0 12px 4px;
  margin: 0;
}
h4 .el-select {
  width: 120px;
}
.buttons .el-input {
  width: 84px;
}
.flange {
  width: 78px;
}
.kinds {
  list-style: none;
  margin: 0;
  padding: 0 8px;
  max-height: 190px;
  overflow: auto;
}
.kinds li {
  display: flex;
}
.kinds li > button:first-child {
  flex: 1;
  display: flex;
  justify-content: space-between;
  border: 0;
  background: none;
  padding: 2px 4px;
  font: 400 12.5px var(--condensed);
  cursor: pointer;
  text-align: left;
}
.kinds li > button:first-child:hover {
  background: var(--chalk-soft);
}
.kinds b {
  font-weight: 400;
  color: var(--ink-2);
}
.keep {
  margin: 0 12px;
}
</style>
