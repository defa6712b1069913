<script setup lang="ts">
/** What colours, diagrams and movements of the drawing mean. */
import { OXIDE, STEPS } from '../../lib/temper'
import { QUANTITIES, type useWorkbench } from '../../stores/workbench'
import type { usePlane } from '../../view/plane'
import type { useResults } from '../../view/results'
import type { useSteel } from '../../view/steel'

const props = defineProps<{
  plane: ReturnType<typeof usePlane>
  steel: ReturnType<typeof useSteel>
  results: ReturnType<typeof useResults>
  bench: ReturnType<typeof useWorkbench>
}>()
const { coloured } = props.plane
const { kinds } = props.steel
const { on, moved } = props.results
</script>

<template>
  <div class="legend">
    <div v-if="coloured" class="bar" aria-label="Temper scale of utilisation">
      <span v-for="step in STEPS" :key="step.upTo"
        ><i :style="{ background: step.colour }" />≤ {{ step.upTo.toFixed(2) }}</span
      >
      <span><i class="hatched" :style="{ borderColor: OXIDE }" />fails</span>
      <span><i class="open" />not covered</span>
      <span v-if="bench.diagram?.own" class="mono">in {{ bench.diagram.state }} alone</span>
    </div>
    <div v-if="kinds.length" class="bar kinds">
      <span v-for="k in kinds.slice(0, 8)" :key="k.kind"><i :style="{ background: k.colour }" />{{ k.kind }}</span>
      <span v-if="kinds.length > 8">and {{ kinds.length - 8 }} more</span>
    </div>
    <span v-if="on('moment') && bench.diagram?.kind !== 'mode'" class="mono">{{
      bench.quantity === 'My'
        ? 'M on the tension side, kNm'
        : `${QUANTITIES[bench.quantity].word}, ${QUANTITIES[bench.quantity].unit}`
    }}</span>
    <span v-if="on('moment') && bench.besideDiagram && !bench.paired" class="mono dashed"
      >dashed: {{ bench.besideDiagram.state
      }}{{
        bench.besideDiagram.revision === bench.diagram?.revision ? '' : ` of revision ${bench.besideDiagram.revision}`
      }}</span
    >
    <span v-if="on('sway') && bench.diagram?.kind === 'mode'" class="mono"
      >{{ bench.diagram.formula }}{{ moved ? '' : '; nothing of this view moves in it' }}</span
    >
    <span v-else-if="moved" class="mono"
      >movement ×{{ moved.times.toFixed(0) }}, most {{ moved.most.toFixed(0) }} mm</span
    >
    <span v-else-if="on('sway')" class="mono">movement: choose a case or combination</span>
    <span v-if="on('actions')" class="mono">{{
      bench.diagram?.loads?.length ? 'line loads, kN per m of member' : 'actions: choose a case or combination'
    }}</span>
  </div>
</template>

<style scoped>
.legend i.open {
  background: #fff;
  border: 1px dashed var(--ink-2);
}
.kinds i {
  height: 5px;
}
.legend {
  position: absolute;
  left: 14px;
  bottom: 8px;
  right: 14px;
  display: flex;
  gap: 4px 18px;
  align-items: center;
  flex-wrap: wrap;
  font-size: 11px;
  color: var(--ink-2);
  pointer-events: none;
}
.legend span {
  white-space: nowrap;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 9px;
  font: 400 11px var(--mono);
}
.bar span {
  display: flex;
  align-items: center;
  gap: 4px;
}
.bar i {
  width: 16px;
  height: 9px;
}
.bar i.hatched {
  background: var(--hatch);
}
</style>
