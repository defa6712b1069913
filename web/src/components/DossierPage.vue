<script setup lang="ts">
import { ElButton } from 'element-plus'
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import { draw, type Document, type PageLink } from '../lib/pages'
import { useDossier } from '../stores/dossier'

/** One page of the dossier as it will be printed, with ticks and questions in its margin. */
const props = defineProps<{ of: Document; number: number; width: number; height: number }>()
const dossier = useDossier()
const canvas = useTemplateRef('canvas')
const words = useTemplateRef('words')
const links = ref<PageLink[]>([])
let turn: Promise<unknown> = Promise.resolve()
watch(
  () => [props.of, props.number, props.width] as const,
  async ([of, number, width]) => {
    await nextTick()
    // a canvas takes one drawing at a time
    turn = turn.then(async () => {
      if (of !== props.of || number !== props.number || width !== props.width || !canvas.value || !words.value) return
      links.value = await draw(of, number, canvas.value, words.value, width).catch(() => [])
    })
  },
  { immediate: true },
)
const own = () => dossier.sections.filter((s) => s.page === props.number)
const questions = (anchor: string) =>
  (dossier.state?.questions ?? []).filter((q) => q.anchor === anchor && q.state !== 'closed')
/** Pixels a millimetre of the page. */
const mm = () => (props.height / props.width > 1.35 ? props.width / 210 : props.width / 215.9)
</script>

<template>
  <div class="page" :style="{ width: `${width}px`, height: `${height}px` }">
    <canvas ref="canvas" :aria-label="`Page ${number}`" role="img" />
    <div ref="words" class="textLayer" />
    <ElButton
      v-for="(l, k) in links"
      :key="k"
      class="bare leads"
      :style="{ left: `${l.left}px`, top: `${l.top}px`, width: `${l.width}px`, height: `${l.height}px` }"
      :aria-label="`Go to page ${l.page}`"
      @click="dossier.page = l.page"
    />
    <span
      v-for="s in own()"
      :key="s.anchor"
      class="margin"
      :style="{ top: `${s.down * mm() - 9}px`, width: `${22 * mm()}px` }"
    >
      <ElButton
        v-if="s.seen.length"
        class="bare seen"
        :title="`Seen by ${s.seen.join(', ')}: ${s.number} ${s.title}`"
        @click="dossier.chosen = s.anchor"
      >
        ✓
      </ElButton>
      <ElButton
        v-for="q in questions(s.anchor)"
        :key="q.number"
        class="bare asked"
        :class="{ answered: q.state === 'answered' }"
        :title="q.text"
        @click="dossier.chosen = s.anchor"
      >
        ?{{ q.number }}
      </ElButton>
    </span>
  </div>
</template>

<style scoped>
.page {
  position: relative;
  background: #fff;
  box-shadow: 0 1px 4px rgb(31 42 51 / 22%);
}
canvas {
  width: 100%;
  height: 100%;
  display: block;
}
.leads {
  position: absolute;
  border: 0;
  padding: 0;
  background: none;
  cursor: pointer;
}
.leads:hover {
  background: rgb(29 100 128 / 10%);
}
.margin {
  position: absolute;
  left: 0;
  display: flex;
  justify-content: flex-end;
  gap: 2px;
}
.margin button {
  border: 0;
  background: none;
  padding: 0 3px;
  cursor: pointer;
  font: 600 12px var(--condensed);
  white-space: nowrap;
}
.seen {
  color: var(--current);
}
.asked {
  color: #fff;
  background: #8a5f12 !important;
  border-radius: 8px;
}
.asked.answered {
  background: var(--ink-2) !important;
}
</style>
<style>
.textLayer {
  position: absolute;
  inset: 0;
  overflow: hidden;
  line-height: 1;
  text-align: initial;
  transform-origin: 0 0;
}
.textLayer span,
.textLayer br {
  color: transparent;
  position: absolute;
  white-space: pre;
  cursor: text;
  transform-origin: 0% 0%;
  font-size: calc(var(--total-scale-factor) * var(--font-height, 0px));
  transform: rotate(var(--rotate, 0deg)) scaleX(var(--scale-x, 1));
}
.textLayer ::selection {
  background: rgb(29 100 128 / 25%);
}
</style>
