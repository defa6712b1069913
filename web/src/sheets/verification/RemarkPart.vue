<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref, watch } from 'vue'
import { useWorkbench } from '../../stores/workbench'

/** The designer's own words on the verification of a member; they stand in its proofs. */
const bench = useWorkbench()
const typed = ref('')
const wrong = ref('')
watch(
  () => [bench.selected, bench.member?.own?.remark] as const,
  () => (typed.value = bench.member?.own?.remark ?? ''),
  { immediate: true },
)
async function save() {
  const m = bench.member
  const words = typed.value.trim()
  if (!m || words === (m.own?.remark ?? '')) return
  const done = await bench.operate(words ? `${m.label}: remark` : `${m.label}: remark taken away`, {
    do: 'change',
    members: [m.name],
    change: { checks: { remark: words || null } },
  })
  wrong.value = done ? '' : (bench.refusal?.message ?? 'It was not kept.')
}
</script>

<template>
  <h4>Remark <span>stands in its proofs</span></h4>
  <div class="remark">
    <ElInput
      v-model="typed"
      type="textarea"
      :autosize="{ minRows: 2, maxRows: 8 }"
      maxlength="2000"
      :readonly="!bench.mayChange"
      aria-label="Remark on this member"
      placeholder="What a checker should know of it"
      @blur="save"
    />
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </div>
</template>

<style scoped>
.remark {
  padding: 0 12px 8px;
}
small {
  color: var(--oxide);
}
</style>
