<script setup lang="ts">
import katex from 'katex'
import { onMounted, ref, watch } from 'vue'

const props = defineProps<{ tex: string; block?: boolean }>()
const holder = ref<HTMLSpanElement>()
function draw() {
  if (holder.value)
    katex.render(props.tex, holder.value, { throwOnError: false, displayMode: props.block, output: 'html' })
}
onMounted(draw)
watch(() => props.tex, draw)
</script>

<template><span ref="holder" :aria-label="tex" role="math" /></template>
