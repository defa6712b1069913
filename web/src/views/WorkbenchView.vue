<script setup lang="ts">
import { ElButton, ElDialog } from 'element-plus'
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import ChainBar from '../components/ChainBar.vue'
import DossierContents from '../components/DossierContents.vue'
import DossierLedger from '../components/DossierLedger.vue'
import CommandPalette from '../components/CommandPalette.vue'
import FrameView from '../components/FrameView.vue'
import KeyPlan from '../components/KeyPlan.vue'
import LedgerPanel from '../components/LedgerPanel.vue'
import PanelView from '../components/PanelView.vue'
import ProofSheet from '../components/ProofSheet.vue'
import RestraintRibbon from '../components/RestraintRibbon.vue'
import RoleList from '../components/RoleList.vue'
import SizingBar from '../components/SizingBar.vue'
import ShortcutSheet from '../components/ShortcutSheet.vue'
import TourGuide from '../components/TourGuide.vue'
import ViewTools from '../components/ViewTools.vue'
import { isAway } from '../lib/away'
import { progress } from '../lib/live'
import { LINKS } from '../lib/stages'
import StageSheet from '../sheets/StageSheet.vue'
import { SITE } from '../stores/looks'
import { useWorkbench } from '../stores/workbench'

const props = defineProps<{ id: string }>()
const DossierPages = defineAsyncComponent(() => import('../components/DossierPages.vue'))
const SizingPage = defineAsyncComponent(() => import('../components/SizingPage.vue'))
const SiteView = defineAsyncComponent(() => import('../components/SiteView.vue'))
const ModelView = defineAsyncComponent(() => import('../components/ModelView.vue'))
const bench = useWorkbench()
const folded = ref({ left: false, right: false, bottom: false })
const proof = ref('')
const under = ref('')
const finding = ref(false)
const shortcuts = ref(false)
const view = useTemplateRef<{ savePicture(): void }>('view')

function keys(event: KeyboardEvent) {
  // a list that is closed keeps the focus after a choice, and is not typed into
  const typing = (event.target as HTMLElement).matches(
    'input:not([role=combobox][aria-expanded=false]), textarea, [contenteditable]',
  )
  if ((event.ctrlKey || event.metaKey) && (!typing || event.key.toLowerCase() === 'k')) {
    const key = event.key.toLowerCase()
    if (key === 'k') {
      event.preventDefault()
      finding.value = true
    }
    if (key === 'z' || key === 'y') {
      event.preventDefault()
      void bench.step(key === 'y' || event.shiftKey ? 'redo' : 'undo')
    }
    return
  }
  // a dialog that is open has the keys, and is asked before it closes: closing it changes nothing behind it
  if (typing || event.ctrlKey || event.metaKey || finding.value || shortcuts.value || proof.value) return
  const frames = bench.planes.filter((p) => p.kind === 'frame').map((p) => p.key)
  const at = frames.indexOf(bench.plane)
  if ('?[],.0'.includes(event.key)) event.preventDefault()
  if (event.altKey) {
    const link = LINKS[Number(event.key) - 1]
    if (link) {
      event.preventDefault()
      bench.stage = link.key
    }
  } else if (event.key === '?') shortcuts.value = true
  else if (event.key === '[' && at > 0) bench.look(frames[at - 1]!)
  else if (event.key === ']' && at >= 0 && at < frames.length - 1) bench.look(frames[at + 1]!)
  else if (event.key === ',' || event.key === '.') bench.stepState(event.key === '.' ? 1 : -1)
  else if (event.key === '0') bench.look('whole')
  else if (event.key === 'Escape') {
    if (bench.panel) bench.closePanel()
    else if (bench.drawing) bench.drawing = null
    else bench.select('')
  } else if (event.key === 'Enter' && bench.drawing) void bench.drawn()
}

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
  window.addEventListener('keydown', keys, true)
})
onBeforeUnmount(() => window.removeEventListener('keydown', keys, true))

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

