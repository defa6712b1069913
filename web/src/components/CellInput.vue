<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref, watch } from 'vue'

/** A value in a cell of a table, given on when it is left or Enter is pressed; Escape leaves it as it was. */
const props = defineProps<{ value: string | number; label: string; placeholder?: string; disabled?: boolean }>()
const emit = defineEmits<{ commit: [text: string] }>()
const typed = ref('')
watch(
  () => props.value,
  (value) => (typed.value = String(value)),
  { immediate: true },
)
function commit() {
  const text = typed.value.trim()
  if (text !== String(props.value)) emit('commit', text)
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
    @blur="commit"
    @keydown.esc="leave"
  />
</template>
