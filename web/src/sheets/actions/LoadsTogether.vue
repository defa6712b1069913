<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import NumberField from '../../components/NumberField.vue'
import PickList from '../../components/PickList.vue'
import type { Change } from '../../lib/changes'
import { inCase, timed, without } from '../../lib/loadsTogether'
import { useChosenLoad } from '../../stores/chosenLoad'
import { useWorkbench } from '../../stores/workbench'

/** Several chosen loads: multiplied, given to another case, or deleted together. */
const bench = useWorkbench()
const chosen = useChosenLoad()
const wrong = ref('')
const words = computed(() => `${chosen.all.length} loads`)
const cases = computed(() => {
  const names = new Set([...bench.stated.cases, ...bench.lists.cases].map((c) => c.name))
  return [...names].map((name) => ({ value: name, label: name }))
})
/** The case of all of them, or nothing where they are of several. */
const common = computed(() => {
  const found = new Set(chosen.all.map(({ key, number }) => bench.document?.[key]?.[number]?.case ?? ''))
  return found.size === 1 ? [...found][0]! : ''
})
async function make(label: string, changes: Change[]): Promise<string> {
  const done = await bench.edit(label, changes)
  wrong.value = done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
  return wrong.value
}
const multiply = async (factor: number | null) => {
  if (factor === null) return ''
  return make(`${words.value} × ${factor}`, timed(bench.document!, chosen.all, factor))
}
const give = (name: string) => make(`${words.value} of ${name}`, inCase(chosen.all, name))
const drop = () => make(`${words.value} deleted`, without(bench.document!, chosen.all))
</script>

<template>
  <div class="together">
    <b>{{ chosen.all.length }} loads chosen</b>
    <PickList
      :model-value="common"
      :options="cases"
      label="Case of the chosen loads"
      placeholder="several cases"
      :disabled="!bench.mayChange"
      @update:model-value="give"
    />
    <NumberField label="all times" path="" kind="factor" unit="×" :value="null" optional="1" :save="multiply" />
    <ElButton size="small" :disabled="!bench.mayChange" @click="drop">Delete</ElButton>
    <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.together {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 6px 8px;
  align-items: end;
  margin: 6px 0;
  padding: 6px 8px;
  border: 1px solid var(--chalk);
}
.together b,
.together p {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
