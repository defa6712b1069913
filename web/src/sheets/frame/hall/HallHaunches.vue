<script setup lang="ts">
/** Haunches, knee braces and ties of a hall. */
import { computed } from 'vue'
import ChoiceField from '../../../components/ChoiceField.vue'
import FoldPart from '../../../components/FoldPart.vue'
import NumberField from '../../../components/NumberField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
</script>

<template>
  <FoldPart title="Haunches, knee braces, ties">
    <template
      v-for="[key, words] in [
        ['eaves_haunch', 'Eaves haunch'],
        ['apex_haunch', 'Apex haunch'],
      ] as const"
      :key="key"
    >
      <ToggleField
        :label="words"
        :path="`hall.${key}`"
        :value="hall[key]"
        :on="key === 'eaves_haunch' ? {} : { length: 1.2, depth: 0.2 }"
        :off="null"
      />
      <template v-if="hall[key]">
        <NumberField
          label="Length along the rafter"
          :path="`hall.${key}.length`"
          kind="length"
          :value="hall[key]!.length"
        />
        <NumberField
          label="Depth added"
          :path="`hall.${key}.depth`"
          kind="length"
          :value="hall[key]!.depth"
          hint="Below the rafter at the deep end"
        />
        <ChoiceField
          label="Made of"
          :path="`hall.${key}.made_of`"
          :value="hall[key]!.made_of ?? 'cut'"
          :options="[
            { value: 'cut', label: 'a cut section' },
            { value: 'plates', label: 'plates' },
          ]"
        />
        <template v-if="hall[key]!.made_of === 'plates'">
          <NumberField label="Web" :path="`hall.${key}.web`" kind="length" :value="hall[key]!.web" />
          <NumberField
            label="Flange width"
            :path="`hall.${key}.flange_width`"
            kind="length"
            :value="hall[key]!.flange_width"
          />
          <NumberField label="Flange" :path="`hall.${key}.flange`" kind="length" :value="hall[key]!.flange" />
        </template>
      </template>
    </template>
    <ToggleField label="Knee braces" path="hall.knee_braces" :value="hall.knee_braces" :on="{}" :off="null" />
    <template v-if="hall.knee_braces">
      <NumberField label="Down the column" path="hall.knee_braces.down" kind="length" :value="hall.knee_braces.down" />
      <NumberField
        label="Along the rafter"
        path="hall.knee_braces.along"
        kind="length"
        :value="hall.knee_braces.along"
      />
    </template>
    <ToggleField label="Tie between the slopes" path="hall.tie" :value="hall.tie" :on="{}" :off="null" />
    <NumberField
      v-if="hall.tie"
      label="Tie at a share of the rise"
      path="hall.tie.at"
      kind="factor"
      :value="hall.tie.at"
      hint="0: eaves to eaves"
    />
  </FoldPart>
</template>
