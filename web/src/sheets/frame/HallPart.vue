<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import ChoiceField from '../../components/ChoiceField.vue'
import NumberField from '../../components/NumberField.vue'
import SectionField from '../../components/SectionField.vue'
import TextField from '../../components/TextField.vue'
import ToggleField from '../../components/ToggleField.vue'
import { readSpacings, writeSpacings } from '../../lib/spacings'
import { added, removed } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
const options = (...values: string[]) => values.map((value) => ({ value, label: value }))
const SHAPES = options('duopitch', 'single pitch', 'flat')
const BRACES = options('X', 'single', 'K', 'V')
const MEASURED = [
  { value: 'grid', label: 'grid (system lines)' },
  { value: 'cladding', label: 'outside of cladding' },
  { value: 'clear', label: 'clear inside' },
]
const PATTERNS = options('Pratt', 'Howe', 'Warren', 'Warren with posts', 'N', 'K', 'Fink', 'fan')
const GRADES = computed(() =>
  options('S235', 'S275', 'S355', 'S420', 'S450', 'S460', ...(bench.document?.materials ?? []).map((m) => m.name)),
)
const letters = 'ABCDEFG'
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
async function start() {
  await bench.edit('Hall set out', [{ path: 'hall', value: {} }])
}
function addBay() {
  const last = hall.value.bays!.at(-1)!
  void bench.edit('A bay added on the right', added('hall.bays', { ...last }))
}
function dropBay() {
  void bench.edit('The right bay taken off', removed('hall.bays', hall.value.bays!.at(-1)))
}
const readBays = (text: string) => {
  const found = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number)
  if (!found.length || found.some((n) => !Number.isInteger(n) || n === 0))
    return 'Numbers of bays from the front; −1 is the last.'
  return { value: found }
}
const gables = [
  ['front', 'Front'],
  ['back', 'Back'],
] as const
function alike() {
  void bench.edit('Back gable like the front', [{ path: 'hall.back', value: { ...hall.value.front } }])
}
const SURFACES = [
  ['roof', 'Roof'],
  ['walls', 'Side walls'],
  ['gables', 'Gables'],
] as const
function release() {
  void bench.operate('Hall released into free members', { do: 'release', jig: 'hall' })
}
</script>

