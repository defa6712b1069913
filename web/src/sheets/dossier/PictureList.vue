<script setup lang="ts">
/** Pictures of one's own below a remark. */
import { ElButton, ElInput, ElSegmented, ElUpload, type UploadRawFile } from 'element-plus'
import { reactive, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { LARGEST, posted } from '../../lib/takingIn'
import { useWorkbench } from '../../stores/workbench'

type Placed = Schemas['PlacedPicture']
const props = defineProps<{ placed: readonly Placed[] }>()
const emit = defineEmits<{ put: [picture: Placed, words: string]; remove: [name: string] }>()
const bench = useWorkbench()
const problem = ref('')
const taking = ref(false)
const WIDTHS = [
  { value: 0.25, label: '¼' },
  { value: 0.5, label: '½' },
  { value: 0.75, label: '¾' },
  { value: 1, label: 'full' },
]
/** Captions as they are being written. */
const written = reactive<Record<string, string>>({})
watch(
  () => props.placed,
  (now) => {
    for (const p of now) written[p.name] = p.caption
  },
  { immediate: true },
)
const address = (key: string) => `/api/projects/${bench.project?.id}/pictures/${key}`

async function take(file: File) {
  problem.value = file.size > LARGEST ? `${file.name} is larger than 8 MB.` : ''
  if (problem.value) return
  const form = new FormData()
  form.append('file', file, file.name)
  taking.value = true
  const found = await posted<Schemas['PictureOut']>(`/api/projects/${bench.project?.id}/pictures`, form)
  taking.value = false
  problem.value = found.problem && `${file.name} was not taken in. ${found.problem}`
  if (!found.data) return
  const name = found.data.key
  if (props.placed.some((p) => p.name === name)) problem.value = 'This picture stands here already.'
  else put({ name, caption: '', width: 0.5 }, 'a picture')
}
const put = (p: Placed, words: string) => emit('put', p, words)
const caption = (p: Placed, words: string) =>
  words.trim() !== p.caption && put({ ...p, caption: words.trim() }, 'caption')
/** Nothing is uploaded by the control itself. */
function given(file: UploadRawFile): false {
  void take(file)
  return false
}
</script>

<template>
  <ul v-if="placed.length">
    <li v-for="(p, k) in placed" :key="p.name">
      <img :src="address(p.name)" :alt="p.caption || `Picture ${k + 1}`" loading="lazy" />
      <div>
        <ElInput
          v-model="written[p.name]"
          size="small"
          maxlength="300"
          placeholder="What it shows"
          :readonly="!bench.mayChange"
          :aria-label="`Caption of picture ${k + 1}`"
          @change="caption(p, $event)"
        />
        <div v-if="bench.mayChange" class="row">
          <ElSegmented
            size="small"
            :aria-label="`Width of picture ${k + 1}`"
            :model-value="p.width"
            :options="WIDTHS"
            @change="put({ ...p, width: Number($event) }, 'width of a picture')"
          />
          <ElButton size="small" text :aria-label="`Remove picture ${k + 1}`" @click="$emit('remove', p.name)"
            >Remove</ElButton
          >
        </div>
      </div>
    </li>
  </ul>
  <ElUpload
    v-if="bench.mayChange && placed.length < 20"
    :show-file-list="false"
    accept="image/png,image/jpeg,image/webp"
    :before-upload="given"
  >
    <ElButton tag="span" size="small" :loading="taking">Add a picture…</ElButton>
  </ElUpload>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 6px;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 64px 1fr;
  gap: 8px;
  align-items: start;
  margin-bottom: 8px;
}
img {
  width: 64px;
  height: 56px;
  object-fit: contain;
  background: #fff;
  border: 1px solid var(--line);
}
.el-upload,
div:has(> .el-upload) {
  margin-top: 6px;
}
.row {
  display: flex;
  justify-content: space-between;
  margin-top: 4px;
}
.wrong {
  margin: 4px 0 0;
  color: var(--oxide);
}
</style>
