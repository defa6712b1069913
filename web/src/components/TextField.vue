<script setup lang="ts">
import { ref, watch } from 'vue'
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
const typed = ref('')
const wrong = ref('')
watch(
  () => props.written,
  (text) => {
    typed.value = text
    wrong.value = ''
  },
  { immediate: true },
)
/** An edit under way: Enter, leaving the field and a choice from the list would each post it. */
let posted = ''
async function commit() {
  if (posted && typed.value.trim() === posted) return
  if (typed.value.trim() === props.written) {
    wrong.value = ''
    return
  }
  const found = props.read(typed.value)
  if (typeof found === 'string') {
    wrong.value = found
    return
  }
  wrong.value = ''
  posted = typed.value.trim()
  const done = await bench.edit(`${props.label} ${typed.value.trim()}`, [{ path: props.path, value: found.value }])
  posted = ''
  if (!done) wrong.value = bench.refusal?.message ?? 'Nothing was changed.'
  else typed.value = props.written
}
</script>

<template>
  <label class="field" :class="{ wrong }" :title="hint">
    <span>{{ label }}</span>
    <input
      v-model="typed"
      :list="list"
      :aria-invalid="!!wrong"
      autocomplete="off"
      spellcheck="false"
      @change="list ? commit() : undefined"
      @keydown.enter="commit"
      @blur="commit"
      @keydown.esc="((typed = written), (wrong = ''))"
    />
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </label>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 1fr 150px;
  align-items: center;
  gap: 2px 8px;
  padding: 2px 12px;
  font: 400 12.5px var(--condensed);
}
span {
  color: var(--ink-2);
}
input {
  min-width: 0;
  font: 400 12.5px var(--mono);
  border: 1px solid var(--line);
  border-radius: 3px;
  background: #fff;
  padding: 4px 6px;
  color: var(--ink);
}
.wrong input {
  border-color: var(--oxide);
}
small {
  grid-column: 1 / 3;
  color: var(--oxide);
}
</style>
