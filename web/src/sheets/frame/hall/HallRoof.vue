<script setup lang="ts">
/** The roof of a hall, bay by bay. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import ChoiceField from '../../../components/ChoiceField.vue'
import FoldPart from '../../../components/FoldPart.vue'
import NumberField from '../../../components/NumberField.vue'
import { added, removed } from '../../../lib/changes'
import { options } from '../../../lib/options'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
const SHAPES = options('duopitch', 'single pitch', 'flat')
const letters = 'ABCDEFG'
function addBay() {
  const last = hall.value.bays.at(-1)!
  void bench.edit('A bay added on the right', added('hall.bays', { ...last }))
}
function dropBay() {
  void bench.edit('The right bay taken off', removed('hall.bays', hall.value.bays.at(-1)))
}
</script>

<template>
  <h4>Roof <span>bay by bay, left to right</span></h4>
  <FoldPart v-for="(bay, i) in hall.bays" :key="i" :open="(hall.bays?.length ?? 1) < 3"
    ><template #title>{{ letters[i] }}–{{ letters[i + 1] }} · {{ bay.shape }} · {{ bay.span }} m</template>
    <NumberField
      label="Span"
      :path="`hall.bays.${i}.span`"
      kind="length"
      :value="bay.span"
      hint="3 to 80 m, between the column lines"
    />
    <ChoiceField label="Shape" :path="`hall.bays.${i}.shape`" :value="bay.shape ?? 'duopitch'" :options="SHAPES" />
    <NumberField
      v-if="bay.shape !== 'flat'"
      label="Pitch"
      :path="`hall.bays.${i}.pitch`"
      kind="angle"
      :value="bay.pitch"
      hint="Of the left slope; a single pitch rises to the right, a negative one falls. 20% is understood too"
    />
    <template v-if="bay.shape === 'duopitch'">
      <NumberField
        label="Right pitch"
        :path="`hall.bays.${i}.right_pitch`"
        kind="angle"
        :value="bay.right_pitch"
        optional="as left"
        hint="Leave empty for equal pitches"
      />
      <NumberField
        label="Ridge, from the left"
        :path="`hall.bays.${i}.ridge_at`"
        kind="length"
        :value="bay.ridge_at"
        optional="by pitches"
        hint="Distance of the ridge from the left grid line"
      />
      <NumberField
        label="Ridge height"
        :path="`hall.bays.${i}.ridge_height`"
        kind="length"
        :value="bay.ridge_height"
        optional="by pitch"
        hint="Height above ±0, in place of the pitch"
      />
    </template>
    <NumberField
      v-if="bay.shape === 'duopitch'"
      label="Right eaves height"
      :path="`hall.bays.${i}.right_height`"
      kind="length"
      :value="bay.right_height"
      optional="as left"
    />
    <NumberField
      label="Right base level"
      :path="`hall.bays.${i}.right_base`"
      kind="altitude"
      :value="bay.right_base"
      optional="as left"
    />
  </FoldPart>
  <p class="note">
    <ElButton link type="primary" size="small" :disabled="(hall.bays?.length ?? 1) >= 6" @click="addBay"
      >+ bay on the right</ElButton
    >
    <ElButton link type="primary" size="small" :disabled="(hall.bays?.length ?? 1) < 2" @click="dropBay"
      >− take it off</ElButton
    >
  </p>
</template>
