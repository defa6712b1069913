<script setup lang="ts">
import { computed } from 'vue'
import { limitText, readLimit, type Limit } from '../lib/limit'
import TypedField from './TypedField.vue'

/** A limit of movement: length over it, millimetres at most, or both. */
const props = withDefaults(
  defineProps<{
    label: string
    path: string
    ratio: number | null | undefined
    mm: number | null | undefined
    hint: string
    optional?: string
    /** takes a new limit; gives what is wrong with it */
    save: (limit: Limit, words: string) => Promise<string>
  }>(),
  { optional: '' },
)
const written = computed(() => limitText({ ratio: props.ratio ?? null, mm: props.mm ?? null }))

function post(text: string): Promise<string> | string {
  const limit = readLimit(text)
  if (typeof limit === 'string') return limit
  if (limit.ratio === null && !props.optional) return 'A ratio is needed here, such as 200.'
  return props.save(limit, `${props.label} ${text || 'by rule'}`)
}
</script>

<template>
  <TypedField
    :label="label"
    :path="path"
    :written="written"
    :post="post"
    :hint="`${hint} Length over movement, millimetres, or both: 250, 25 mm.`"
    :optional="optional"
    figures
  />
</template>
