<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { usePlacedView } from '../lib/placedView'
import { useStates } from '../lib/states'
import { COLOURINGS, QUANTITIES, useWorkbench, type Overlay, type Quantity } from '../stores/workbench'
import InDossier from './InDossier.vue'
import PickList from './PickList.vue'
import SizeSlider from './SizeSlider.vue'

defineEmits<{ picture: [] }>()
const bench = useWorkbench()
const placed = usePlacedView()
const TOOLS: { key: Overlay; label: string; frameOnly: boolean }[] = [
  { key: 'actions', label: 'Actions', frameOnly: false },
  { key: 'moment', label: 'Forces', frameOnly: false },
  { key: 'reactions', label: 'Reactions', frameOnly: false },
  { key: 'sway', label: 'Movement', frameOnly: false },
  { key: 'names', label: 'Names', frameOnly: true },
]
const tools = computed(() => TOOLS.filter((t) => bench.looking || !t.frameOnly))
function toggle(key: Overlay) {
  const next = new Set(bench.overlays)
  if (!next.delete(key)) next.add(key)
  bench.overlays = next
}
const title = computed(() => {
  const p = bench.looking
  if (!p) return 'Whole building · 3D'
  return `${p.label} · ${p.kind === 'level' ? 'plan' : p.kind === 'slope' ? 'laid flat' : 'elevation'}`
})
const colourings = COLOURINGS.map((c) => ({ value: c, label: c }))
const quantities = (Object.keys(QUANTITIES) as Quantity[]).map((key) => ({ value: key, label: QUANTITIES[key].word }))
const states = useStates()
/** What is shown: a combination as its formula, a case by its name. */
const headed = computed(() => {
  const { kind, state, formula } = bench.diagram ?? { kind: '', state: '', formula: '' }
  return state === formula ? state : `${kind === 'envelope' ? 'envelope' : state}: ${formula}`
})
</script>

<template>
  <div class="caption" data-over="top">
    Looking at<b>{{ title }}</b>
    <span v-if="bench.stale" class="stale"
      >numbers of revision {{ bench.chain?.revision }}{{ bench.refreshing ? ', being refreshed' : '' }}</span
    >
    <label v-if="bench.chain && !bench.chain.problem" class="state">
      <span>under</span>
      <PickList
        :model-value="bench.state"
        :options="states"
        label="Case or combination shown"
        :placeholder="states[0]!.label"
        @update:model-value="bench.show"
      />
    </label>
    <span v-if="bench.diagram" class="formula mono">{{ headed }}</span>
  </div>
  <div class="tools" data-over="top">
    <label class="colouring"
      >Colour
      <PickList v-model="bench.colouring" :options="colourings" label="Colour by" />
    </label>
    <span v-if="bench.overlays.has('actions')" class="colouring"
      >Arrows <SizeSlider v-model="bench.arrowSize" :least="0.3" :most="3" label="Size of the arrows"
    /></span>
    <label v-if="bench.overlays.has('moment')" class="colouring">
      <PickList v-model="bench.quantity" :options="quantities" label="Force that is drawn" class="short" />
    </label>
    <SizeSlider
      v-if="bench.overlays.has('moment') && bench.stage === 'response'"
      v-model="bench.forceSize"
      label="Size of the forces"
    />
    <template v-if="bench.overlays.has('sway')">
      <span class="colouring">Movement <SizeSlider v-model="bench.movementSize" label="Size of the movement" /></span>
      <ElButton size="small" :aria-pressed="bench.swinging" @click="bench.swinging = !bench.swinging">Swing</ElButton>
    </template>
    <ElButton
      v-for="tool in tools"
      :key="tool.key"
      size="small"
      :aria-pressed="bench.overlays.has(tool.key)"
      @click="toggle(tool.key)"
    >
      {{ tool.label }}
    </ElButton>
    <InDossier :placed="placed" />
    <ElButton
      v-if="bench.stage === 'response'"
      size="small"
      title="Save what is drawn as a picture"
      @click="$emit('picture')"
    >
      Save picture
    </ElButton>
  </div>
</template>

<style scoped>
.caption {
  position: absolute;
  left: 14px;
  top: 8px;
  font: 500 12px var(--condensed);
  color: var(--ink-2);
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  pointer-events: none;
}
.caption b {
  color: var(--ink);
  font: 600 15px var(--condensed);
}
.state {
  pointer-events: auto;
  display: flex;
  gap: 5px;
  align-items: center;
}
.state .el-select {
  width: 190px;
}
.formula {
  font-size: 11px;
  margin-top: 2px;
}
.stale {
  color: #7d5a12;
  border-left: 3px solid var(--behind);
  padding-left: 6px;
}
.tools {
  position: absolute;
  right: 12px;
  top: 10px;
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  align-items: center;
  max-width: calc(100% - 228px);
  gap: 5px;
}
.colouring {
  display: flex;
  gap: 5px;
  align-items: center;
  font: 500 12px var(--condensed);
  color: var(--ink-2);
}
.colouring .el-select {
  width: 96px;
}
.colouring .el-select.short {
  width: 70px;
}
.tools .el-button {
  margin: 0;
  padding: 4px 8px;
}
</style>
