<script setup lang="ts">
/** The designer's own words and pictures at a section: a member, a check, a case, or any other. */
import { ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { named, unnamed } from '../../lib/changes'
import type { Section } from '../../stores/dossier'
import { useWorkbench } from '../../stores/workbench'
import PictureList from './PictureList.vue'

const props = defineProps<{ of: Section }>()
type Note = Required<Schemas['SectionNote']>
const bench = useWorkbench()
const notes = computed(() => (bench.document?.dossier?.notes ?? []) as Note[])
const note = computed<Note>(
  () =>
    notes.value.find((n) => n.name === props.of.anchor) ?? {
      name: props.of.anchor,
      title: props.of.title.slice(0, 120),
      remark: '',
      pictures: [],
    },
)
const remark = ref('')
watch(
  () => note.value.remark,
  (words) => (remark.value = words),
  { immediate: true },
)
/** Put the note as it is to be; one that says and shows nothing goes. */
function put(next: Note, words: string) {
  const said = `Dossier, ${props.of.title}: ${words}`.slice(0, 200)
  const empty = !next.remark && !next.pictures.length
  return bench.edit(
    said,
    empty ? unnamed('dossier.notes', notes.value, next.name) : named('dossier.notes', notes.value, next),
  )
}
async function save() {
  const words = remark.value.trim()
  if (words !== note.value.remark) await put({ ...note.value, remark: words }, words ? 'remark' : 'remark taken away')
}
type Placed = Note['pictures'][number]
const others = (name: string) => note.value.pictures.filter((p) => p.name !== name)
function picture(p: Placed, words: string) {
  const there = note.value.pictures.some((one) => one.name === p.name)
  const pictures = there
    ? note.value.pictures.map((one) => (one.name === p.name ? p : one))
    : [...note.value.pictures, p]
  return put({ ...note.value, pictures }, words)
}
</script>

<template>
  <h4>
    At this section <span>{{ of.number }}</span>
  </h4>
  <div class="part">
    <ElInput
      v-model="remark"
      type="textarea"
      :autosize="{ minRows: 1, maxRows: 8 }"
      maxlength="4000"
      :readonly="!bench.mayChange"
      aria-label="Own remark at this section"
      :placeholder="`Own words on ${of.title}`"
      @blur="save"
    />
    <PictureList
      :placed="note.pictures"
      @put="picture"
      @remove="put({ ...note, pictures: others($event) }, 'a picture less')"
    />
  </div>
</template>

<style scoped>
.part {
  padding: 0 12px 8px;
}
</style>
