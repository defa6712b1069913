<script setup lang="ts">
import { ElButton, ElInput, ElUpload, type UploadRawFile } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../../api/client'
import { forget, useList } from '../../api/queries'
import { named, unnamed } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'
import OfficeKept from '../../components/OfficeKept.vue'
import PickList from '../../components/PickList.vue'

/** Sections built up in the workshop, the office's own catalogue, and materials of one's own. */
const bench = useWorkbench()
type Built = Schemas['BuiltSection']
const own = computed(() => bench.stated.built_sections)
const materials = computed(() => bench.stated.materials)
const SIZES = ['h', 'b', 'tw', 'tf', 'b2', 'tf2', 'gap', 'panel', 'planes'] as const
const NEEDED: Record<string, readonly string[]> = {
  'welded I': ['h', 'b', 'tw', 'tf', 'b2', 'tf2'],
  box: ['h', 'b', 'tw', 'tf'],
  cross: ['of'],
  double: ['of', 'gap'],
  laced: ['of', 'h', 'panel', 'by', 'arrangement', 'planes'],
  battened: ['of', 'h', 'panel', 'b', 'tw', 'planes'],
}
const HINTS: Record<string, string> = {
  h: 'depth, mm',
  b: 'width (top flange), mm',
  tw: 'web, mm',
  tf: 'flange, mm',
  b2: 'bottom flange width, mm; 0: as the top',
  tf2: 'bottom flange, mm; 0: as the top',
  gap: 'between the backs, mm',
  panel: 'distance of the joints, mm',
  planes: 'of lacing or battens',
}
/** Of two chords the same letters say something else. */
const OF_CHORDS: Record<string, string> = {
  h: 'between the chords, mm',
  b: 'depth of a batten, mm',
  tw: 'thickness of a batten, mm',
}
const chords = computed(() => ['laced', 'battened'].includes(draft.value.shape))
const hint = (key: string) => (chords.value ? OF_CHORDS[key] : undefined) ?? HINTS[key]
const ARRANGEMENTS = ['zigzag', 'crossed', 'posts'].map((value) => ({ value, label: value }))
const blank = () => ({
  name: '',
  shape: 'welded I',
  h: 600,
  b: 220,
  tw: 10,
  tf: 18,
  b2: 0,
  tf2: 0,
  of: 'L 80x8',
  gap: 10,
  panel: 800,
  planes: 2,
  by: 'L 50x5',
  arrangement: 'zigzag',
})
const draft = ref(blank())
/** Chords are channels or I sections: what was written for another shape is none. */
watch(chords, (on) => {
  if (on && !/^(U|P|IPE|HE)/.test(draft.value.of)) Object.assign(draft.value, { of: 'UPE 200', h: 350, b: 200, tw: 10 })
})
const wrong = ref('')
async function add() {
  wrong.value = ''
  const name = draft.value.name.trim()
  if (!name) {
    wrong.value = 'The section needs a name.'
    return
  }
  const used = NEEDED[draft.value.shape]!
  const sizes = Object.fromEntries(SIZES.map((key) => [key, used.includes(key) ? draft.value[key] : 0]))
  const more = used.includes('by') ? { by: draft.value.by, arrangement: draft.value.arrangement } : {}
  const value = {
    name,
    shape: draft.value.shape,
    of: used.includes('of') ? draft.value.of : '',
    ...sizes,
    planes: draft.value.planes,
    ...more,
  }
  const done = await bench.edit(`Section ${name}`, named('built_sections', own.value, value as unknown as Built))
  if (!done) wrong.value = bench.refusal?.message ?? ''
}
const drop = (name: string) => bench.edit(`Section ${name} dropped`, unnamed('built_sections', own.value, name))
const words = (s: Built) =>
  s.of ? `${s.shape}, ${s.of}${s.panel ? ` at ${s.h} mm` : ''}` : `${s.shape} ${s.h} × ${s.b}`

const office = useList('/api/office', () => ({}))
const trouble = ref('')
/** The file is read here; nothing is uploaded by the control itself. */
function chosen(file: UploadRawFile): false {
  void takeIn(file)
  return false
}
async function takeIn(file: File) {
  const { error } = await api.POST('/api/office', { body: { text: await file.text() } })
  trouble.value = error?.message ?? ''
  await forget('/api/office')
}
const use = (s: Built) => bench.edit(`Section ${s.name} of the office`, named('built_sections', own.value, s))

