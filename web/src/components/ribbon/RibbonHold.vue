<script setup lang="ts">
/** Restraints typed: a place, and perhaps a spacing at which it goes on; and their copy to members alike. */
import { ElButton, ElInput, ElOption, ElSelect, ElTooltip } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { parseQuantity } from '../../lib/quantity'
import { alike, repeated, type Flange } from '../../lib/ribbon'
import { useWorkbench } from '../../stores/workbench'
import { flangeWords } from '../../view/ribbonHands'

const props = defineProps<{ ribbon: Schemas['RibbonOut'] }>()
const wrong = defineModel<string>('wrong', { required: true })
const bench = useWorkbench()
const flange = ref<Flange>('inner')
const first = ref('')
const spacing = ref('')
async function hold() {
  const from = parseQuantity(first.value, 'length')
  const every = spacing.value ? parseQuantity(spacing.value, 'length') : null
  if (typeof from === 'string' || typeof every === 'string') {
    wrong.value = typeof from === 'string' ? from : (every as string)
    return
  }
  const places = every === null ? [from] : repeated(props.ribbon, flange.value, from, every)
  wrong.value = places.length ? '' : 'Nothing is left to hold there.'
  if (!places.length) return
  wrong.value = ''
  const done = await bench.operate(
    `${bench.member?.label}: ${flangeWords(flange.value).toLowerCase()} held at ${places.map((x) => x.toFixed(2)).join(', ')} m`,
    ...places.map((x) => ({
      do: 'restrain' as const,
      members: [bench.selected],
      flange: flange.value,
      at: x,
      let_go: false,
    })),
  )
  if (!done) wrong.value = bench.refusal?.message ?? 'Nothing was changed.'
  if (done) first.value = spacing.value = ''
}
const others = computed(() => (bench.member ? alike(bench.lists.members, bench.member) : []))
const copy = () =>
  bench.operate(`${bench.member?.label}: restraints copied to ${others.value.length} alike`, {
    do: 'match',
    members: others.value,
    like: bench.selected,
  })
</script>

<template>
  <form @submit.prevent="hold">
    <ElSelect v-model="flange" class="which" size="small" aria-label="Flange to hold">
      <ElOption value="outer" label="outer" />
      <ElOption value="inner" label="inner" />
    </ElSelect>
    <ElInput v-model="first" size="small" aria-label="Hold at, m" placeholder="at m" />
    <ElInput v-model="spacing" size="small" aria-label="and then every, m" placeholder="every m" />
    <ElButton size="small" native-type="submit" :disabled="!first">Hold</ElButton>
    <ElTooltip
      v-if="others.length"
      :content="`The same restraints for the other ${others.length} of this role, section and length`"
    >
      <ElButton size="small" @click="copy">Copy to {{ others.length }} alike</ElButton>
    </ElTooltip>
  </form>
</template>

<style scoped>
form {
  display: flex;
  gap: 4px;
  margin-left: auto;
  align-items: center;
}
form :deep(.el-input) {
  width: 58px;
}
.which {
  width: 70px;
}
form :deep(.el-button + .el-button) {
  margin-left: 0;
}
</style>
