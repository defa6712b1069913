<script setup lang="ts">
/** What is chosen is changed as one: section, ends, offset, haunches … */
import { ElButton, ElInput } from 'element-plus'
import { ref } from 'vue'
import PickList from '../../../components/PickList.vue'
import { parseQuantity } from '../../../lib/quantity'
import { readHaunch, type Haunch } from '../../../lib/haunches'
import { readEnd } from '../../../lib/releases'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const each = <T extends string>(values: readonly T[]) => values.map((value) => ({ value, label: value || 'as it is' }))
const BEHAVIOURS = ['', 'beam', 'bar', 'tension-only', 'compression-only', 'rigid link']
const LIES_AT = ['', 'centre', 'top flange', 'bottom flange', 'left side', 'right side']
const section = ref('')
const grade = ref('')
const roll = ref('')
const group = ref('')
const behaviour = ref('')
const align = ref('')
const offset = ref('')
const ends = ref('')
const bears = ref('')
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
  const bearing = bears.value.trim().toLowerCase()
  const before = ['axis', 'as stated'].includes(bearing) ? bearing : parseQuantity(bearing, 'length')
  if (bearing && typeof before === 'string' && before !== bearing) wrong.value = before
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
        ...(bearing && { bears_at: before as number | 'axis' | 'as stated' }),
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
      bears.value =
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
</script>

<template>
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
      >Behaviour <PickList v-model="behaviour" :options="each(BEHAVIOURS)" label="New behaviour" placeholder="as it is"
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
      title="Where it is hinged to a column: metres in front of the column's face, axis, or as stated for all (Response)"
      >Bears at <ElInput v-model="bears" size="small" aria-label="Bears at" placeholder="0.1, axis, as stated"
    /></label>
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

<style scoped>
.buttons {
  padding: 0 12px 4px;
  margin: 0;
}
.buttons .el-input {
  width: 84px;
}
.flange {
  width: 78px;
}
</style>
