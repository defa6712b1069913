<script setup lang="ts">
/** Trusses of a hall, in place of rafters. */
import { computed } from 'vue'
import ChoiceField from '../../../components/ChoiceField.vue'
import FoldPart from '../../../components/FoldPart.vue'
import NumberField from '../../../components/NumberField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { options } from '../../../lib/options'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
const PATTERNS = options('Pratt', 'Howe', 'Warren', 'Warren with posts', 'N', 'K', 'Fink', 'fan')
</script>

<template>
  <FoldPart title="Trusses in place of rafters">
    <ToggleField label="Trussed hall" path="hall.truss" :value="hall.truss" :on="{}" :off="null" />
    <template v-if="hall.truss">
      <ChoiceField label="Pattern" path="hall.truss.pattern" :value="hall.truss.pattern ?? ''" :options="PATTERNS" />
      <NumberField label="Depth at the columns" path="hall.truss.depth" kind="length" :value="hall.truss.depth" />
      <NumberField label="Panels in each half" path="hall.truss.panels" kind="count" :value="hall.truss.panels" />
      <ChoiceField
        label="Bottom chord"
        path="hall.truss.bottom"
        :value="hall.truss.bottom ?? 'level'"
        :options="options('level', 'parallel')"
      />
      <NumberField
        label="Bottom chord stayed at every n-th point"
        path="hall.truss.stay_every"
        kind="count"
        unit="n"
        :value="hall.truss.stay_every"
        hint="Stays to the purlins; 0: nowhere"
      />
      <ToggleField label="Webs pinned" path="hall.truss.webs_pinned" :value="hall.truss.webs_pinned" />
    </template>
  </FoldPart>
</template>