const material = ref({ name: '', E: 210, density: 7850, fy: 355 })
async function addMaterial() {
  const { name, E, density, fy } = material.value
  if (!name.trim()) return
  // GPa and MPa in kN/m²
  const value = { name: name.trim(), E: E * 1e6, density, fy: fy > 0 ? fy * 1e3 : null }
  wrong.value = ''
  const done = await bench.edit(
    `Material ${value.name}`,
    named('materials', materials.value, value as (typeof materials.value)[number]),
  )
  if (!done) wrong.value = bench.refusal?.message ?? ''
}
</script>

<template>
  <h4>Built-up section</h4>
  <div class="form">
    <label
      >Name <ElInput v-model="draft.name" size="small" aria-label="Name of the built-up section" placeholder="PG 600"
    /></label>
    <label
      >Shape
      <PickList
        v-model="draft.shape"
        :options="Object.keys(NEEDED).map((shape) => ({ value: shape, label: shape }))"
        label="Shape of the built-up section"
    /></label>
    <label v-if="NEEDED[draft.shape]!.includes('of')"
      >Of section <ElInput v-model="draft.of" size="small" list="sections"
    /></label>
    <template v-for="key in SIZES" :key="key">
      <label v-if="NEEDED[draft.shape]!.includes(key)" :title="hint(key)"
        >{{ key }} · {{ hint(key) }}
        <ElInput
          v-model.number="draft[key]"
          size="small"
          type="number"
          step="any"
          :aria-label="`${key} of the built-up section`"
      /></label>
    </template>
    <template v-if="NEEDED[draft.shape]!.includes('by')">
      <label
        >Diagonals <ElInput v-model="draft.by" size="small" list="sections" aria-label="Section of the diagonals"
      /></label>
      <label
        >Arrangement <PickList v-model="draft.arrangement" :options="ARRANGEMENTS" label="Arrangement of the diagonals"
      /></label>
    </template>
    <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
    <p class="buttons"><ElButton size="small" @click="add">Add to this project</ElButton></p>
  </div>
  <ul>
    <li v-for="s in own" :key="s.name">
      <b>{{ s.name }}</b><span>{{ words(s) }}</span
      ><ElButton link type="primary" size="small" :title="`Drop ${s.name}`" @click="drop(s.name)">×</ElButton>
    </li>
  </ul>
  <h4>
    The office's catalogue <span>{{ office.length }} sections</span>
  </h4>
  <p class="note">
    A CSV file with the columns name, shape, h, b, tw, tf, b2, tf2, of, gap, panel, by, arrangement, planes; sizes in
    mm.
  </p>
  <ElUpload class="note" :show-file-list="false" accept=".csv,text/csv" :before-upload="chosen">
    <ElButton tag="span" size="small">Import a CSV file of sections…</ElButton>
  </ElUpload>
  <p v-if="trouble" class="note fails" role="alert">{{ trouble }} Nothing was taken in.</p>
  <ul>
    <li v-for="s in office" :key="s.name">
      <b>{{ s.name }}</b><span>{{ words(s) }}</span
      ><ElButton link type="primary" size="small" @click="use(s)">use here</ElButton>
    </li>
  </ul>
  <h4>Own material</h4>
  <OfficeKept kind="materials" />
  <div class="form">
    <label
      >Name <ElInput v-model="material.name" size="small" aria-label="Name of the material" placeholder="S390 (own)"
    /></label>
    <label>E in GPa <ElInput v-model.number="material.E" size="small" type="number" step="any" /></label>
    <label>Density kg/m³ <ElInput v-model.number="material.density" size="small" type="number" step="any" /></label>
    <label title="0: elastic only, not checked"
      >f_y in MPa <ElInput v-model.number="material.fy" size="small" type="number" step="any"
    /></label>
    <p class="buttons">
      <ElButton size="small" :disabled="!material.name.trim()" @click="addMaterial">Add to this project</ElButton>
    </p>
  </div>
  <ul>
    <li v-for="m in materials" :key="m.name">
      <b>{{ m.name }}</b><span>{{ m.fy ? 'steel' : 'elastic, not checked' }}</span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0 12px;
  font: 400 12.5px var(--condensed);
}
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
li span {
  flex: 1;
  color: var(--ink-2);
}
</style>
