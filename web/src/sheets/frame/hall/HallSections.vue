<script setup lang="ts">
/** Grade and sections of the roles that a hall has. */
import { computed } from 'vue'
import ChoiceField from '../../../components/ChoiceField.vue'
import SectionField from '../../../components/SectionField.vue'
import { options } from '../../../lib/options'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
const GRADES = computed(() =>
  options('S235', 'S275', 'S355', 'S420', 'S450', 'S460', ...bench.stated.materials.map((m) => m.name)),
)
/** Sections of the roles that the hall has members of. */
const roles = computed(() => {
  const h = hall.value
  const posts = h.front?.kind === 'posts' || h.back?.kind === 'posts'
  const leans = h.lean_to_left || h.lean_to_right
  return (
    [
      ['columns', 'Columns', true],
      ['inner_columns', 'Inner columns', (h.bays?.length ?? 1) > 1],
      ['rafters', 'Rafters', !h.truss],
      ['top_chords', 'Top chords', h.truss],
      ['bottom_chords', 'Bottom chords', h.truss],
      ['webs', 'Truss webs', h.truss],
      ['gable_rafters', 'Gable rafters', posts],
      ['gable_posts', 'Gable posts', posts],
      ['eaves_beams', 'Eaves beams', true],
      ['ridge_beam', 'Ridge beam', true],
      ['purlins', 'Purlins', h.purlins?.modelled || h.measured === 'cladding'],
      ['rails', 'Side rails', h.rails?.modelled || h.measured === 'cladding'],
      ['bracing', 'Bracing', true],
      ['struts', 'Struts', h.bracing?.struts || h.bracing?.roof?.kind === 'V'],
      ['knee_braces', 'Knee braces', h.knee_braces],
      ['ties', 'Ties', h.tie],
      ['lean_to_columns', 'Lean-to columns', leans],
      ['lean_to_rafters', 'Lean-to rafters', leans],
    ] as const
  ).filter(([, , there]) => there)
})
</script>

<template>
  <h4>Steel and sections</h4>
  <ChoiceField label="Grade" path="hall.grade" :value="hall.grade ?? 'S355'" :options="GRADES" />
  <SectionField
    v-for="[key, words] in roles"
    :key="key"
    :label="words"
    :path="`hall.sections.${key}`"
    :value="hall.sections?.[key] ?? ''"
  />
</template>
