<script setup lang="ts">
import { ref } from 'vue'
import ChoiceField from '../../components/ChoiceField.vue'
import { useWorkbench } from '../../stores/workbench'
import ChosenPart from './hand/ChosenPart.vue'
import DrawPart from './hand/DrawPart.vue'
import FromFile from './hand/FromFile.vue'
import GridAndLevels from './hand/GridAndLevels.vue'
import PanelsByHand from './hand/PanelsByHand.vue'

const bench = useWorkbench()
const PLANES = [
  { value: '', label: 'in space' },
  { value: 'XZ', label: 'in planes across, X and Z' },
  { value: 'YZ', label: 'in planes along, Y and Z' },
]
const section = ref('HEA 200')
const role = ref('member')
</script>

<template>
  <DrawPart v-model:section="section" v-model:role="role" />
  <ChoiceField
    v-if="bench.document?.analysis"
    label="Frames move"
    path="analysis.plane"
    :value="bench.document.analysis.plane ?? ''"
    :options="PLANES"
    hint="In space; or in upright planes alone: every node is held out of them and against turning there. What holds it there is not verified, and the verdict says so."
  />
  <FromFile />
  <PanelsByHand />
  <ChosenPart :section="section" :role="role" />
  <GridAndLevels />
</template>
