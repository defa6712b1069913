<script setup lang="ts">
import { ElInput } from 'element-plus'
import { useTyped } from '../lib/field'
import { useWorkbench } from '../stores/workbench'

/** Words that stand for a value of the document; `read` gives the value, or a sentence that says what is wrong. */
const props = withDefaults(
  defineProps<{
    label: string
    path: string
    written: string
    read?: (text: string) => { value: unknown } | string
    hint?: string
    list?: string
  }>(),
  { read: (text: string) => ({ value: text.trim() }), hint: '', list: undefined },
)
const bench = useWorkbench()
const { typed, wrong, commit, leave } = useTyped(() => props.written, post)

async function post(text: string): Promise<string> {
  const found = props.read(text)
  if (typeof found === 'string') return found
  const done = await bench.edit(`${props.label} ${text}`, [{ path: props.path, value: found.value }])
  return done ? '' : (bench.refusal?.reason ?? 'Nothing was changed.')
}
</script>

<template>
  <label class="field" :class="{ wrong }" :title="hint">
    <span>{{ label }}</span>
    <ElInput
      v-model="typed"
      size="small"
      :list="list"
      :aria-invalid="!!wrong"
      :data-path="path"
      autocomplete="off"
      spellcheck="false"
      :readonly="!bench.mayChange"
      @change="list ? commit() : undefined"
      @keydown.enter="commit"
      @blur="commit"
      @keydown.esc="leave"
    />
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </label>
</template>

<style scoped>
.field :deep(.el-input__inner) {
  font-family: var(--mono);
}
</style>
