<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import { divisions, useHandwork, type Vector } from '../../../lib/handwork'
import { useWorkbench } from '../../../stores/workbench'
import SupportChosen from './SupportChosen.vue'

/** What is done to the chosen members: copies, cuts, supports. section, role: of members that are extruded. */
const props = defineProps<{ section: string; role: string }>()
const bench = useWorkbench()
const { wrong, vector, numberOf, operate } = useHandwork()
const names = computed(() => [...bench.chosen])
const step = ref('0, 6, 0')
const times = ref('1')
const across = ref('')
const rows = ref('')
const withLoads = ref(false)
const withPanels = ref(true)
const angle = ref('90')
const about = ref('0, 0, 0')
const mirrorAxis = ref<'X' | 'Y' | 'Z'>('X')
const mirrorAt = ref('0')
const pieces = ref('2')
const target = ref('')
const many = (what: string) =>
  `${what} ${names.value.length === 1 ? (bench.member?.label ?? names.value[0]) : `${names.value.length} members`}`
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
    panels: withPanels.value,
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
      panels: withPanels.value,
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
      panels: withPanels.value,
    })
}
function divide(cut: boolean) {
  const label = many(cut ? 'Cut' : 'Divided')
  const found = bench.picked.map((m) => ({ members: [m.name], by: divisions(pieces.value, m.length) }))
  const first = found[0]?.by
  wrong.value = found.map((f) => f.by).find((by) => typeof by === 'string') ?? ''
  if (wrong.value || !first || typeof first === 'string') return
  // into equal parts they are divided together, at distances each by its own length
  if ('parts' in first) void operate(label, { do: 'divide', members: names.value, ...first, at: [], cut })
  else
    void operate(
      label,
      ...found.flatMap(({ members, by }) =>
        typeof by === 'string' || 'parts' in by ? [] : [{ do: 'divide' as const, members, ...by, cut }],
      ),
    )
}
const join = () => operate(many('Joined'), { do: 'join', members: names.value })
const cross = () => operate(many('Joined at crossings'), { do: 'cross', members: names.value })
const trim = () => operate(many('Trimmed'), { do: 'trim', members: names.value, to: target.value })

const ends = computed(() => [...new Set(bench.picked.flatMap((m) => [m.line[0]!, m.line.at(-1)!]))])
function extrude() {
  const by = vector(step.value)
  const count = by && numberOf(times.value, 'Times')
  if (!by || count === null) return
  void operate(`Members from ${ends.value.length} nodes`, {
    do: 'extrude',
    nodes: ends.value.map((n) => bench.chain!.node_names[n]!),
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
      <ElCheckbox
        v-model="withPanels"
        size="small"
        aria-label="Copy panels too"
        title="Floors, slabs, roofs and walls that rest on nothing but what is copied"
        >with panels</ElCheckbox
      >
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
      <span title="A number of equal parts; or shares of the length, 30 % 70 %; or distances from the start, 2.5 4 m"
        >Parts, or where</span
      >
      <ElInput v-model="pieces" size="small" aria-label="Parts" placeholder="2,  30 %  or  2.5 4 m" />
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
    <SupportChosen @wrong="wrong = $event" />
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
