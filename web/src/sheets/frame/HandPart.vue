<script setup lang="ts">
import { ref } from 'vue'
import ChosenPart from './hand/ChosenPart.vue'
import DrawPart from './hand/DrawPart.vue'
import FromFile from './hand/FromFile.vue'
import GridAndLevels from './hand/GridAndLevels.vue'
import PanelsByHand from './hand/PanelsByHand.vue'

const section = ref('HEA 200')
const role = ref('member')
</script>

<template>
  <DrawPart v-model:section="section" v-model:role="role" />
  <FromFile />
  <PanelsByHand />
  <ChosenPart :section="section" :role="role" />
  <GridAndLevels />
</template>
