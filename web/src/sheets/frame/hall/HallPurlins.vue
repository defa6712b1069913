<script setup lang="ts">
/** Purlins and rails of a hall, and the stays at them. */
import { computed } from 'vue'
import FoldPart from '../../../components/FoldPart.vue'
import NumberField from '../../../components/NumberField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { useWorkbench } from '../../../stores/workbench'
import LoadTables from './LoadTables.vue'
import PurlinKind from './PurlinKind.vue'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
</script>

<template>
  <FoldPart title="Purlins and rails">
    <NumberField
      label="Purlin spacing, at most"
      path="hall.purlins.spacing"
      kind="length"
      :value="hall.purlins?.spacing"
      hint="Purlins hold the outer flange of the rafters"
    />
    <NumberField
      label="First purlin from the eaves"
      path="hall.purlins.first"
      kind="length"
      :value="hall.purlins?.first"
      optional="even"
    />
    <NumberField
      label="Stay at every n-th purlin"
      path="hall.purlins.stay_every"
      kind="count"
      unit="n"
      :value="hall.purlins?.stay_every"
      hint="Stays hold the inner flange; 0: only at eaves and ridge"
    />
    <ToggleField
      label="Purlins are members"
      path="hall.purlins.modelled"
      :value="hall.purlins?.modelled"
      hint="They carry the roof; else they weigh with the cladding"
    />
    <ToggleField label="continuous over the frames" path="hall.purlins.continuous" :value="hall.purlins?.continuous" />
    <PurlinKind v-if="!hall.purlins?.modelled" which="purlins" />
    <ToggleField
      label="Side rails hold the columns"
      path="hall.rails"
      :value="hall.rails"
      :on="{ spacing: 2.0 }"
      :off="null"
    />
    <template v-if="hall.rails">
      <NumberField label="Rail spacing, at most" path="hall.rails.spacing" kind="length" :value="hall.rails.spacing" />
      <NumberField
        label="First rail from the base"
        path="hall.rails.first"
        kind="length"
        :value="hall.rails.first"
        optional="even"
      />
      <NumberField
        label="Stay at every n-th rail"
        path="hall.rails.stay_every"
        kind="count"
        unit="n"
        :value="hall.rails.stay_every"
      />
      <ToggleField label="Rails are members" path="hall.rails.modelled" :value="hall.rails.modelled" />
      <ToggleField label="continuous over the columns" path="hall.rails.continuous" :value="hall.rails.continuous" />
      <PurlinKind v-if="!hall.rails.modelled" which="rails" />
    </template>
    <LoadTables />
  </FoldPart>
</template>
