<script setup lang="ts">
import type { Schemas } from '../../../api/client'
import ChoiceField from '../../../components/ChoiceField.vue'
import NumberField from '../../../components/NumberField.vue'
import TextField from '../../../components/TextField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { readSpacings, writeSpacings } from '../../../lib/spacings'
import { readBraced, readOpenings, writeBraced, writeOpenings } from '../../../lib/storeys'
import DeckPart from '../DeckPart.vue'
import StoreyFields from './StoreyFields.vue'

defineProps<{ jig: Schemas['FloorJig']; path: string }>()
const options = (...values: string[]) => values.map((value) => ({ value, label: value }))
const CATEGORIES = options('A', 'B', 'C', 'D', 'E', 'F', 'G')
const TOPS = [
  { value: 'floor', label: 'floor' },
  { value: 'roof', label: 'flat roof' },
  { value: 'columns', label: 'columns alone' },
]
const FRAMES = [
  { value: 'none', label: 'no beams' },
  { value: 'main beams', label: 'main beams' },
  { value: 'all', label: 'all beams on columns' },
]
const pair = (text: string) => {
  const found = text.split(/[\s,;–-]+/).filter(Boolean)
  return found.length === 2 ? { value: found } : 'Two grid lines are needed, for instance A – B.'
}
</script>

<template>
  <template v-if="jig.grid">
    <TextField
      label="Spacings across"
      :path="`${path}.grid.across`"
      :written="writeSpacings(jig.grid.across)"
      :read="(text: string) => readSpacings(text, 40)"
      hint="Lettered grid lines, along X: 3*6 + 4.5"
    />
    <TextField
      label="Spacings along"
      :path="`${path}.grid.along`"
      :written="writeSpacings(jig.grid.along)"
      :read="(text: string) => readSpacings(text, 40)"
      hint="Numbered grid lines, along Y"
    />
    <NumberField label="First corner, x" :path="`${path}.grid.x`" kind="altitude" :value="jig.grid.x" />
    <NumberField label="First corner, y" :path="`${path}.grid.y`" kind="altitude" :value="jig.grid.y" />
  </template>
  <template v-else>
    <TextField
      label="Across, between"
      :path="`${path}.across`"
      :written="jig.across!.join(' – ')"
      :read="pair"
      hint="Lettered grid lines"
    />
    <TextField
      label="Along, between"
      :path="`${path}.along`"
      :written="jig.along!.join(' – ')"
      :read="pair"
      hint="Numbered grid lines"
    />
    <NumberField label="Equal spans across" :path="`${path}.divide`" kind="count" :value="jig.divide" />
  </template>
  <NumberField label="Level" :path="`${path}.level`" kind="altitude" :value="jig.level" />
  <StoreyFields :jig="jig" :path="path" />
  <ChoiceField
    label="Main beams run"
    :path="`${path}.main`"
    :value="jig.main ?? 'across'"
    :options="options('across', 'along')"
  />
  <NumberField
    label="Joists in a field"
    :path="`${path}.joists`"
    kind="count"
    :value="jig.joists"
    optional="by spacing"
  />
  <NumberField label="or spacing, at most" :path="`${path}.joist_spacing`" kind="length" :value="jig.joist_spacing" />
  <ToggleField label="Columns below" :path="`${path}.columns`" :value="jig.columns" />
  <template v-if="jig.columns">
    <NumberField label="Their feet at" :path="`${path}.base`" kind="altitude" :value="jig.base" />
    <ChoiceField
      label="Their feet are"
      :path="`${path}.bases`"
      :value="jig.bases ?? 'pinned'"
      :options="options('pinned', 'fixed')"
    />
    <ChoiceField
      v-if="jig.storeys?.length"
      label="At each floor they are"
      :path="`${path}.joints`"
      :value="jig.joints ?? 'continuous'"
      :options="options('continuous', 'hinged')"
    />
  </template>
  <ChoiceField
    label="Rigidly joined to columns"
    :path="`${path}.frames`"
    :value="jig.frames ?? 'none'"
    :options="FRAMES"
    hint="Frames that bear sideways forces in the direction of these beams, in place of bracing; the columns stand with their webs along the main beams"
  />
  <TextField
    label="Braced fields"
    :path="`${path}.braced`"
    :written="writeBraced(jig.braced)"
    :read="readBraced"
    hint="From the feet to the top: grid line and number of the field along it, A:1 D:1 1:-1"
  />
  <template v-if="jig.braced?.length">
    <ChoiceField
      label="Pattern of the bracing"
      :path="`${path}.pattern`"
      :value="jig.pattern ?? 'X'"
      :options="options('X', 'single', 'K', 'V')"
    />
    <ToggleField
      v-if="jig.pattern === 'X'"
      label="Bracing in tension only"
      :path="`${path}.tension_only`"
      :value="jig.tension_only"
    />
  </template>
  <ChoiceField
    label="Uppermost it has a"
    :path="`${path}.top`"
    :value="jig.top ?? 'floor'"
    :options="TOPS"
    hint="A roof bears cladding, snow and wind in place of floor loads; columns alone wait for trusses"
  />
  <ToggleField
    label="Walls round it"
    :path="`${path}.walls`"
    :value="jig.walls"
    hint="Cladding on the outer columns, with its weight and the wind"
  />
  <TextField
    label="Openings"
    :path="`${path}.openings`"
    :written="writeOpenings(jig.openings)"
    :read="readOpenings"
    hint="In every floor, with trimmers and headers: field across and along, corner x y from the field's own, size x y in metres: 1:2 1.0 2.0 2.6 4.0; more parted by semicolons"
  />
  <ChoiceField
    label="Deck spans"
    :path="`${path}.deck`"
    :value="jig.deck ?? 'one way'"
    :options="options('one way', 'two ways')"
  />
  <DeckPart :path="path" :diaphragm="jig.diaphragm ?? 'rigid'" :membrane="jig.membrane" :slab="jig.slab" />
  <NumberField
    label="Permanent, deck and finishes"
    :path="`${path}.permanent`"
    kind="pressure"
    :value="jig.permanent"
  />
  <NumberField label="Imposed" :path="`${path}.imposed`" kind="pressure" :value="jig.imposed" />
  <ChoiceField
    label="Category"
    :path="`${path}.category`"
    :value="jig.category ?? 'B'"
    :options="CATEGORIES"
    hint="EN 1991-1-1 tables 6.1, 6.3, 6.7"
  />
  <ToggleField
    label="Reduced by area, α_A"
    :path="`${path}.reduced`"
    :value="jig.reduced"
    hint="Of the area that each carrier of the deck takes, categories A to D (EN 1991-1-1 6.3.1.2(10))"
  />
</template>
