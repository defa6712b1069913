<script setup lang="ts">
import { computed } from 'vue'
import { COLOURINGS, QUANTITIES, useWorkbench, type Colouring, type Overlay, type Quantity } from '../stores/workbench'

defineEmits<{ picture: [] }>()
const bench = useWorkbench()
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
/** Uses of combinations and natures of cases of which an envelope can be drawn. */
const sets = computed(() => [
  ...new Set([
    ...(bench.chain?.combinations ?? []).map((c) => c.use).filter((u) => u !== 'strength' && u !== 'lost'),
    ...(bench.chain?.cases ?? []).map((c) => c.nature).filter((n) => n !== 'permanent' && n !== 'imperfection'),
  ]),
])
const states = computed(() => [
  { value: '', label: bench.selected ? 'governing combination' : 'envelope' },
  { value: 'envelope', label: 'envelope of strength' },
  ...sets.value.map((s) => ({ value: `envelope:${s}`, label: `envelope of ${s}` })),
  ...(bench.chain?.cases ?? []).map((c) => ({ value: c.symbol, label: `${c.symbol} · ${c.name}` })),
  ...(bench.chain?.combinations ?? []).map((c) => ({ value: c.name, label: `${c.name} · ${c.formula}` })),
  ...(/^(mode|vibration|free):/.test(bench.state) ? [{ value: bench.state, label: bench.diagram?.formula ?? '' }] : []),
])
</script>

<template>
  <div class="caption">
    Looking at<b>{{ title }}</b>
    <span v-if="bench.stale" class="stale"
      >numbers of revision {{ bench.chain?.revision }}{{ bench.refreshing ? ', being refreshed' : '' }}</span
    >
    <label v-if="bench.chain && !bench.chain.problem" class="state">
      <span>under</span>
      <select
        :value="bench.state"
        aria-label="Case or combination shown"
        @change="bench.show(($event.target as HTMLSelectElement).value)"
      >
        <option v-for="s in states" :key="s.value" :value="s.value">{{ s.label }}</option>
      </select>
    </label>
    <span v-if="bench.diagram" class="formula mono"
      >{{ bench.diagram.kind === 'envelope' ? 'envelope' : bench.diagram.state }}: {{ bench.diagram.formula }}</span
    >
  </div>
  <div class="tools">
    <label class="colouring"
      >Colour
      <select
        :value="bench.colouring"
        aria-label="Colour by"
        @change="bench.colouring = ($event.target as HTMLSelectElement).value as Colouring"
      >
        <option v-for="c in COLOURINGS" :key="c" :value="c">{{ c }}</option>
      </select>
    </label>
    <label v-if="bench.overlays.has('actions')" class="colouring"
      >Arrows
      <input v-model.number="bench.arrowSize" type="range" min="0.3" max="3" step="0.1" aria-label="Size of the arrows"
    /></label>
    <label v-if="bench.overlays.has('moment')" class="colouring">
      <select
        :value="bench.quantity"
        aria-label="Force that is drawn"
        @change="bench.quantity = ($event.target as HTMLSelectElement).value as Quantity"
      >
        <option v-for="(q, key) in QUANTITIES" :key="key" :value="key">{{ q.word }}</option>
      </select>
      <input
        v-if="bench.stage === 'response'"
        v-model.number="bench.forceSize"
        type="range"
        min="0.2"
        max="4"
        step="0.1"
        aria-label="Size of the forces"
      />
    </label>
    <template v-if="bench.overlays.has('sway')">
      <label class="colouring"
        >Movement
        <input
          v-model.number="bench.movementSize"
          type="range"
          min="0.2"
          max="4"
          step="0.1"
          aria-label="Size of the movement"
      /></label>
      <button :class="{ on: bench.swinging }" :aria-pressed="bench.swinging" @click="bench.swinging = !bench.swinging">
        Swing
      </button>
    </template>
    <button
      v-for="tool in tools"
      :key="tool.key"
      :class="{ on: bench.overlays.has(tool.key) }"
      :aria-pressed="bench.overlays.has(tool.key)"
      @click="toggle(tool.key)"
    >
      {{ tool.label }}
    </button>
    <button v-if="bench.stage === 'response'" title="Save what is drawn as a picture" @click="$emit('picture')">
      Save picture
    </button>
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
select {
  font: 500 12px var(--condensed);
  border: 1px solid var(--line);
  background: var(--sheet);
  border-radius: 3px;
  color: var(--ink);
  max-width: 210px;
  padding: 1px 2px;
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
  font: 500 12px var(--condensed);
  color: var(--ink-2);
}
.tools input[type='range'] {
  width: 64px;
  accent-color: var(--chalk);
  vertical-align: middle;
}
.tools button {
  font: 500 12px var(--condensed);
  border: 1px solid var(--line);
  background: var(--sheet);
  border-radius: 4px;
  padding: 3px 8px;
  color: var(--ink-2);
  cursor: pointer;
}
.tools button.on {
  border-color: var(--ink);
  color: var(--ink);
}
</style>
