<script setup lang="ts">
import type { Schemas } from '../../../api/client'
import ChoiceField from '../../../components/ChoiceField.vue'
import NumberField from '../../../components/NumberField.vue'
import TextField from '../../../components/TextField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { readVector, writeVector } from '../../../lib/vectors'
import RepeatFields from './RepeatFields.vue'

defineProps<{ jig: Schemas['TrussJig']; path: string }>()
const options = (...values: string[]) => values.map((value) => ({ value, label: value }))
const PATTERNS = options('Pratt', 'Howe', 'Warren', 'Warren with posts', 'N', 'K', 'Fink', 'fan')
const columns = (text: string) => {
  const names = text
    .split(/\s*[,;]\s*/)
    .map((name) => name.trim())
    .filter(Boolean)
  if (!names.length) return { value: null }
  return names.length === 2 ? { value: names } : 'The names of two columns are needed, parted by a comma.'
}
const bays = (text: string) => {
  const numbers = text.replaceAll('−', '-').split(/[\s,;]+/)
  const found = numbers.filter(Boolean).map(Number)
  return found.every(Number.isInteger) ? { value: found } : 'Numbers of fields are needed, for instance 1 -1.'
}
</script>

<template>
  <TextField
    label="On columns"
    :path="`${path}.on`"
    :written="jig.on?.join(', ') ?? ''"
    :read="columns"
    hint="Two columns whose heads it meets; it follows them. Empty: between two points"
  />
  <ChoiceField
    v-if="jig.on"
    label="Their heads meet the"
    :path="`${path}.seat`"
    :value="jig.seat ?? 'top chord'"
    :options="options('top chord', 'bottom chord')"
  />
  <template v-else>
    <TextField
      label="From (x, y, z)"
      :path="`${path}.start`"
      :written="writeVector(jig.start!)"
      :read="readVector"
      hint="Ends of the bottom chord, in metres"
    />
    <TextField label="To (x, y, z)" :path="`${path}.end`" :written="writeVector(jig.end!)" :read="readVector" />
  </template>
  <ChoiceField label="Pattern" :path="`${path}.pattern`" :value="jig.pattern ?? 'Pratt'" :options="PATTERNS" />
  <ChoiceField
    label="Outline"
    :path="`${path}.outline`"
    :value="jig.outline ?? ''"
    :options="options('double pitch', 'single pitch', 'parallel', 'curved')"
  />
  <NumberField
    v-if="jig.outline !== 'parallel'"
    label="Height at the supports"
    :path="`${path}.height_support`"
    kind="length"
    :value="jig.height_support"
  />
  <NumberField
    :label="jig.outline === 'parallel' ? 'Height' : 'Height at the apex'"
    :path="`${path}.height_apex`"
    kind="length"
    :value="jig.height_apex"
  />
  <NumberField
    v-if="jig.outline === 'double pitch'"
    label="Apex at a share of the span"
    :path="`${path}.apex_at`"
    kind="factor"
    :value="jig.apex_at"
  />
  <NumberField label="Panels in each half" :path="`${path}.panels`" kind="count" :value="jig.panels" />
  <ToggleField label="Chords continuous" :path="`${path}.chords_continuous`" :value="jig.chords_continuous" />
  <ToggleField label="Webs pinned" :path="`${path}.webs_pinned`" :value="jig.webs_pinned" />
  <template v-if="!jig.on">
    <NumberField
      label="Columns below"
      :path="`${path}.columns`"
      kind="length"
      :value="jig.columns"
      optional="supports"
      hint="Length of the columns; empty: it stands on supports"
    />
    <ChoiceField
      v-if="jig.columns"
      label="Bases"
      :path="`${path}.bases`"
      :value="jig.bases ?? 'fixed'"
      :options="options('pinned', 'fixed')"
    />
  </template>
  <RepeatFields :repeat="jig.repeat" :path="path" />
  <template v-if="(jig.repeat?.count ?? 1) > 1">
    <ToggleField
      label="Purlins at the panel points"
      :path="`${path}.purlins`"
      :value="jig.purlins"
      hint="Members from truss to truss that bear the cladding"
    />
    <NumberField
      v-if="jig.purlins"
      label="Bottom chord stayed at every"
      :path="`${path}.stay_every`"
      kind="count"
      :value="jig.stay_every"
      hint="n-th panel point, from the purlins; 0: nowhere"
    />
    <ToggleField
      v-if="!jig.purlins"
      label="Struts between the trusses"
      :path="`${path}.struts`"
      :value="jig.struts"
      hint="At both ends and at the apex"
    />
    <TextField
      label="Braced fields"
      :path="`${path}.braced`"
      :written="jig.braced.join(' ')"
      :read="bays"
      hint="Crossing rods along the top chords: numbers of the fields between trusses, negative from the last"
    />
    <ToggleField
      v-if="jig.braced?.length"
      label="Bracing in tension only"
      :path="`${path}.tension_only`"
      :value="jig.tension_only"
    />
    <ToggleField
      label="Cladding on the top chords"
      :path="`${path}.roofed`"
      :value="jig.roofed"
      hint="From truss to truss, with the weight, imposed load, snow and wind of a roof"
    />
    <NumberField
      v-if="jig.roofed"
      label="Blockage below, φ"
      :path="`${path}.blockage`"
      kind="factor"
      :value="jig.blockage"
      hint="Of a roof without walls (EN 1991-1-4 7.3): 0 empty, 1 full"
    />
  </template>
</template>
