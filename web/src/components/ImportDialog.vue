<script setup lang="ts">
/** What a file of others becomes, before anything is made: its picture, what is guessed of its layers, sheets and columns and can be settled,
 * what is wrong in it, and what it does not bear. */
import { computed } from 'vue'
import { ElButton, ElDialog } from 'element-plus'
import type { Schemas } from '../api/client'
import { useAnswer } from '../api/queries'
import type { Settling } from '../lib/takingIn'
import PickList from './PickList.vue'

const props = defineProps<{
  offered: Schemas['Taken']
  name: string
  settled: readonly Settling[]
  reading: boolean
  problem: string
}>()
defineEmits<{ settle: [choice: Settling]; anew: []; close: []; take: [] }>()

type Choice = Schemas['FileChoice']
const { data: families } = useAnswer('/api/catalogue', () =>
  props.offered.choices.some((c) => c.kind === 'section') ? {} : null,
)
const sections = computed(() =>
  (families.value ?? []).flatMap((f) => f.sections.map((s) => ({ value: s.name, label: s.name }))),
)
/** What was settled stands at once, though the file is still being read with it. */
const valueOf = (c: Choice) => props.settled.find((s) => s.of === c.of && s.field === c.field)?.value ?? c.value
const optionsOf = (c: Choice) => (c.kind === 'section' ? [...c.options, ...sections.value] : c.options)
/** Choices by what they are of: the file itself, then each layer or sheet. */
const groups = computed(() => {
  const found = new Map<string, Choice[]>()
  for (const choice of props.offered.choices) found.set(choice.of, [...(found.get(choice.of) ?? []), choice])
  return [...found].map(([of, choices]) => ({
    of,
    choices,
    aside: of ? choices[0]?.aside : '',
    left: choices[0]?.value === '',
  }))
})
const told = computed(() => [
  { title: 'Understood', lines: props.offered.understood, look: '' },
  { title: 'Guessed', lines: props.offered.guessed, look: 'open' },
  { title: 'Left out', lines: props.offered.left_out, look: 'open' },
])
/** Choices of this file that are not guessed. */
const chosen = computed(
  () => props.offered.choices.filter((c) => props.settled.some((s) => s.of === c.of && s.field === c.field)).length,
)
const nameOf = (c: Choice) => (c.of ? `${c.of}: ${c.words}` : c.words)
</script>

<template>
  <ElDialog model-value :title="`Import ${name}`" width="min(940px, 94vw)" top="5vh" @close="$emit('close')">
    <div class="sides" :aria-busy="reading">
      <section>
        <svg v-if="offered.lines" viewBox="-2 -2 124 64" role="img" aria-label="What the file becomes">
          <path :d="offered.lines" />
        </svg>
        <div v-for="group in groups" :key="group.of" class="group" :class="{ left: group.left && group.of }">
          <h4 v-if="group.of">
            {{ group.of }} <span>{{ group.aside }}</span>
          </h4>
          <label v-for="c in group.choices" :key="c.field" :title="c.aside && c.of ? c.aside : undefined">
            <span>{{ c.words }}</span>
            <PickList
              :model-value="valueOf(c)"
              :options="optionsOf(c)"
              :label="nameOf(c)"
              @update:model-value="$emit('settle', { of: c.of, field: c.field, value: $event })"
            />
          </label>
        </div>
      </section>
      <section>
        <p>Nothing is made yet. This is what the file becomes:</p>
        <slot />
        <p v-if="chosen" class="line">
          {{ chosen === 1 ? 'One choice is' : `${chosen} choices are` }} set, here or with a file before.
          <ElButton link type="primary" size="small" @click="$emit('anew')">Guess anew</ElButton>
        </p>
        <div v-if="problem || offered.problems.length" role="alert" class="wrong">
          <p v-if="problem">{{ problem }}</p>
          <p v-for="line in offered.problems" :key="line">{{ line }}</p>
        </div>
        <template v-for="part in told" :key="part.title">
          <h4 v-if="part.lines.length">{{ part.title }}</h4>
          <p v-for="line in part.lines" :key="line" class="line" :class="part.look">{{ line }}</p>
        </template>
      </section>
    </div>
    <template #footer>
      <ElButton @click="$emit('close')">Cancel</ElButton>
      <ElButton
        type="primary"
        :loading="reading"
        :disabled="reading || !!offered.problems.length"
        :title="offered.problems.length ? 'What is wrong in it is mended first' : ''"
        @click="$emit('take')"
        >Import</ElButton
      >
    </template>
  </ElDialog>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  gap: 22px;
}
section {
  overflow-y: auto;
  max-height: 66vh;
  padding-right: 6px;
}
section :deep(p) {
  margin: 5px 0;
}
svg {
  width: 100%;
  height: 150px;
  background: var(--paper);
}
path {
  fill: none;
  stroke: var(--ink-2);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.group {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 5px 10px;
  padding: 7px 0;
  border-top: 1px solid var(--line);
}
.group.left label {
  opacity: 0.75;
}
h4 {
  grid-column: 1 / -1;
  margin: 0;
  padding: 0;
  font-weight: 600;
}
h4 span {
  font-weight: 400;
  color: var(--ink-2);
  margin-left: 8px;
}
label span {
  display: block;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
section + section h4 {
  margin-top: 10px;
}
.line,
.wrong p {
  margin: 3px 0;
  padding-left: 8px;
  line-height: 1.35;
}
.line.open {
  border-left: 3px dashed #8a5f12;
}
.wrong {
  border-left: 3px solid var(--oxide);
  color: var(--oxide);
}
</style>
