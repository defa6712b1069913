<script setup lang="ts">
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import BenchMessages from '../components/BenchMessages.vue'
import BenchView from '../components/BenchView.vue'
import ChainBar from '../components/ChainBar.vue'
import DossierContents from '../components/DossierContents.vue'
import DossierLedger from '../components/DossierLedger.vue'
import CommandPalette from '../components/CommandPalette.vue'
import KeyPlan from '../components/KeyPlan.vue'
import LedgerPanel from '../components/LedgerPanel.vue'
import ProofSheet from '../components/ProofSheet.vue'
import RestraintRibbon from '../components/RestraintRibbon.vue'
import RoleList from '../components/RoleList.vue'
import SizingBar from '../components/SizingBar.vue'
import ShortcutSheet from '../components/ShortcutSheet.vue'
import TourGuide from '../components/TourGuide.vue'
import StageSheet from '../sheets/StageSheet.vue'
import { useWorkbench } from '../stores/workbench'
import { useKeys } from '../lib/keys'

const props = defineProps<{ id: string }>()
const DossierPages = defineAsyncComponent(() => import('../components/DossierPages.vue'))
const SizingPage = defineAsyncComponent(() => import('../components/SizingPage.vue'))
const bench = useWorkbench()
const folded = ref({ left: false, right: false, bottom: false })
const proof = ref('')
const under = ref('')
const finding = ref(false)
const shortcuts = ref(false)

const { keys } = useKeys(finding, shortcuts, proof)
watch(
  () => props.id,
  (id) => bench.open(id),
)
watch(
  () => bench.project?.name,
  (name) => (document.title = `${name ?? ''} · Lorica`),
)
onMounted(() => {
  void bench.open(props.id)
})
useEventListener(window, 'keydown', keys, { capture: true })

const layout = computed(() => ({
  '--left': folded.value.left ? '22px' : '236px',
  '--right': folded.value.right ? '22px' : '312px',
  '--bottom': bench.stage === 'sizing' ? '74px' : folded.value.bottom ? '30px' : 'clamp(200px, 28vh, 380px)',
}))

/** Open a proof, of what governs or under a combination. */
function openProof(criterion: string, combination = '') {
  proof.value = criterion
  under.value = combination
}
/** The restraint ribbon lies under the view where a member is verified. */
const laidFlat = computed(() => {
  const m = bench.member
  if (bench.stage !== 'verification' || !m || bench.panel || bench.chain?.problem) return false
  // bars and closed sections do not buckle sideways
  return ['I', 'channel'].includes(m.shape) && !['bar', 'tension-only', 'compression-only'].includes(m.behaviour)
})

/** A tour is offered until it was taken or refused once in this browser. */
const toured = useLocalStorage('lorica.toured', '')
const touring = ref(false)
const fresh = computed(() => !toured.value)
function known() {
  toured.value = 'yes'
}
function tour() {
  known()
  touring.value = true
}
/** News of others stand for a while. */
const READ = 10_000
let reading: ReturnType<typeof setTimeout> | undefined
watch(
  () => bench.arrived,
  (arrived) => {
    clearTimeout(reading)
    if (arrived) reading = setTimeout(() => (bench.arrived = null), READ)
  },
)
</script>

<template>
  <div class="bench" :style="layout">
    <ChainBar class="top" @find="finding = true" />
    <aside class="left" :aria-label="bench.stage === 'dossier' ? 'Contents' : 'Key plan and roles'">
      <ElButton
        class="bare fold"
        :aria-expanded="!folded.left"
        title="Fold the key plan"
        @click="folded.left = !folded.left"
      >
        {{ folded.left ? '›' : '‹' }}
      </ElButton>
      <DossierContents v-if="!folded.left && bench.stage === 'dossier'" />
      <template v-else-if="!folded.left">
        <KeyPlan /><RoleList />
        <p v-if="fresh" class="note first">
          New here?
          <ElButton link type="primary" size="small" @click="tour">Show me around</ElButton>
          <ElButton link type="primary" size="small" aria-label="No tour" @click="known">×</ElButton>
        </p>
      </template>
    </aside>
    <main v-if="bench.stage === 'dossier' && bench.project" class="view"><DossierPages /></main>
    <main v-else-if="bench.stage === 'sizing' && bench.project" class="view"><SizingPage /></main>
    <main v-else class="view" :class="{ flat: laidFlat }">
      <BenchView />
      <RestraintRibbon v-if="laidFlat" />
    </main>
    <aside class="right" aria-label="Sheet">
      <ElButton
        class="bare fold"
        :aria-expanded="!folded.right"
        title="Fold the sheet"
        @click="folded.right = !folded.right"
      >
        {{ folded.right ? '‹' : '›' }}
      </ElButton>
      <StageSheet v-if="!folded.right && bench.project" @proof="openProof" />
    </aside>
    <DossierLedger
      v-if="bench.stage === 'dossier' && bench.project"
      class="bottom"
      :folded="folded.bottom"
      @fold="folded.bottom = !folded.bottom"
    />
    <SizingBar v-else-if="bench.stage === 'sizing' && bench.project" class="bottom" />
    <LedgerPanel v-else class="bottom" :folded="folded.bottom" @fold="folded.bottom = !folded.bottom" />
    <ProofSheet
      v-if="proof && bench.member"
      :criterion="proof"
      :combination="under"
      @close="proof = ''"
      @criterion="openProof"
      @combination="under = $event"
    />
    <BenchMessages />
    <TourGuide v-model="touring" />
    <CommandPalette v-model="finding" @shortcuts="shortcuts = true" @tour="touring = true" />
    <ShortcutSheet v-model="shortcuts" />
  </div>
</template>

<style scoped>
.bench {
  height: 100vh;
  display: grid;
  grid-template: 44px minmax(0, 1fr) var(--bottom) / var(--left) minmax(0, 1fr) var(--right);
  overflow: hidden;
}
.top,
.bottom {
  grid-column: 1 / 4;
}
.left,
.right {
  position: relative;
  background: var(--sheet);
  overflow: auto;
}
.left {
  border-right: 1px solid var(--line);
}
.right {
  border-left: 1px solid var(--line);
}
.view {
  overflow: hidden;
  background: #faf9f6;
  display: grid;
  grid-template-rows: minmax(0, 1fr);
}
.view.flat {
  grid-template-rows: minmax(0, 1fr) 236px;
}
.fold {
  position: absolute;
  top: 8px;
  z-index: 2;
  border: 0;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
  font-size: 15px;
  line-height: 1;
  padding: 4px;
}
.left .fold {
  right: 1px;
}
.right .fold {
  left: 0;
}
</style>
