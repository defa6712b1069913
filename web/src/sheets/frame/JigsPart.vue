<script setup lang="ts">
import { computed } from 'vue'
import ChoiceField from '../../components/ChoiceField.vue'
import NumberField from '../../components/NumberField.vue'
import SectionField from '../../components/SectionField.vue'
import TextField from '../../components/TextField.vue'
import ToggleField from '../../components/ToggleField.vue'
import { readVector, writeVector } from '../../lib/vectors'
import { added, removed } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'
import DeckPart from './DeckPart.vue'

const bench = useWorkbench()
const jigs = computed(() => bench.document?.jigs ?? [])
const options = (...values: string[]) => values.map((value) => ({ value, label: value }))
const PATTERNS = options('Pratt', 'Howe', 'Warren', 'Warren with posts', 'N', 'K', 'Fink', 'fan')
const words = { truss: 'Truss', floor: 'Floor', bracing: 'Bracing' } as const

function add(kind: keyof typeof words) {
  const taken = new Set(jigs.value.map((j) => j.name))
  let n = 1
  while (taken.has(`${kind}-${n}`)) n++
  const name = `${kind}-${n}`
  const value =
    kind === 'bracing'
      ? {
          kind,
          name,
          corners: [
            [0, 0, 0],
            [4, 0, 0],
            [4, 0, 4],
            [0, 0, 4],
          ],
        }
      : kind === 'floor'
        ? {
            kind,
            name,
            across: bounds('X'),
            along: bounds('Y'),
            divide: Math.max(1, Math.round((bench.chain?.hall?.span ?? 12) / 6)),
          }
        : { kind, name, columns: 5.0 }
  void bench.edit(`${words[kind]} jig ${name} added`, added('jigs', value))
}
/** The first two grid lines of an axis: a floor starts between them. */
function bounds(axis: string) {
  const lines = (bench.chain?.grid ?? []).filter((g) => g.axis === axis).map((g) => g.name)
  return lines.length > 1
    ? [lines[0], lines[axis === 'X' ? lines.length - 1 : 1]]
    : axis === 'X'
      ? ['A', 'B']
      : ['1', '2']
}
function remove(i: number) {
  void bench.edit(`Jig ${jigs.value[i]!.name} removed`, removed('jigs', jigs.value[i]))
}
const pair = (text: string) => {
  const found = text.split(/[\s,;–-]+/).filter(Boolean)
  return found.length === 2 ? { value: found } : 'Two grid lines are needed, for instance A – B.'
}
const corner = (text: string) => {
  const name = text.trim()
  if (/[a-z]/i.test(name)) return { value: name }
  return readVector(name)
}
</script>

