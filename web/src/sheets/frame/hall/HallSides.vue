<script setup lang="ts">
/** Lean-tos and overhangs of a hall. */
import { computed } from 'vue'
import FoldPart from '../../../components/FoldPart.vue'
import NumberField from '../../../components/NumberField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
</script>

<template>
  <FoldPart title="Lean-tos and overhangs">
    <template v-for="side in ['left', 'right'] as const" :key="side">
      <ToggleField
        :label="`Lean-to on the ${side}`"
        :path="`hall.lean_to_${side}`"
        :value="hall[`lean_to_${side}`]"
        :on="{}"
        :off="null"
      />
      <template v-if="hall[`lean_to_${side}`]">
        <NumberField
          label="Span"
          :path="`hall.lean_to_${side}.span`"
          kind="length"
          :value="hall[`lean_to_${side}`]!.span"
        />
        <NumberField
          label="Meets the column at"
          :path="`hall.lean_to_${side}.height`"
          kind="length"
          :value="hall[`lean_to_${side}`]!.height"
        />
        <NumberField
          label="Pitch"
          :path="`hall.lean_to_${side}.pitch`"
          kind="angle"
          :value="hall[`lean_to_${side}`]!.pitch"
        />
      </template>
      <NumberField
        :label="`Roof overhang ${side}`"
        :path="`hall.overhangs.${side}`"
        kind="length"
        :value="hall.overhangs?.[side]"
        hint="In plan, beyond the column line"
      />
    </template>
  </FoldPart>
</template>
