<script setup lang="ts">
import { ElCheckbox, ElInput, ElSegmented, ElSwitch } from 'element-plus'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { named, unnamed } from '../../lib/changes'
import { useDossier, type Level } from '../../stores/dossier'
import { useWorkbench } from '../../stores/workbench'
import ChoiceField from '../../components/ChoiceField.vue'
import ChapterViews from './ChapterViews.vue'
import PictureList from './PictureList.vue'

/** How the chosen chapter is told. */
const bench = useWorkbench()
const dossier = useDossier()
const MEANS: Record<Level, string> = {
  summary: 'Results and what governs.',
  normal: 'With the formulas and numbers of what governs.',
  full: 'With every check and every row.',
}
const remark = ref('')
watch(
  () => [dossier.chapter?.key, dossier.chapter?.remark] as const,
  () => (remark.value = dossier.chapter?.remark ?? ''),
  { immediate: true },
)
async function save() {
  const chapter = dossier.chapter
  const words = remark.value.trim()
  if (chapter && words !== chapter.remark) await dossier.plan(chapter, 'remark', words)
}
const set = (level: string | number | boolean) => dossier.chapter && dossier.plan(dossier.chapter, 'level', level)
type Placed = Schemas['PlacedPicture']
const pictures = computed<readonly Placed[]>(() => {
  const plans = bench.document?.dossier?.chapters as Record<string, { pictures?: Placed[] }> | undefined
  return plans?.[dossier.chapter?.key ?? '']?.pictures ?? []
})
const path = computed(() => `dossier.chapters.${dossier.chapter!.key}.pictures`)
const say = (what: string) => `Dossier, ${dossier.chapter!.title}: ${what}`
const put = (p: Placed, words: string) => bench.edit(say(words), named(path.value, pictures.value, p))
const remove = (name: string) => bench.edit(say('a picture less'), unnamed(path.value, pictures.value, name))
const CLASSES = [
  { value: '', label: 'not stated' },
  { value: '1', label: '1: few people, farms' },
  { value: '2a', label: '2a: halls, up to three or four storeys' },
  { value: '2b', label: '2b: higher, public' },
  { value: '3', label: '3: larger, hazardous' },
]
const every = (value: unknown) =>
  bench.edit(`Dossier: ${value ? 'proofs of every member' : 'proofs of each group'}`, [
    { path: 'dossier.every_member', value: !!value },
  ])
</script>

<template>
  <template v-if="dossier.chapter">
    <h4>
      {{ dossier.chapter.title }}
      <ElSwitch
        size="small"
        :model-value="!dossier.chapter.left_out"
        :disabled="!bench.mayChange || dossier.chapter.fixed"
        :aria-label="`${dossier.chapter.title} is told`"
        :title="dossier.chapter.fixed ? 'What is open is always told' : 'Whether it is told'"
        @change="dossier.plan(dossier.chapter, 'left_out', !$event)"
      />
    </h4>
    <div class="part">
      <ElSegmented
        :model-value="dossier.chapter.level"
        size="small"
        block
        aria-label="Level of the chapter"
        :disabled="!bench.mayChange || dossier.chapter.left_out"
        :options="['summary', 'normal', 'full']"
        @change="set"
      />
      <p class="means">{{ MEANS[dossier.chapter.level] }}</p>
      <ElCheckbox
        v-if="dossier.chapter.key === 'verification'"
        size="small"
        :model-value="!!bench.document?.dossier?.every_member"
        :disabled="!bench.mayChange || dossier.chapter.level === 'summary'"
        @change="every"
        >Proofs of every member, {{ bench.chain?.members?.length }}</ElCheckbox
      >
      <ChoiceField
        v-if="dossier.chapter.key === 'joints'"
        label="Consequence class"
        path="rules.consequences"
        :value="bench.document?.rules?.consequences ?? ''"
        :options="CLASSES"
        hint="EN 1991-1-7 table A.1: by it ties are asked for (A.5)"
      />
      <label>
        Own remark
        <small title="**bold**, *italic*, lines that begin with “- ”, formulas as $N_{Rd} = A f_y$"
          >after the heading · marks</small
        >
        <ElInput
          v-model="remark"
          type="textarea"
          :autosize="{ minRows: 2, maxRows: 8 }"
          maxlength="4000"
          :readonly="!bench.mayChange"
          aria-label="Own remark on this chapter"
          placeholder="What the reader should know"
          @blur="save"
        />
      </label>
      <PictureList :key="dossier.chapter.key" :placed="pictures" @put="put" @remove="remove" />
      <ChapterViews />
    </div>
  </template>
  <p v-else class="note">Choose a chapter in the contents to set how much it tells, or to add words of your own.</p>
</template>

<style scoped>
.part {
  padding: 0 12px 8px;
}
.means {
  margin: 4px 0 6px;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
}
label {
  display: block;
  font: 400 12px var(--condensed);
  margin-top: 6px;
}
label small {
  color: var(--ink-2);
  float: right;
}
</style>