<template>
  <template v-if="bench.hall">
    <h4>Roof <span>bay by bay, left to right</span></h4>
    <details v-for="(bay, i) in hall.bays" :key="i" :open="(hall.bays?.length ?? 1) < 3">
      <summary>{{ letters[i] }}–{{ letters[i + 1] }} · {{ bay.shape }} · {{ bay.span }} m</summary>
      <NumberField
        label="Span"
        :path="`hall.bays.${i}.span`"
        kind="length"
        :value="bay.span"
        hint="3 to 80 m, between the column lines"
      />
      <ChoiceField label="Shape" :path="`hall.bays.${i}.shape`" :value="bay.shape ?? 'duopitch'" :options="SHAPES" />
      <NumberField
        v-if="bay.shape !== 'flat'"
        label="Pitch"
        :path="`hall.bays.${i}.pitch`"
        kind="angle"
        :value="bay.pitch"
        hint="Of the left slope; a single pitch rises to the right, a negative one falls. 20% is understood too"
      />
      <template v-if="bay.shape === 'duopitch'">
        <NumberField
          label="Right pitch"
          :path="`hall.bays.${i}.right_pitch`"
          kind="angle"
          :value="bay.right_pitch"
          optional="as left"
          hint="Leave empty for equal pitches"
        />
        <NumberField
          label="Ridge, from the left"
          :path="`hall.bays.${i}.ridge_at`"
          kind="length"
          :value="bay.ridge_at"
          optional="by pitches"
          hint="Distance of the ridge from the left grid line"
        />
        <NumberField
          label="Ridge height"
          :path="`hall.bays.${i}.ridge_height`"
          kind="length"
          :value="bay.ridge_height"
          optional="by pitch"
          hint="Height above ±0, in place of the pitch"
        />
      </template>
      <NumberField
        v-if="bay.shape === 'duopitch'"
        label="Right eaves height"
        :path="`hall.bays.${i}.right_height`"
        kind="length"
        :value="bay.right_height"
        optional="as left"
      />
      <NumberField
        label="Right base level"
        :path="`hall.bays.${i}.right_base`"
        kind="altitude"
        :value="bay.right_base"
        optional="as left"
      />
    </details>
    <p class="note">
      <ElButton link type="primary" size="small" :disabled="(hall.bays?.length ?? 1) >= 6" @click="addBay"
        >+ bay on the right</ElButton
      >
      <ElButton link type="primary" size="small" :disabled="(hall.bays?.length ?? 1) < 2" @click="dropBay"
        >− take it off</ElButton
      >
    </p>
    <h4>Heights and frames</h4>
    <ChoiceField label="Measured to" path="hall.measured" :value="hall.measured ?? 'grid'" :options="MEASURED" />
    <NumberField
      label="Eaves height"
      path="hall.eaves_height"
      kind="length"
      :value="hall.eaves_height"
      hint="Above ±0, on the first grid line"
    />
    <NumberField label="Base level" path="hall.base_level" kind="altitude" :value="hall.base_level" />
    <TextField
      label="Bay spacings"
      path="hall.spacings"
      :written="writeSpacings(hall.spacings ?? [])"
      :read="readSpacings"
      hint="Front to back: 2*6 + 4*7.2 + 6"
    />
    <ChoiceField
      label="Bases"
      path="hall.bases"
      :value="hall.bases ?? 'pinned'"
      :options="options('pinned', 'fixed', 'spring')"
    />
    <NumberField
      v-if="hall.bases === 'spring'"
      label="Base stiffness"
      path="hall.base_stiffness"
      kind="factor"
      unit="kNm/rad"
      :value="hall.base_stiffness"
    />
    <div v-if="bench.chain?.hall" class="pairs">
      <span>Top of the roof</span><b>{{ bench.chain.hall.height.toFixed(3) }} m</b> <span>Width, grid to grid</span
      ><b>{{ bench.chain.hall.span.toFixed(3) }} m</b> <span>Length of the hall</span
      ><b>{{ bench.chain.hall.length.toFixed(2) }} m</b> <span>Frames</span
      ><b>{{ (hall.spacings?.length ?? 0) + 1 }}</b>
    </div>
    <details>
      <summary>Haunches, knee braces, ties</summary>
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
        <NumberField
          label="Down the column"
          path="hall.knee_braces.down"
          kind="length"
          :value="hall.knee_braces.down"
        />
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
    </details>
    <details>
      <summary>Trusses in place of rafters</summary>
      <ToggleField label="Trussed hall" path="hall.truss" :value="hall.truss" :on="{}" :off="null" />
      <template v-if="hall.truss">
        <ChoiceField label="Pattern" path="hall.truss.pattern" :value="hall.truss.pattern ?? ''" :options="PATTERNS" />
        <NumberField label="Depth at the columns" path="hall.truss.depth" kind="length" :value="hall.truss.depth" />
        <NumberField label="Panels in each half" path="hall.truss.panels" kind="count" :value="hall.truss.panels" />
        <ChoiceField
          label="Bottom chord"
          path="hall.truss.bottom"
          :value="hall.truss.bottom ?? 'level'"
          :options="options('level', 'parallel')"
        />
        <NumberField
          label="Bottom chord stayed at every n-th point"
          path="hall.truss.stay_every"
          kind="count"
          unit="n"
          :value="hall.truss.stay_every"
          hint="Stays to the purlins; 0: nowhere"
        />
        <ToggleField label="Webs pinned" path="hall.truss.webs_pinned" :value="hall.truss.webs_pinned" />
      </template>
    </details>
    <details>
      <summary>End frames</summary>
      <template v-for="[key, words] in gables" :key="key">
        <ChoiceField
          :label="`${words} gable`"
          :path="`hall.${key}.kind`"
          :value="hall[key]?.kind ?? 'frame'"
          :options="[
            { value: 'frame', label: 'like the others' },
            { value: 'posts', label: 'posts and simple rafters' },
          ]"
        />
        <template v-if="hall[key]?.kind === 'posts'">
          <NumberField label="Posts" :path="`hall.${key}.posts`" kind="count" :value="hall[key]!.posts" />
          <NumberField
            label="or spacing, at most"
            :path="`hall.${key}.spacing`"
            kind="length"
            :value="hall[key]!.spacing"
            optional="by number"
          />
        </template>
      </template>
      <p class="note">
        <ElButton link type="primary" size="small" @click="alike">Make the back like the front</ElButton>
      </p>
    </details>
    <details>
      <summary>Purlins and rails</summary>
      <NumberField
        label="Purlin spacing, at most"
        path="hall.purlins.spacing"
        kind="length"
        :value="hall.purlins?.spacing"
        hint="Purlins hold the outer flange of the rafters"
      />
      <NumberField
        label="First purlin from the eaves"
        path="hall.purlins.first"
        kind="length"
        :value="hall.purlins?.first"
        optional="even"
      />
      <NumberField
        label="Stay at every n-th purlin"
        path="hall.purlins.stay_every"
        kind="count"
        unit="n"
        :value="hall.purlins?.stay_every"
        hint="Stays hold the inner flange; 0: only at eaves and ridge"
      />
      <ToggleField
        label="Purlins are members"
        path="hall.purlins.modelled"
        :value="hall.purlins?.modelled"
        hint="They carry the roof; else they weigh with the cladding"
      />
      <ToggleField
        v-if="hall.purlins?.modelled"
        label="continuous over the frames"
        path="hall.purlins.continuous"
        :value="hall.purlins?.continuous"
      />
      <ToggleField
        label="Side rails hold the columns"
        path="hall.rails"
        :value="hall.rails"
        :on="{ spacing: 2.0 }"
        :off="null"
      />
      <template v-if="hall.rails">
        <NumberField
          label="Rail spacing, at most"
          path="hall.rails.spacing"
          kind="length"
          :value="hall.rails.spacing"
        />
        <NumberField
          label="First rail from the base"
          path="hall.rails.first"
          kind="length"
          :value="hall.rails.first"
          optional="even"
        />
        <NumberField
          label="Stay at every n-th rail"
          path="hall.rails.stay_every"
          kind="count"
          unit="n"
          :value="hall.rails.stay_every"
        />
        <ToggleField label="Rails are members" path="hall.rails.modelled" :value="hall.rails.modelled" />
      </template>
    </details>
    <details>
      <summary>Bracing</summary>
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
            :written="(hall.bracing[key]!.bays ?? []).join(', ')"
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
    </details>
    <details>
      <summary>Lean-tos and overhangs</summary>
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
    </details>
    <h4>Steel and sections</h4>
    <ChoiceField label="Grade" path="hall.grade" :value="hall.grade ?? 'S355'" :options="GRADES" />
    <SectionField
      v-for="[key, words] in roles"
      :key="key"
      :label="words"
      :path="`hall.sections.${key}`"
      :value="hall.sections?.[key] ?? ''"
    />
    <p class="note">
      <ElButton
        link
        type="primary"
        size="small"
        title="Its members become free members by hand; wind and snow are no longer generated from it"
        @click="release"
      >
        Release the hall into free members
      </ElButton>
    </p>
  </template>
  <template v-else>
    <p class="note">There is no hall in this project. Set one out, use another jig, or draw by hand.</p>
    <p class="note"><ElButton size="small" @click="start">Set out a hall</ElButton></p>
  </template>
</template>

<style scoped>
details {
  border-top: 1px solid var(--line-soft);
  padding: 3px 0;
}
summary {
  padding: 3px 12px;
  font: 500 12.5px var(--condensed);
  cursor: pointer;
}
</style>
