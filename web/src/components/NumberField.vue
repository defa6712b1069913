<script setup lang="ts">
import { computed, ref, watch } from 'vue'
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
  }>(),
  { hint: '', optional: '', unit: undefined },
)
const bench = useWorkbench()
const typed = ref('')
const wrong = ref('')
const written = computed(() => (props.value === null || props.value === undefined ? '' : shown(props.value)))
watch(
  written,
  (text) => {
    typed.value = text
    wrong.value = ''
  },
  { immediate: true },
)
watch(
  () => bench.refusal,
  (refusal) => {
    if (refusal?.place === props.path) wrong.value = refusal.message
  },
)

/** An edit under way: Enter and leaving the field would each post it. */
let posted = ''
async function commit() {
  if (posted && typed.value.trim() === posted) return
  if (typed.value.trim() === written.value) {
    wrong.value = ''
    return
  }
  let value: number | null
  if (props.optional && !typed.value.trim()) value = null
  else {
    const parsed = parseQuantity(typed.value, props.kind)
    if (typeof parsed === 'string') {
      wrong.value = parsed
      return
    }
    value = parsed
  }
  wrong.value = ''
  const unit = props.unit ?? unitOf(props.kind)
  posted = typed.value.trim()
  const done = await bench.edit(`${props.label} ${value === null ? 'by rule' : `${shown(value)} ${unit}`.trim()}`, [
    { path: props.path, value },
  ])
  posted = ''
  // what was typed stays, so that it can be mended
  if (!done && !wrong.value) wrong.value = bench.refusal?.message ?? 'Nothing was changed.'
  else if (done) typed.value = written.value
}
</script>

<template>
  <label class="field" :class="{ wrong }" :title="hint">
    <span>{{ label }}</span>
    <span class="box">
      <input
        v-model="typed"
        :placeholder="optional"
        :aria-invalid="!!wrong"
        autocomplete="off"
        @keydown.enter="commit"
        @blur="commit"
        @keydown.esc="((typed = written), (wrong = ''))"
      />
      <em>{{ unit ?? unitOf(kind) }}</em>
    </span>
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </label>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 1fr 116px;
  align-items: center;
  gap: 2px 8px;
  padding: 2px 12px;
  font: 400 12.5px var(--condensed);
}
.field > span:first-child {
  color: var(--ink-2);
}
.box {
  display: flex;
  align-items: center;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: #fff;
}
.box:focus-within {
  border-color: var(--chalk);
  outline: 1px solid var(--chalk);
}
input {
  flex: 1;
  min-width: 0;
  border: 0;
  background: none;
  outline: none;
  font: 400 12px var(--mono);
  padding: 4px 2px 4px 6px;
  text-align: right;
  color: var(--ink);
}
em {
  font: 400 11px var(--condensed);
  color: var(--ink-2);
  padding-right: 6px;
  min-width: 20px;
}
.wrong .box {
  border-color: var(--oxide);
}
small {
  grid-column: 1 / 3;
  color: var(--oxide);
  font: 400 12px/1.3 var(--condensed);
}
</style>
