<script setup lang="ts">
/** What is chosen heads the sheet of its stage: what it is made of, changed here, and where it goes on. */
import { ElButton } from 'element-plus'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import CellInput from '../components/CellInput.vue'
import SectionChooser from '../components/SectionChooser.vue'
import { commonOf, degreesOf, neighboursOf } from '../lib/chosen'
import { useWorkbench } from '../stores/workbench'

type Change = Extract<Schemas['Operate']['operations'][number], { do?: 'change' }>['change']
const bench = useWorkbench()
const picked = computed(() => bench.picked)
const one = computed(() => (picked.value.length === 1 ? picked.value[0]! : null))
const title = computed(() => one.value?.label ?? `${picked.value.length} members`)
const length = computed(() => picked.value.reduce((sum, m) => sum + m.length, 0))
const common = computed(() => commonOf(picked.value))
const edited = computed(() => picked.value.filter((m) => m.edited).map((m) => m.name))
const neighbours = computed(() => (one.value ? neighboursOf(one.value, bench.lists.members) : []))
const choosing = ref(false)
const wrong = ref('')
watch(
  () => bench.selected,
  () => (wrong.value = ''),
)

async function change(words: string, value: Change) {
  const members = picked.value.map((m) => m.name)
  wrong.value = ''
  const done = await bench.operate(`${title.value}: ${words}`, { do: 'change', members, change: value })
  if (!done) wrong.value = bench.refusal?.message ?? ''
  if (!done) bench.refusal = null
}
function turn(text: string) {
  const found = degreesOf(text)
  wrong.value = typeof found === 'string' ? found : ''
  if (typeof found === 'number') void change(`turned by ${found}°`, { roll: found })
}
function take(name: string) {
  choosing.value = false
  void change(name, { section: name })
}
</script>

<template>
  <section v-if="picked.length" class="chosen" aria-label="What is chosen">
    <div class="title">
      <b>{{ title }}</b>
      <span class="mono">{{ length.toFixed(2) }} m{{ one ? '' : ' in all' }} · {{ common.mass }} kg</span>
      <ElButton link type="primary" size="small" title="Choose nothing (Esc)" @click="bench.select('')">×</ElButton>
    </div>
    <p class="said">
      {{ common.role }} · {{ common.behaviour }} · {{ common.from
      }}<template v-if="one?.releases.length"> · lets go {{ one.releases.join('; ') }}</template>
    </p>
    <div class="fields">
      <span>Section</span>
      <span class="with">
        <CellInput
          :value="common.section"
          :placeholder="common.mixed.section"
          label="Section of what is chosen"
          :disabled="!bench.mayChange"
          @commit="(text) => change(text, { section: text })"
        />
        <ElButton
          size="small"
          title="Choose from the catalogue, with shape and properties"
          aria-label="Choose the section from the catalogue"
          :disabled="!bench.mayChange"
          @click="choosing = true"
          >…</ElButton
        >
      </span>
      <span>Grade</span>
      <CellInput
        :value="common.material"
        :placeholder="common.mixed.material"
        label="Grade of what is chosen"
        :disabled="!bench.mayChange"
        @commit="(text) => change(text, { material: text })"
      />
      <span>Turned °</span>
      <CellInput
        :value="common.roll"
        :placeholder="common.mixed.roll"
        label="Turn of what is chosen"
        :disabled="!bench.mayChange"
        @commit="turn"
      />
      <span>Group</span>
      <CellInput
        :value="common.group"
        :placeholder="common.mixed.group || 'none'"
        label="Group of what is chosen"
        :disabled="!bench.mayChange"
        @commit="(text) => change(`group ${text}`, { group: text })"
      />
    </div>
    <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
    <p v-if="edited.length" class="said">
      {{ edited.length === picked.length ? 'Changed by hand' : `${edited.length} changed by hand` }}.
      <ElButton
        v-if="bench.mayChange"
        link
        type="primary"
        size="small"
        title="As the jig sets it"
        @click="bench.operate('Edits taken back', { do: 'restore', members: edited })"
        >Take back</ElButton
      >
    </p>
    <p v-if="neighbours.length" class="said">
      Meets
      <ElButton
        v-for="m in neighbours"
        :key="m.name"
        link
        type="primary"
        size="small"
        @click="bench.select(m.name, true)"
        >{{ m.label }}</ElButton
      >
    </p>
    <SectionChooser v-if="choosing" :present="picked[0]!.section" @close="choosing = false" @take="take" />
  </section>
</template>

<style scoped>
.chosen {
  margin: 10px 12px 4px 22px;
  padding: 6px 0 6px 10px;
  border-left: 4px solid var(--chalk);
}
.title {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.title b {
  font: 600 15px var(--condensed);
}
.title .mono {
  font-size: 11.5px;
  color: var(--ink-2);
  margin-right: auto;
}
.said {
  margin: 1px 0 4px;
  font: 400 12px/1.35 var(--condensed);
  color: var(--ink-2);
}
.said .el-button {
  padding: 0;
  margin: 0 8px 0 0;
  font-size: 12px;
}
.fields {
  display: grid;
  grid-template-columns: auto minmax(0, 3fr) auto minmax(0, 2fr);
  gap: 4px 6px;
  align-items: center;
  font: 400 12px var(--condensed);
}
.with {
  display: flex;
  gap: 2px;
}
.with .el-button {
  padding: 0 6px;
}
.note {
  padding: 2px 0;
}
</style>
