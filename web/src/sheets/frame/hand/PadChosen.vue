<script setup lang="ts">
/** Pad footings under nodes: their size and the ground below, from which springs follow. */
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { ref, watch } from 'vue'
import { useHandwork } from '../../../lib/handwork'
import { readPad } from '../../../lib/steelTables'

const props = defineProps<{ nodes: readonly string[] }>()
const emit = defineEmits<{ wrong: [words: string] }>()
const { numberOf, operate, wrong } = useHandwork()
watch(wrong, (words) => emit('wrong', words))
const size = ref('2 × 2 × 0.5')
const subgrade = ref('20000')
const friction = ref('0.4')
const clamped = ref(false)
const lifts = ref(false)
function stand() {
  const pad = readPad(size.value, null)
  const ground = numberOf(subgrade.value, 'Subgrade')
  const rough = numberOf(friction.value, 'Friction')
  const missing = props.nodes.length ? (pad ?? 'State the pad: 2 × 2 × 0.5.') : 'Name the nodes that stand on pads.'
  if (typeof missing === 'string') return emit('wrong', missing)
  if (ground === null || rough === null) return
  const footing = { ...missing, subgrade: ground, friction: rough, clamped: clamped.value }
  void operate(`Pads ${size.value}`, {
    do: 'support',
    nodes: [...props.nodes],
    fixed: ['x', 'y', 'rz'],
    springs: {},
    one_way: lifts.value ? ['z'] : [],
    turn: 0,
    settlement: [0, 0, 0],
    footing,
  })
}
</script>

<template>
  <h4>Pad footings <span>told, not designed</span></h4>
  <div class="load-grid">
    <span title="Sides along X and Y, and depth, in metres">Pad, m</span>
    <ElInput v-model="size" size="small" aria-label="Sides and depth of the pads" />
    <span title="Modulus of the ground below the pads: pressure by settlement">Subgrade, kN/m³</span>
    <ElInput v-model="subgrade" size="small" aria-label="Subgrade modulus" />
    <span title="Of their base: what they resist sideways over what presses">Friction μ</span>
    <ElInput v-model="friction" size="small" aria-label="Friction of the base" />
  </div>
  <p class="note">
    <ElCheckbox v-model="clamped" size="small">clamped to them</ElCheckbox>
    <ElCheckbox v-model="lifts" size="small">may lift off</ElCheckbox>
    <ElButton size="small" :disabled="!nodes.length" @click="stand">Stand on pads</ElButton>
  </p>
</template>

<style scoped>
.note :deep(.el-checkbox) {
  margin-right: 12px;
}
</style>
