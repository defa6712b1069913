<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref, watch } from 'vue'
import { useWorkbench } from '../stores/workbench'

/** A value in a cell of a table, given on when it is left or Enter is pressed; Escape leaves it as it was. */
const props = defineProps<{ value: string | number; label: string; placeholder?: string; disabled?: boolean }>()
const emit = defineEmits<{ commit: [text: string] }>()
const bench = useWorkbench()
const typed = ref('')
const writing = ref(false)
/** What was given on last: leaving the field does not give it on again. */
let given: string | null = null
watch(
  [() => props.value, () => bench.chain?.revision] as const,
  ([value], [before]) => {
    // what was refused goes with the next numbers; what is being written stays
    if (value === before && writing.value) return
    typed.value = String(value)
    given = null
  },
  { immediate: true },
)
function commit() {
  const text = typed.value.trim()
  if (text === String(props.value)) return
  given = text
  emit('commit', text)
}
function left() {
  writing.value = false
  if (typed.value.trim() !== given) commit()
}
function leave(event: Event) {
  typed.value = String(props.value)
  ;(event.target as HTMLInputElement).blur()
}
</script>

<template>
  <ElInput
    v-model="typed"
    size="small"
    :aria-label="label"
    :placeholder="placeholder ?? ''"
    :disabled="disabled"
    autocomplete="off"
    @keydown.enter="commit"
    @focus="writing = true"
    @blur="left"
    @keydown.esc="leave"
  />
</template>
