<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { useList } from '../api/queries'

/** What a project may begin with, as small pictures, those of the office last; one is begun by choosing it. */
export type Beginning = Schemas['TemplateOut'] & {
  /** Its number, where the office keeps it. */
  kept?: number
}
const emit = defineEmits<{ begin: [template: Beginning] }>()
const ours = useList('/api/templates', () => ({}))
const theirs = useList('/api/office/kept', () => ({ query: { kind: 'template' } }))
const templates = computed<Beginning[]>(() => [
  ...ours.value,
  ...theirs.value.map((k) => ({
    key: `kept ${k.id}`,
    title: k.name,
    words: `Of the office${k.by ? `, kept by ${k.by}` : ''}`,
    lines: k.lines,
    kept: k.id,
  })),
])
/** Begin with the first of them, as whoever types a name and presses Enter does. */
function beginFirst() {
  const first = templates.value[0]
  if (first) emit('begin', first)
}
defineExpose({ beginFirst })
</script>

<template>
  <div class="templates" role="group" aria-label="Begin a project with">
    <div v-for="t in templates" :key="t.key">
      <ElButton class="template" :title="`Begin with: ${t.words}`" @click="emit('begin', t)">
        <svg viewBox="-2 -2 124 64" aria-hidden="true">
          <path v-if="t.lines" :d="t.lines" />
          <path v-else class="ground" d="M10 58H110M10 58L34 40H120L110 58M40 58L58 40M70 58L84 40M22 49H115" />
        </svg>
        <b>{{ t.title }}</b>
        <span>{{ t.words }}</span>
      </ElButton>
    </div>
  </div>
</template>

<style scoped>
.templates {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 8px;
  margin: 0 0 16px;
  padding: 0;
}
.template {
  width: 100%;
  height: 100%;
  padding: 8px 10px;
}
.template :deep(> span) {
  display: grid;
  justify-items: start;
  gap: 2px;
  width: 100%;
  white-space: normal;
  text-align: left;
}
svg {
  width: 100%;
  height: 54px;
  display: block;
}
path {
  fill: none;
  stroke: var(--ink-2);
  stroke-width: 0.8;
}
.ground {
  stroke: var(--line);
}
b {
  font: 600 13px var(--condensed);
  color: var(--ink);
}
span span {
  font: 400 12px/1.25 var(--condensed);
  color: var(--ink-2);
}
</style>