<template>
  <p class="note add">
    Add a jig: <button class="plate" @click="add('truss')">Truss</button>
    <button
      class="plate"
      :disabled="!bench.chain?.grid?.length"
      title="A floor lies between grid lines"
      @click="add('floor')"
    >
      Floor
    </button>
    <button class="plate" @click="add('bracing')">Bracing</button>
  </p>
  <p v-if="!jigs.length" class="note">
    A truss stands between two points or on two columns; a floor lies between grid lines at a level; bracing fills the
    field between four points. Each can be repeated, and changed for as long as the project lives.
  </p>
  <details v-for="(jig, i) in jigs" :key="jig.name" open>
    <summary>{{ words[jig.kind as 'truss'] }} · {{ jig.name }}</summary>
    <TextField
      label="Name"
      :path="`jigs.${i}.name`"
      :written="jig.name"
      hint="First part of the names of its members; edits follow the name"
    />
    <template v-if="jig.kind === 'truss'">
      <TextField
        label="From (x, y, z)"
        :path="`jigs.${i}.start`"
        :written="writeVector(jig.start!)"
        :read="readVector"
        hint="Ends of the bottom chord, in metres"
      />
      <TextField label="To (x, y, z)" :path="`jigs.${i}.end`" :written="writeVector(jig.end!)" :read="readVector" />
      <ChoiceField label="Pattern" :path="`jigs.${i}.pattern`" :value="jig.pattern ?? 'Pratt'" :options="PATTERNS" />
      <ChoiceField
        label="Outline"
        :path="`jigs.${i}.outline`"
        :value="jig.outline ?? ''"
        :options="options('double pitch', 'single pitch', 'parallel', 'curved')"
      />
      <NumberField
        label="Height at the supports"
        :path="`jigs.${i}.height_support`"
        kind="length"
        :value="jig.height_support"
      />
      <NumberField label="Height at the apex" :path="`jigs.${i}.height_apex`" kind="length" :value="jig.height_apex" />
      <NumberField
        v-if="jig.outline === 'double pitch'"
        label="Apex at a share of the span"
        :path="`jigs.${i}.apex_at`"
        kind="factor"
        :value="jig.apex_at"
      />
      <NumberField label="Panels in each half" :path="`jigs.${i}.panels`" kind="count" :value="jig.panels" />
      <ToggleField label="Chords continuous" :path="`jigs.${i}.chords_continuous`" :value="jig.chords_continuous" />
      <ToggleField label="Webs pinned" :path="`jigs.${i}.webs_pinned`" :value="jig.webs_pinned" />
      <NumberField
        label="Columns below"
        :path="`jigs.${i}.columns`"
        kind="length"
        :value="jig.columns"
        optional="supports"
        hint="Length of the columns; empty: it stands on supports"
      />
      <ChoiceField
        v-if="jig.columns"
        label="Bases"
        :path="`jigs.${i}.bases`"
        :value="jig.bases ?? 'fixed'"
        :options="options('pinned', 'fixed')"
      />
      <ToggleField label="Struts between repeated trusses" :path="`jigs.${i}.struts`" :value="jig.struts" />
      <ToggleField
        label="Cladding on the top chords"
        :path="`jigs.${i}.roofed`"
        :value="jig.roofed"
        hint="From truss to truss, with the weight, imposed load and snow of a roof; wind on it is a case of your own"
      />
    </template>
    <template v-else-if="jig.kind === 'floor'">
      <NumberField label="Level" :path="`jigs.${i}.level`" kind="altitude" :value="jig.level" />
      <TextField
        label="Across, between"
        :path="`jigs.${i}.across`"
        :written="jig.across!.join(' – ')"
        :read="pair"
        hint="Lettered grid lines"
      />
      <TextField
        label="Along, between"
        :path="`jigs.${i}.along`"
        :written="jig.along!.join(' – ')"
        :read="pair"
        hint="Numbered grid lines"
      />
      <NumberField label="Equal spans across" :path="`jigs.${i}.divide`" kind="count" :value="jig.divide" />
      <ChoiceField
        label="Main beams run"
        :path="`jigs.${i}.main`"
        :value="jig.main ?? 'across'"
        :options="options('across', 'along')"
      />
      <NumberField
        label="Joists in a field"
        :path="`jigs.${i}.joists`"
        kind="count"
        :value="jig.joists"
        optional="by spacing"
      />
      <NumberField
        label="or spacing, at most"
        :path="`jigs.${i}.joist_spacing`"
        kind="length"
        :value="jig.joist_spacing"
      />
      <ToggleField label="Columns below" :path="`jigs.${i}.columns`" :value="jig.columns" />
      <NumberField
        v-if="jig.columns"
        label="Their feet at"
        :path="`jigs.${i}.base`"
        kind="altitude"
        :value="jig.base"
      />
      <ChoiceField
        label="Deck spans"
        :path="`jigs.${i}.deck`"
        :value="jig.deck ?? 'one way'"
        :options="options('one way', 'two ways')"
      />
      <DeckPart :path="`jigs.${i}`" :diaphragm="jig.diaphragm ?? 'rigid'" :membrane="jig.membrane" />
      <NumberField
        label="Permanent, deck and finishes"
        :path="`jigs.${i}.permanent`"
        kind="pressure"
        :value="jig.permanent"
      />
      <NumberField label="Imposed" :path="`jigs.${i}.imposed`" kind="pressure" :value="jig.imposed" />
      <ChoiceField
        label="Category"
        :path="`jigs.${i}.category`"
        :value="jig.category ?? 'B'"
        :options="options('A', 'B', 'C', 'D', 'E', 'F', 'G')"
        hint="EN 1991-1-1 tables 6.1, 6.3, 6.7"
      />
      <ToggleField
        label="Reduced by area, α_A"
        :path="`jigs.${i}.reduced`"
        :value="jig.reduced"
        hint="Of the area that each carrier of the deck takes, categories A to D (EN 1991-1-1 6.3.1.2(10))"
      />
    </template>
    <template v-else>
      <TextField
        v-for="k in 4"
        :key="k"
        :label="`Corner ${k}`"
        :path="`jigs.${i}.corners.${k - 1}`"
        :written="
          typeof jig.corners[k - 1] === 'string'
            ? String(jig.corners[k - 1])
            : writeVector(jig.corners[k - 1] as number[])
        "
        :read="corner"
        hint="The name of a node, or x, y, z; corners go round the field"
      />
      <ChoiceField
        label="Kind"
        :path="`jigs.${i}.pattern`"
        :value="jig.pattern ?? 'X'"
        :options="options('X', 'single', 'K', 'V')"
      />
      <ToggleField
        v-if="jig.pattern === 'X'"
        label="tension only"
        :path="`jigs.${i}.tension_only`"
        :value="jig.tension_only"
      />
      <NumberField label="Storeys" :path="`jigs.${i}.storeys`" kind="count" :value="jig.storeys" />
      <ToggleField label="Struts at each storey" :path="`jigs.${i}.struts`" :value="jig.struts" />
      <SectionField label="Section" :path="`jigs.${i}.section`" :value="jig.section ?? ''" />
    </template>
    <template v-if="jig.kind !== 'floor'">
      <NumberField label="Repeated, in all" :path="`jigs.${i}.repeat.count`" kind="count" :value="jig.repeat?.count" />
      <TextField
        v-if="(jig.repeat?.count ?? 1) > 1"
        label="Step (x, y, z)"
        :path="`jigs.${i}.repeat.step`"
        :written="writeVector(jig.repeat!.step!)"
        :read="readVector"
      />
    </template>
    <template v-if="jig.kind !== 'bracing'">
      <SectionField
        v-for="(value, key) in jig.sections"
        :key="key"
        :label="String(key).replace('_', ' ')"
        :path="`jigs.${i}.sections.${key}`"
        :value="value ?? ''"
      />
    </template>
    <p class="note">
      <button class="quiet" @click="bench.operate(`Jig ${jig.name} released`, { do: 'release', jig: jig.name })">
        Release into free members
      </button>
      <button class="quiet" @click="remove(i)">Remove</button>
    </p>
  </details>
</template>

<style scoped>
.add {
  padding-top: 10px;
}
details {
  border-top: 1px solid var(--line-soft);
  padding: 4px 0;
}
summary {
  padding: 3px 12px;
  font: 500 12.5px var(--condensed);
  cursor: pointer;
}
</style>
