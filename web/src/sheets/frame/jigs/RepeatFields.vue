<script setup lang="ts">
import type { Schemas } from '../../../api/client'
import NumberField from '../../../components/NumberField.vue'
import TextField from '../../../components/TextField.vue'
import { readVector, writeVector } from '../../../lib/vectors'

/** How often a jig stands, and the step from one to the next. */
defineProps<{ repeat: Schemas['Repeat'] | undefined; path: string }>()
</script>

<template>
  <NumberField label="Repeated, in all" :path="`${path}.repeat.count`" kind="count" :value="repeat?.count" />
  <TextField
    v-if="(repeat?.count ?? 1) > 1"
    label="Step (x, y, z)"
    :path="`${path}.repeat.step`"
    :written="writeVector(repeat!.step!)"
    :read="readVector"
  />
</template>
