<script setup lang="ts">
import type { Schemas } from '../../../api/client'
import ChoiceField from '../../../components/ChoiceField.vue'
import NumberField from '../../../components/NumberField.vue'
import SectionField from '../../../components/SectionField.vue'
import TextField from '../../../components/TextField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { readVector, writeVector } from '../../../lib/vectors'
import RepeatFields from './RepeatFields.vue'

defineProps<{ jig: Schemas['BracingJig']; path: string }>()
const KINDS = ['X', 'single', 'K', 'V'].map((value) => ({ value, label: value }))
const corner = (text: string) => {
  const name = text.trim()
  return /[a-z]/i.test(name) ? { value: name } : readVector(name)
}
const written = (place: unknown) => (typeof place === 'string' ? place : writeVector(place as number[]))
</script>

<template>
  <TextField
    v-for="k in 4"
    :key="k"
    :label="`Corner ${k}`"
    :path="`${path}.corners.${k - 1}`"
    :written="written(jig.corners[k - 1])"
    :read="corner"
    hint="The name of a node, or x, y, z; corners go round the field"
  />
  <ChoiceField label="Kind" :path="`${path}.pattern`" :value="jig.pattern ?? 'X'" :options="KINDS" />
  <ToggleField
    v-if="jig.pattern === 'X'"
    label="tension only"
    :path="`${path}.tension_only`"
    :value="jig.tension_only"
  />
  <NumberField label="Storeys" :path="`${path}.storeys`" kind="count" :value="jig.storeys" />
  <ToggleField label="Struts at each storey" :path="`${path}.struts`" :value="jig.struts" />
  <SectionField label="Section" :path="`${path}.section`" :value="jig.section ?? ''" />
  <RepeatFields :repeat="jig.repeat" :path="path" />
</template>
