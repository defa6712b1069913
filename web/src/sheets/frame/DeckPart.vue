<script setup lang="ts">
import type { Schemas } from '../../api/client'
import ChoiceField from '../../components/ChoiceField.vue'
import NumberField from '../../components/NumberField.vue'
import TextField from '../../components/TextField.vue'
import SlabFields from './SlabFields.vue'

/** How a deck holds the steelwork in its own plane: of a floor jig, or of a panel by hand, at `path`. */
defineProps<{
  path: string
  diaphragm: string
  membrane: Schemas['Deck'] | undefined
  slab: Schemas['Slab'] | undefined
  corners?: number
}>()
const WAYS = [
  { value: 'none', label: 'not at all' },
  { value: 'rigid', label: 'as a rigid body' },
  { value: 'membrane', label: 'as a membrane' },
  { value: 'slab', label: 'as a slab that bends' },
]
const KINDS = [
  { value: 'plate', label: 'plate' },
  { value: 'sheeting', label: 'sheeting, shear alone' },
]
</script>

<template>
  <ChoiceField
    label="Held in its plane"
    :path="`${path}.diaphragm`"
    :value="diaphragm"
    :options="WAYS"
    hint="Rigid: all nodes on a level floor move as one in plan. Membrane: by the stiffness of the deck, between nodes. Slab: it bends by itself, and bears what lies on it"
  />
  <SlabFields v-if="diaphragm === 'slab'" :path="`${path}.slab`" :slab="slab" :corners="corners ?? 0" />
  <template v-if="diaphragm === 'membrane'">
    <ChoiceField
      label="Deck acts as"
      :path="`${path}.membrane.kind`"
      :value="membrane?.kind ?? 'plate'"
      :options="KINDS"
    />
    <template v-if="membrane?.kind === 'sheeting'">
      <NumberField
        label="Shear stiffness G t"
        :path="`${path}.membrane.shear`"
        kind="stiffness"
        :value="membrane.shear"
        hint="Of the sheeting with its fasteners, per metre of width"
      />
    </template>
    <template v-else>
      <NumberField
        label="Thickness"
        :path="`${path}.membrane.thickness`"
        kind="length"
        :value="membrane?.thickness"
        hint="Of a solid plate of the same stiffness: the concrete above the ribs"
      />
      <TextField label="Material" :path="`${path}.membrane.material`" :written="membrane?.material ?? 'C25/30'" />
    </template>
  </template>
</template>
