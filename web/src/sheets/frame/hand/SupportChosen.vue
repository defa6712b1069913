<script setup lang="ts">
/** Supports at the feet or the ends of what is chosen, or at nodes by name. */
import { ElButton, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { useHandwork, type Vector } from '../../../lib/handwork'
import { readHold } from '../../../lib/releases'
import { useWorkbench } from '../../../stores/workbench'
import PadChosen from './PadChosen.vue'

const emit = defineEmits<{ wrong: [words: string] }>()
const bench = useWorkbench()
const { wrong, vector, numberOf, operate } = useHandwork()
watch(wrong, (words) => emit('wrong', words))
const nodeAt = (n: number) => bench.chain!.nodes[n]!
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
  return (where.value === 'feet' ? feet.value : ends.value).map((n) => bench.chain!.node_names[n]!)
})
const HOLDS = ['pinned', 'fixed', 'sliding', 'none'] as const
/** The axis that a node's member runs along, most nearly: about it a pinned support holds against spinning, along it a sliding one
 * gives way. */
function axisAt(name: string): 'x' | 'y' | 'z' {
  const n = bench.chain!.node_names.indexOf(name)
  const at = (m: (typeof bench.picked)[number]) => m.line.includes(n)
  const member = bench.picked.find(at) ?? bench.chain!.members.find(at)
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
</script>

<template>
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
  <PadChosen :nodes="nodes" @wrong="(words) => emit('wrong', words)" />
</template>

<style scoped>
.acts :deep(.el-button),
.acts :deep(.el-checkbox) {
  margin: 0 6px 4px 0;
}
</style>
