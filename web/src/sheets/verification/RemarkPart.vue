<script setup lang="ts">
import { ElCheckbox, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
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
  wrong.value = ''
  const done = await bench.operate(words ? `${m.label}: remark` : `${m.label}: remark taken away`, {
    do: 'change',
    members: [m.name],
    change: { checks: { remark: words || null } },
  })
  if (!done) wrong.value = bench.refusal?.message ?? 'It was not kept.'
}
/** Whether the proofs of all that is chosen stand in the dossier. */
const members = computed(() => (bench.picked.length ? bench.picked : bench.member ? [bench.member] : []))
const proven = computed(() => members.value.every((m) => m.own?.proven || m.own?.remark))
const remarked = computed(() => members.value.every((m) => m.own?.remark))
async function prove(value: boolean) {
  const names = members.value.map((m) => m.name)
  const of = names.length > 1 ? `${names.length} members` : bench.member?.label
  await bench.operate(`${of}: ${value ? 'proofs in the dossier' : 'proofs left to its group'}`, {
    do: 'change',
    members: names,
    change: { checks: { proven: value || null } },
  })
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
    <ElCheckbox
      size="small"
      :model-value="proven"
      :disabled="!bench.mayChange || remarked"
      :title="
        remarked
          ? 'It bears a remark, which stands there'
          : 'The worst member of each group is proven there in any case'
      "
      @change="prove(!!$event)"
      >{{
        members.length > 1 ? `Proofs of these ${members.length} in the dossier` : 'Proofs in the dossier'
      }}</ElCheckbox
    >
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
