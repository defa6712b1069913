<script setup lang="ts">
import { computed } from 'vue'
import ChoiceField from '../components/ChoiceField.vue'
import NumberField from '../components/NumberField.vue'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const sections = computed(() =>
  bench.catalogue.flatMap((f) =>
    f.sections.map((s) => ({
      value: s.name,
      label: `${s.name} · ${s.mass.toFixed(1)} kg/m`,
      group: `${f.name} – ${f.what}`,
    })),
  ),
)
const ROLES = [
  { key: 'columns', label: 'Columns' },
  { key: 'rafters', label: 'Rafters' },
  { key: 'eaves_beams', label: 'Eaves beams' },
  { key: 'ridge_beam', label: 'Ridge beam' },
  { key: 'bracing', label: 'Bracing' },
] as const
const GRADES = ['S235', 'S275', 'S355', 'S460'].map((value) => ({ value, label: value }))
const BASES = [
  { value: 'pinned', label: 'pinned' },
  { value: 'fixed', label: 'fixed' },
]
async function start() {
  await bench.edit('Hall set out', [{ path: 'hall', value: {} }])
}
</script>

<template>
  <SheetHead title="Frame" aside="hall jig · duopitch" />
  <template v-if="bench.hall">
    <h4>Dimensions <span>to the grid</span></h4>
    <NumberField
      label="Span"
      path="hall.span"
      kind="length"
      :value="bench.hall.span"
      hint="Between grids A and B, 4 to 80 m"
    />
    <NumberField
      label="Eaves height"
      path="hall.eaves_height"
      kind="length"
      :value="bench.hall.eaves_height"
      hint="Ground to the crossing of column and rafter lines"
    />
    <NumberField
      label="Pitch"
      path="hall.pitch"
      kind="angle"
      :value="bench.hall.pitch"
      hint="5° to 45°; 20% is understood too"
    />
    <NumberField label="Frames" path="hall.frames" kind="count" :value="bench.hall.frames" />
    <NumberField label="Spacing" path="hall.spacing" kind="length" :value="bench.hall.spacing" />
    <ChoiceField label="Bases" path="hall.bases" :value="bench.hall.bases ?? 'pinned'" :options="BASES" />
    <div v-if="bench.chain?.hall" class="pairs">
      <span>Ridge height</span><b>{{ bench.chain.hall.ridge_height.toFixed(3) }} m</b> <span>Slope length</span
      ><b>{{ bench.chain.hall.slope_length.toFixed(3) }} m</b> <span>Length of the hall</span
      ><b>{{ bench.chain.hall.length.toFixed(2) }} m</b>
    </div>
    <h4>Purlins and stays</h4>
    <NumberField
      label="Purlin spacing, at most"
      path="hall.purlin_spacing"
      kind="length"
      :value="bench.hall.purlin_spacing"
      hint="Purlins hold the outer flange of the rafters"
    />
    <NumberField
      label="Stay at every n-th purlin"
      path="hall.stay_every"
      kind="count"
      :value="bench.hall.stay_every"
      unit="n"
      hint="Stays hold the inner flange; 0: only at eaves and ridge"
    />
    <div v-if="bench.chain?.hall" class="pairs">
      <span>Purlins a slope</span
      ><b>{{ bench.chain.hall.purlins.length }} at {{ (bench.chain.hall.purlins[1] ?? 0).toFixed(3) }} m</b>
    </div>
    <h4>Steel and sections</h4>
    <ChoiceField label="Grade" path="hall.grade" :value="bench.hall.grade ?? 'S355'" :options="GRADES" />
    <ChoiceField
      v-for="r in ROLES"
      :key="r.key"
      :label="r.label"
      :path="`hall.sections.${r.key}`"
      :value="bench.hall.sections?.[r.key] ?? ''"
      :options="sections"
    />
    <p class="note">
      Purlins and side rails carry the panels and hold the flanges; they are not members yet. Frames are numbered along
      the hall.
    </p>
  </template>
  <template v-else>
    <p class="note">
      There is no hall in this document. Its {{ bench.document?.members?.length ?? 0 }} members are stated directly.
    </p>
    <p class="note"><button class="plate" @click="start">Set out a hall</button></p>
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
</style>
