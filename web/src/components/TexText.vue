<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { typesetter } from '../lib/tex'

const props = defineProps<{ tex: string; block?: boolean }>()
const holder = ref<HTMLSpanElement>()
async function draw() {
  const { default: katex } = await typesetter()
  if (holder.value)
    katex.render(props.tex, holder.value, { throwOnError: false, displayMode: props.block, output: 'html' })
}
onMounted(draw)
watch(() => props.tex, draw)
</script>

<template><span ref="holder" :aria-label="tex" role="math" /></template>