function text(value: unknown) {
  return typeof value === 'object' ? JSON.stringify(value) : String(value)
}
/** A tour is offered until it was taken or refused once in this browser. */
const TOURED = 'lorica.toured'
const touring = ref(false)
const fresh = ref(!localStorage.getItem(TOURED))
function known() {
  localStorage.setItem(TOURED, 'yes')
  fresh.value = false
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
      <div class="above">
        <p v-if="!bench.chain && bench.message" class="broken" role="alert">
          {{ bench.message }} <router-link to="/">Back to the projects</router-link>
        </p>
        <template v-else-if="bench.chain">
          <PanelView v-if="bench.panel" />
          <SiteView v-else-if="bench.plane === SITE && bench.chain.members?.length && !bench.chain.problem" />
          <div v-else-if="bench.looking" :class="{ pair: bench.paired }">
            <div><FrameView :key="`${bench.paired}`" ref="view" /></div>
            <div v-if="bench.paired"><FrameView turned /></div>
          </div>
          <div v-else-if="bench.chain.members?.length" class="whole" :class="{ pair: bench.paired }">
            <div><ModelView :key="`${bench.paired}`" ref="view" /></div>
            <div v-if="bench.paired"><ModelView turned /></div>
          </div>
          <p v-if="!bench.chain.members?.length && bench.chain.broken_stage !== 'structure'" class="waiting">
            Nothing stands yet. Set out a hall or another jig in the Frame sheet, or draw members by hand.
          </p>
          <p
            v-else-if="bench.chain.problem"
            class="broken"
            :class="{ below: bench.chain.members?.length }"
            role="alert"
          >
            <b>{{ bench.chain.members?.length ? 'No forces yet.' : 'The chain is broken.' }}</b>
            {{ bench.chain.problem.message }}
          </p>
        </template>
        <p v-else class="waiting">{{ bench.running ? progress(bench.running) : 'Computing the chain…' }}</p>
        <ViewTools
          v-if="bench.chain?.members?.length && !bench.panel && bench.plane !== SITE"
          @picture="view?.savePicture()"
        />
      </div>
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
    <div v-if="bench.elsewhere && !bench.conflict && !bench.message && !isAway()" class="message" role="status">
      {{ bench.elsewhere.author || 'Somebody' }} made revision {{ bench.elsewhere.number }} elsewhere: “{{
        bench.elsewhere.label
      }}”. <ElButton link type="primary" size="small" @click="bench.catchUp()">Show it</ElButton>
    </div>
    <div v-else-if="bench.arrived && !bench.message && !isAway()" class="message" role="status">
      {{ bench.arrived.author || 'Somebody' }}: {{ bench.arrived.label }} · revision {{ bench.arrived.number }} is
      shown.
      <ElButton link type="primary" size="small" @click="bench.arrived = null">Close</ElButton>
    </div>
    <div v-if="isAway()" class="message" role="alert">
      The server has not answered for 10 seconds. What you entered is kept here and goes on waiting.
    </div>
    <div v-else-if="bench.message && bench.chain" class="message" role="alert">
      {{ bench.message }} <ElButton link type="primary" size="small" @click="bench.message = ''">Close</ElButton>
    </div>
    <TourGuide v-model="touring" />
    <CommandPalette v-model="finding" @shortcuts="shortcuts = true" @tour="touring = true" />
    <ShortcutSheet v-model="shortcuts" />
    <ElDialog :model-value="!!bench.conflict" title="Somebody else was faster" width="560" @close="bench.catchUp()">
      <template v-if="bench.conflict">
        <p>{{ bench.conflict.message }}</p>
        <ul class="differences">
          <li v-for="d in bench.conflict.differences" :key="d.path">
            <span>{{ d.path }}</span> <b class="mono">{{ text(d.before) }} → {{ text(d.after) }}</b>
          </li>
        </ul>
      </template>
      <template #footer>
        <ElButton type="primary" size="small" @click="bench.catchUp()">Show me the present revision</ElButton>
      </template>
    </ElDialog>
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
.above {
  position: relative;
  overflow: hidden;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  height: 100%;
}
.pair > div {
  position: relative;
}
.whole > div {
  position: relative;
  height: 100%;
  overflow: hidden;
}
.whole {
  height: 100%;
}
.pair > div + div {
  border-left: 1px solid var(--line);
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
.waiting,
.broken {
  position: relative;
  margin: 70px auto 0;
  max-width: 46ch;
  padding: 12px 16px;
}
.broken.below {
  position: absolute;
  left: 50%;
  bottom: 34px;
  transform: translateX(-50%);
  width: 46ch;
  margin: 0;
}
.broken {
  background: var(--oxide-soft);
  border-left: 4px solid var(--oxide);
}
.message {
  position: fixed;
  bottom: 14px;
  left: 50%;
  transform: translateX(-50%);
  background: var(--ink);
  color: #fff;
  padding: 8px 14px;
  border-radius: 3px;
  z-index: 50;
}
.message .el-button {
  color: #cfe4eb;
}
.differences {
  padding-left: 18px;
  max-height: 240px;
  overflow: auto;
}
</style>
