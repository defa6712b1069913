<script setup lang="ts">
import { useWorkbench } from '../stores/workbench'
import TypedField from './TypedField.vue'

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

async function post(text: string): Promise<string> {
  const found = props.read(text)
  if (typeof found === 'string') return found
  const done = await bench.edit(`${props.label} ${text}`, [{ path: props.path, value: found.value }])
  return done ? '' : (bench.refusal?.reason ?? 'Nothing was changed.')
}
</script>

<template>
  <TypedField :label="label" :path="path" :written="written" :post="post" :hint="hint" :list="list" />
</template>
