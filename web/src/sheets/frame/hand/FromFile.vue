<script setup lang="ts">
/** Members of a drawing or a table brought into this project, where one says. */
import { ElCheckbox, ElInputNumber } from 'element-plus'
import { ref } from 'vue'
import type { Schemas } from '../../../api/client'
import TakeFile from '../../../components/TakeFile.vue'
import { useTakingIn } from '../../../lib/takingIn'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
// what stands already holds what is added: supports come along only where they are asked for
const taking = useTakingIn([
  { of: '', field: 'feet', value: 'none' },
  { of: '', field: 'sideways', value: 'free' },
])
const { offered, name, problem } = taking
const AXES = ['X', 'Y', 'Z'] as const
const step = ref<[number, number, number]>([0, 0, 0])

type Parts = Partial<Schemas['Add']> & Pick<Schemas['Add'], 'nodes' | 'members'>
const loaded = ref(false)
async function take() {
  const of = offered.value?.document as unknown as Parts
  const { nodes, members, supports = [], sections = [] } = of
  const loads: Partial<Parts> = loaded.value ? of : {}
  const { cases = [], member_loads = [], node_loads = [] } = loads
  const parts = { nodes, members, supports, sections, cases, member_loads, node_loads }
  if (await bench.operate(`${members.length} members from ${name.value}`, { do: 'add', ...parts, step: step.value })) {
    taking.keep()
    taking.close()
  } else problem.value = bench.message || 'They were not taken in.'
}
function chosen(file: File) {
  loaded.value = false
  step.value = [0, 0, 0]
  void taking.open(file)
}
</script>

<template>
  <div v-if="bench.mayChange" class="from">
    <TakeFile
      :taking="taking"
      words="Import members…"
      size="small"
      title="Lines of a drawing (DXF), a model (IFC4) or tables (XLSX, CSV) become members of this project"
      @chosen="chosen"
      @take="take"
    >
      <p class="place">
        Its origin is put at
        <label v-for="(axis, k) in AXES" :key="axis"
          >{{ axis }}
          <ElInputNumber
            v-model="step[k]"
            size="small"
            :controls="false"
            :precision="3"
            :aria-label="`${axis} of the origin`"
          />
          m</label
        >
      </p>
      <p>
        Nodes, members, supports and sections come into this project; combinations, grid lines and levels of the file
        stay out.
        <ElCheckbox v-if="offered?.document.cases" v-model="loaded" size="small">With its cases and loads</ElCheckbox>
      </p>
    </TakeFile>
    <p v-if="problem && !offered" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.from {
  padding: 2px 12px 8px;
}
[role='alert'] {
  margin: 4px 0 0;
  color: var(--oxide);
}
.place {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
.place .el-input-number {
  width: 72px;
}
</style>
