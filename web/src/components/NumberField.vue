<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, watch } from 'vue'
import { useTyped } from '../lib/field'
import { parseQuantity, shown, unitOf, type Kind } from '../lib/quantity'
import { useWorkbench } from '../stores/workbench'

const props = withDefaults(
  defineProps<{
    label: string
    path: string
    kind: Kind
    value: number | null | undefined
    hint?: string
    optional?: string
    unit?: string
    /** what is done with a new value in place of setting it at the path; gives what is wrong with it */
    save?: (value: number | null) => Promise<string>
  }>(),
  { hint: '', optional: '', unit: undefined, save: undefined },
)
const bench = useWorkbench()
const written = computed(() => (props.value === null || props.value === undefined ? '' : shown(props.value)))
const { typed, wrong, commit, leave } = useTyped(() => written.value, post)
watch(
  () => bench.refusal,
  (refusal) => {
    // several fields may show one value: it is said where something else was typed
    if (refusal?.place === props.path && typed.value !== written.value) wrong.value = refusal.reason
  },
)

async function post(text: string): Promise<string> {
  const value = props.optional && !text ? null : parseQuantity(text, props.kind)
  if (typeof value === 'string') return value
  const unit = props.unit ?? unitOf(props.kind)
  if (props.save) return props.save(value)
  const words = value === null ? 'by rule' : `${shown(value)} ${unit}`.trim()
  const done = await bench.edit(`${props.label} ${words}`, [{ path: props.path, value }])
  return done ? '' : (bench.refusal?.reason ?? 'Nothing was changed.')
}
</script>

<template>
  <label class="field" :class="{ wrong }" :title="hint">
    <span>{{ label }}</span>
    <ElInput
      v-model="typed"
      size="small"
      :placeholder="optional"
      :aria-invalid="!!wrong"
      :data-path="path"
      :readonly="!bench.mayChange"
      autocomplete="off"
      @keydown.enter="commit"
      @blur="commit"
      @keydown.esc="leave"
    >
      <template #suffix>
        <em>{{ unit ?? unitOf(kind) }}</em>
      </template>
    </ElInput>
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </label>
</template>

<style scoped>
.field {
  grid-template-columns: 1fr 116px;
}
.field :deep(.el-input__inner) {
  font: 400 12px var(--mono);
  text-align: right;
}
em {
  font: 400 11px var(--condensed);
  color: var(--ink-2);
  min-width: 16px;
  text-align: left;
}
</style>
