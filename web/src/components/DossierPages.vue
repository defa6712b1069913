<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { ElButton, ElEmpty, ElOption, ElProgress, ElSegmented, ElSelect } from 'element-plus'
import { computed, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { load, type Document } from '../lib/pages'
import { useDossier } from '../stores/dossier'
import { useWorkbench } from '../stores/workbench'
import DossierPage from './DossierPage.vue'

/** The dossier as it will be printed. */
const bench = useWorkbench()
const dossier = useDossier()
const room = useTemplateRef('room')
const { width: across, height: high } = useElementSize(room, { width: 800, height: 500 })
const shown = shallowRef<Document | null>(null)
const broken = ref('')
const zoom = ref<'page' | 'width'>('page')
onBeforeUnmount(() => void shown.value?.destroy())
watch(
  () => dossier.state?.file?.key,
  async (key) => {
    if (!key || !bench.project) return
    const project = bench.project.id
    try {
      const found = await load(`/api/projects/${project}/dossier/pdf?key=${key}`)
      if (dossier.state?.file?.key !== key) return void found.destroy()
      const before = shown.value
      shown.value = found
      broken.value = ''
      dossier.page = Math.min(dossier.page, found.numPages)
      void before?.destroy()
    } catch {
      broken.value = 'The pages could not be fetched.'
    }
  },
  { immediate: true },
)
const count = computed(() => shown.value?.numPages ?? 0)
/** Height over width of the paper. */
const ratio = computed(() => (bench.document?.dossier?.paper === 'Letter' ? 11 / 8.5 : 297 / 210))
const width = computed(() => {
  const each = (across.value - 32 - (dossier.pages - 1) * 12) / dossier.pages
  const whole = (high.value - 20) / ratio.value
  return Math.max(240, Math.floor(zoom.value === 'page' ? Math.min(each, whole) : each))
})
const numbers = computed(() => {
  const first = dossier.page
  return dossier.pages === 2 && first < count.value ? [first, first + 1] : [first]
})
function turn(by: number) {
  dossier.page = Math.min(Math.max(1, dossier.page + by * dossier.pages), Math.max(1, count.value))
}
function keys(event: KeyboardEvent) {
  if ((event.target as HTMLElement).matches('input, textarea')) return
  if (event.key === 'PageDown' || event.key === 'PageUp') {
    event.preventDefault()
    turn(event.key === 'PageDown' ? 1 : -1)
  }
}
useEventListener(window, 'keydown', keys)
const file = computed(() => dossier.state?.file ?? null)
const share = computed(() => {
  const s = dossier.state
  return s?.of ? Math.round((s.done / s.of) * 100) : 0
})
</script>

<template>
  <div class="pages">
    <header>
      <div class="told">
        <template v-if="file">
          <b>{{ count || file.pages }} pages, as they will be printed</b>
          <span v-if="!file.current" class="older">of revision {{ file.revision }}, not of the present one</span>
        </template>
        <b v-else>The dossier</b>
        <ElButton
          v-if="file && !file.current && !dossier.making && dossier.state?.state !== 'none'"
          size="small"
          @click="dossier.make()"
          >Make it anew</ElButton
        >
        <span v-if="dossier.state?.state === 'failed'" class="older" role="alert">{{
          dossier.state.problem?.message ?? dossier.state.message
        }}</span>
        <span v-if="dossier.making" class="making" role="status">
          <ElProgress :percentage="share" :show-text="false" :stroke-width="4" />
          {{ dossier.state?.stage || 'waiting for a worker' }}…
          <ElButton v-if="bench.mayChange" size="small" text @click="dossier.stop()">Stop</ElButton>
        </span>
      </div>
      <ElSegmented
        v-model="dossier.pages"
        size="small"
        aria-label="Pages side by side"
        :options="[
          { label: 'One page', value: 1 },
          { label: 'Two pages', value: 2 },
        ]"
      />
      <ElSelect v-model="zoom" size="small" aria-label="Zoom" class="zoom">
        <ElOption label="Whole page" value="page" />
        <ElOption label="Full width" value="width" />
      </ElSelect>
    </header>
    <div ref="room" class="room" tabindex="0" aria-label="Pages of the dossier">
      <div v-if="shown" class="sheets">
        <DossierPage
          v-for="n in numbers"
          :key="n"
          :of="shown"
          :number="n"
          :width="width"
          :height="Math.round(width * ratio)"
        />
      </div>
      <ElEmpty
        v-else-if="bench.chain && !bench.chain.members?.length"
        :image-size="60"
        description="Nothing stands yet: a dossier tells of a building with its numbers."
      />
      <ElEmpty
        v-else-if="dossier.state?.problem || bench.chain?.problem"
        :image-size="60"
        :description="`The dossier cannot be made: ${(dossier.state?.problem ?? bench.chain?.problem)?.message}`"
      />
      <ElEmpty v-else-if="dossier.state && !dossier.making" :image-size="60" :description="broken || 'Not made yet.'">
        <ElButton type="primary" @click="dossier.make()">Make it</ElButton>
      </ElEmpty>
      <p v-else class="note" role="status">Making the dossier of what stands…</p>
    </div>
    <footer v-if="shown">
      <ElButton size="small" text :disabled="dossier.page <= 1" aria-label="Pages before" @click="turn(-1)">‹</ElButton>
      <span class="mono">p. {{ numbers.join(' and ') }} of {{ count }}</span>
      <ElButton size="small" text :disabled="numbers.at(-1)! >= count" aria-label="Next pages" @click="turn(1)"
        >›</ElButton
      >
    </footer>
  </div>
</template>

<style scoped>
.pages {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  height: 100%;
  background: #e4dfd3;
}
header {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 8px 14px 4px;
}
.told {
  flex: 1;
  font: 400 12.5px var(--condensed);
  display: flex;
  gap: 8px;
  align-items: baseline;
  min-width: 0;
}
.told b {
  font: 600 15px var(--condensed);
}
.older {
  color: #6f4d0c;
}
.making {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  color: var(--ink-2);
  white-space: nowrap;
}
.making :deep(.el-progress) {
  width: 90px;
}
.zoom {
  width: 110px;
}
.room {
  overflow: auto;
  padding: 6px 16px;
}
.sheets {
  display: flex;
  gap: 12px;
  justify-content: center;
  min-width: min-content;
}
footer {
  display: flex;
  justify-content: center;
  align-items: center;
  gap: 8px;
  padding: 2px 0 5px;
  font-size: 12px;
}
.note {
  text-align: center;
  padding-top: 80px;
}
</style>
