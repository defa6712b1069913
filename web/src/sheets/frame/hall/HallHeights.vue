<script setup lang="ts">
/** Heights, spacings and bases of a hall. */
import { computed } from 'vue'
import ChoiceField from '../../../components/ChoiceField.vue'
import NumberField from '../../../components/NumberField.vue'
import TextField from '../../../components/TextField.vue'
import { readSpacings, writeSpacings } from '../../../lib/spacings'
import { options } from '../../../lib/options'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
const MEASURED = [
  { value: 'grid', label: 'grid (system lines)' },
  { value: 'cladding', label: 'outside of cladding' },
  { value: 'clear', label: 'clear inside' },
]
</script>

<template>
  <h4>Heights and frames</h4>
  <ChoiceField label="Measured to" path="hall.measured" :value="hall.measured ?? 'grid'" :options="MEASURED" />
  <NumberField
    label="Eaves height"
    path="hall.eaves_height"
    kind="length"
    :value="hall.eaves_height"
    hint="Above ±0, on the first grid line"
  />
  <NumberField label="Base level" path="hall.base_level" kind="altitude" :value="hall.base_level" />
  <TextField
    label="Bay spacings"
    path="hall.spacings"
    :written="writeSpacings(hall.spacings)"
    :read="readSpacings"
    hint="Front to back: 2*6 + 4*7.2 + 6"
  />
  <ChoiceField
    label="Bases"
    path="hall.bases"
    :value="hall.bases ?? 'pinned'"
    :options="options('pinned', 'fixed', 'spring')"
  />
  <NumberField
    v-if="hall.bases === 'spring'"
    label="Base stiffness"
    path="hall.base_stiffness"
    kind="factor"
    unit="kNm/rad"
    :value="hall.base_stiffness"
  />
  <div v-if="bench.chain?.hall" class="pairs">
    <span>Top of the roof</span><b>{{ bench.chain.hall.height.toFixed(3) }} m</b> <span>Width, grid to grid</span
    ><b>{{ bench.chain.hall.span.toFixed(3) }} m</b> <span>Length of the hall</span
    ><b>{{ bench.chain.hall.length.toFixed(2) }} m</b> <span>Frames</span><b>{{ (hall.spacings?.length ?? 0) + 1 }}</b>
  </div>
</template>
