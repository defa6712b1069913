<script setup lang="ts">
import { ElInput } from 'element-plus'
import { watch } from 'vue'
import { useTyped } from '../lib/field'
import { useWorkbench } from '../stores/workbench'

/** A labelled field that is typed into: `post` takes what was written and gives what is wrong with it, "" where it was taken. */
const props = withDefaults(
  defineProps<{
    label: string
    /** the place in the document that it stands for, "" where there is none */
    path?: string
    written: string
    post: (text: string) => Promise<string> | string
    hint?: string
    optional?: string
    unit?: string
    list?: string
    /** figures stand at the right, in less room */
    figures?: boolean
  }>(),
  { path: undefined, hint: '', optional: '', unit: undefined, list: undefined },
)
const bench = useWorkbench()
const { typed, wrong, commit, leave } = useTyped(
  () => props.written,
  (text) => props.post(text),
)
watch(
  () => bench.refusal,
  (refusal) => {
    // several fields may show one value: it is said where something else was typed
    if (refusal?.place && refusal.place === props.path && typed.value !== props.written) wrong.value = refusal.reason
  },
)
</script>

<template>
  <label class="field" :class="{ wrong, figures }" :title="hint">
    <span>{{ label }}</span>
    <ElInput
      v-model="typed"
      size="small"
      :placeholder="optional"
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
    >
      <template v-if="unit !== undefined" #suffix>
        <em>{{ unit }}</em>
      </template>
    </ElInput>
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </label>
</template>

<style scoped>
.field :deep(.el-input__inner) {
  font-family: var(--mono);
}
.figures {
  grid-template-columns: 1fr 116px;
}
.figures :deep(.el-input__inner) {
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
