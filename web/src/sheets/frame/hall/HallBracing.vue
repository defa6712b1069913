<script setup lang="ts">
/** Bracing of roof, walls and gables of a hall. */
import { computed } from 'vue'
import ChoiceField from '../../../components/ChoiceField.vue'
import FoldPart from '../../../components/FoldPart.vue'
import NumberField from '../../../components/NumberField.vue'
import TextField from '../../../components/TextField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { options } from '../../../lib/options'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
const BRACES = options('X', 'single', 'K', 'V')
const SURFACES = [
  ['roof', 'Roof'],
  ['walls', 'Side walls'],
  ['gables', 'Gables'],
] as const
const readBays = (text: string) => {
  const found = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number)
  if (!found.length || found.some((n) => !Number.isInteger(n) || n === 0))
    return 'Numbers of bays from the front; −1 is the last.'
  return { value: found }
}
</script>

<template>
  <FoldPart title="Bracing">
    <template v-for="[key, words] in SURFACES" :key="key">
      <ToggleField
        :label="`${words} braced`"
        :path="`hall.bracing.${key}`"
        :value="hall.bracing?.[key]"
        :on="key === 'gables' ? { bays: [1] } : {}"
        :off="null"
      />
      <template v-if="hall.bracing?.[key]">
        <ChoiceField
          label="Kind"
          :path="`hall.bracing.${key}.kind`"
          :value="hall.bracing[key]!.kind ?? 'X'"
          :options="BRACES"
        />
        <TextField
          label="In bays"
          :path="`hall.bracing.${key}.bays`"
          :written="hall.bracing[key]!.bays.join(', ')"
          :read="readBays"
          hint="From the front (left); −1 is the last bay"
        />
        <ToggleField
          v-if="hall.bracing[key]!.kind === 'X'"
          label="tension only"
          :path="`hall.bracing.${key}.tension_only`"
          :value="hall.bracing[key]!.tension_only"
        />
      </template>
    </template>
    <ToggleField label="Struts at the panel points" path="hall.bracing.struts" :value="hall.bracing?.struts" />
    <NumberField label="Roof panel, about" path="hall.bracing.panel" kind="length" :value="hall.bracing?.panel" />
  </FoldPart>
</template>
