<script setup lang="ts">
/** Natural frequencies, under the masses of chosen cases. */
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { readFactors } from '../../lib/combinations'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
const analysis = computed(() => bench.document?.analysis)
const masses = ref('')
const wrong = ref('')
const chosenMasses = computed(() => {
  const given = Object.entries(analysis.value?.masses ?? {})
  if (!given.length) return 'all permanent cases'
  const symbol = (name: string) => bench.chain?.cases?.find((c) => c.name === name)?.symbol ?? name
  return given.map(([name, factor]) => `${factor === 1 ? '' : `${factor} `}${symbol(name)}`).join(' + ')
})
async function setMasses() {
  const found = masses.value.trim() ? readFactors(masses.value, bench.lists.cases) : {}
  wrong.value = typeof found === 'string' ? found : ''
  if (wrong.value) return
  wrong.value = ''
  const done = await bench.edit('Masses of natural frequencies', [{ path: 'analysis.masses', value: found }])
  if (!done) wrong.value = bench.refusal?.message ?? ''
}
function look(shape: string) {
  bench.overlays = new Set([...bench.overlays, 'sway'])
  bench.show(shape)
}
</script>

<template>
  <h4>
    Natural frequencies <span>{{ chosenMasses }}</span>
  </h4>
  <p class="buttons">
    <ElButton
      v-for="m in bench.natural"
      :key="m.state"
      size="small"
      class="mono"
      :title="`Draw mode ${m.state.split(':')[1]}`"
      @click="look(m.state)"
    >
      {{ m.value.toFixed(2) }} Hz
    </ElButton>
  </p>
  <div class="form">
    <label title="Cases whose downward loads are masses: G1 + G2 + 0.2 S1; empty: all permanent ones"
      >Masses
      <ElInput
        v-model="masses"
        size="small"
        aria-label="Masses of natural frequencies"
        placeholder="G1 + G2 + 0.2 S1"
        @keydown.enter="setMasses"
    /></label>
    <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  </div>
</template>
