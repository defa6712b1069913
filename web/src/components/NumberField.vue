<script setup lang="ts">
import { computed } from 'vue'
import { parseQuantity, shown, unitOf, type Kind } from '../lib/quantity'
import { useWorkbench } from '../stores/workbench'
import TypedField from './TypedField.vue'

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
  <TypedField
    :label="label"
    :path="path"
    :written="written"
    :post="post"
    :hint="hint"
    :optional="optional"
    :unit="unit ?? unitOf(kind)"
    figures
  />
</template>
