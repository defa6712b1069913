<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import ChoiceField from '../components/ChoiceField.vue'
import NumberField from '../components/NumberField.vue'
import ToggleField from '../components/ToggleField.vue'
import { minus } from '../lib/quantity'
import { added, keyed, removed } from '../lib/changes'
import { useWorkbench } from '../stores/workbench'
import NationalPart from './actions/NationalPart.vue'
import SheetHead from './SheetHead.vue'
import PickList from '../components/PickList.vue'
import CellInput from '../components/CellInput.vue'

const bench = useWorkbench()
const site = computed(() => bench.document?.site)
const snow = computed(() => bench.document?.snow)
const wind = computed(() => bench.document?.wind)
const TERRAIN = [
  { value: '0', label: '0 · sea, coast' },
  { value: 'I', label: 'I · lakes, flat' },
  { value: 'II', label: 'II · low vegetation' },
  { value: 'III', label: 'III · villages, forest' },
  { value: 'IV', label: 'IV · town' },
]
const DIRECTIONS = ['left', 'right', 'front', 'back'] as const

const named = ref(site.value?.place ?? '')
watch(
  () => site.value?.place,
  (place) => (named.value = place ?? ''),
)
async function place() {
  const value = named.value.trim()
  if (value !== site.value?.place) await bench.edit(`Place ${value}`, [{ path: 'site.place', value }])
}
const known = ref<string[]>([])
async function suggest() {
  const { data } = await api.GET('/api/climate/places', { params: { query: { name: named.value } } })
  known.value = data ?? []
}
const asking = ref(false)
const trouble = ref('')
/** Ask the climate service for the place's values; `altitude`: at the altitude that stands here. */
async function ask(altitude?: number) {
  asking.value = true
  trouble.value = ''
  try {
    const { data, error } = await api.GET('/api/climate', {
      params: { query: { place: site.value?.place ?? '', ...(altitude !== undefined && { altitude }) } },
    })
    if (!data) {
      trouble.value = (error as Schemas['Problem'] | undefined)?.message ?? 'The climate service gave no answer.'
      return
    }
    const words = `${data.source}, ${data.altitude} m`
    await bench.edit(`Climate of ${data.place}`, [
      { path: 'site.place', value: data.place },
      { path: 'site.altitude', value: data.altitude },
      { path: 'site.ground_snow', value: data.ground_snow },
      { path: 'site.wind_speed', value: data.wind_speed },
      { path: 'site.terrain', value: data.terrain },
      {
        path: 'site.sources',
        value: {
          altitude: { value: data.altitude, words: data.source },
          ground_snow: { value: data.ground_snow, words },
          wind_speed: { value: data.wind_speed, words: data.source },
          terrain: { value: data.terrain, words: data.source },
        },
      },
    ])
  } finally {
    asking.value = false
  }
}
/** Where a value comes from: the service, or by hand once it was changed. */
function origin(key: 'altitude' | 'ground_snow' | 'wind_speed' | 'terrain'): string {
  const source = site.value?.sources?.[key]
  return source && source.value === site.value?.[key] ? source.words : 'entered by hand'
}
const terrains = computed(() => [
  { value: '', label: site.value?.terrain ?? '' },
  ...TERRAIN.map(({ value }) => ({ value, label: value })),
])
const byDirection = (key: 'terrains' | 'directional' | 'orography', direction: string, text: string) => {
  const value = text === '' ? undefined : key === 'terrains' ? text : Number(text.replace(',', '.'))
  void bench.edit(`Wind from the ${direction}`, [keyed(`wind.${key}`, direction, value)])
}
const hilly = computed(() => DIRECTIONS.filter((d) => wind.value?.hills?.[d]))
const even = computed(() => DIRECTIONS.filter((d) => !wind.value?.hills?.[d]))
const hill = (direction: string, there: boolean) => {
  void bench.edit(`Rising ground to the ${direction}`, [keyed('wind.hills', direction, there ? {} : undefined)])
}
const orographyOf = (d: string) => bench.chain?.winds?.find((w) => w.direction === d)?.orography.toFixed(3) ?? ''
const roofs = computed(() => (bench.chain?.panels ?? []).filter((p) => p.kind === 'roof').map((p) => p.name))
const obstructions = computed(() => snow.value?.obstructions ?? [])
const addObstruction = () => {
  const [name, length] = bench.chain?.hall?.slopes[0] ?? []
  const value = { panel: `roof-${name}`, at: Math.round((length ?? 6) * 5) / 10, height: 1 }
  void bench.edit('Obstruction on the roof', added('snow.obstructions', value))
}
const dropObstruction = (i: number) =>
  bench.edit('Obstruction dropped', removed('snow.obstructions', obstructions.value[i]))
const neighbour = computed(() => snow.value?.neighbour)
</script>

<template>
  <SheetHead title="Site" :aside="site?.place" />
  <template v-if="site && snow && wind">
    <h4>Place</h4>
    <label class="field">
      <span>Name</span>
      <ElInput
        v-model="named"
        size="small"
        maxlength="80"
        list="places"
        aria-label="Place"
        @input="suggest"
        @change="place"
      />
      <datalist id="places"><option v-for="p in known" :key="p" :value="p" /></datalist>
    </label>
    <p class="buttons">
      <ElButton size="small" :disabled="asking || !site.place" @click="ask()">Ask the climate service</ElButton>
      <ElButton
        size="small"
        :disabled="asking || !site.place"
        title="Ground snow for the altitude that stands here"
        @click="ask(site.altitude)"
      >
        … at this altitude
      </ElButton>
    </p>
    <p v-if="trouble" class="note fails" role="alert">{{ trouble }}</p>
    <NumberField
      label="Altitude"
      path="site.altitude"
      kind="altitude"
      :value="site.altitude"
      :hint="`${origin('altitude')}. Above 1000 m snow takes other ψ (EN 1990 table A1.1)`"
    />
    <NumberField
      label="Bearing, front to back"
      path="site.bearing"
      kind="angle"
      optional="not stated"
      :value="site.bearing"
      hint="Compass bearing of the way from the front to the back; it turns the drawing of the site alone"
    />
    <h4>Snow <span>EN 1991-1-3</span></h4>
    <NumberField label="Ground snow s_k" path="site.ground_snow" kind="pressure" :value="site.ground_snow" />
    <p class="from">{{ origin('ground_snow') }}</p>
    <NumberField
      label="Exposure C_e"
      path="snow.exposure"
      kind="factor"
      :value="snow.exposure"
      hint="Table 5.1: 0.8 windswept, 1.0 normal, 1.2 sheltered"
    />
    <NumberField label="Thermal C_t" path="snow.thermal" kind="factor" :value="snow.thermal" hint="5.2(8)" />
    <NumberField
      label="Parapet at the eaves"
      path="snow.parapet"
      kind="length"
      :value="snow.parapet"
      hint="Snow drifts against it (6.2) and cannot slide; 0: none"
    />
    <ToggleField
      label="Snow is kept from sliding"
      path="snow.held"
      :value="snow.held"
      hint="Guards or obstructions at the eaves: μ1 is at least 0.8 (5.3.3(2))"
    />
    <ToggleField
      label="Exceptional snow"
      path="snow.exceptional"
      :value="snow.exceptional"
      :on="2"
      :off="null"
      hint="C_esl times the ground snow as an accidental action (4.3)"
    />
    <NumberField
      v-if="snow.exceptional"
      label="C_esl"
      path="snow.exceptional"
      kind="factor"
      :value="snow.exceptional"
      hint="Recommended 2.0"
    />
    <ToggleField
      label="A taller building stands beside"
      path="snow.neighbour"
      :value="snow.neighbour"
      :on="{}"
      :off="null"
      hint="Snow drifts against it (5.3.6)"
    />
    <template v-if="neighbour">
      <ChoiceField
        label="On the side"
        path="snow.neighbour.side"
        :value="neighbour.side ?? 'left'"
        :options="[
          { value: 'left', label: 'left' },
          { value: 'right', label: 'right' },
        ]"
      />
      <NumberField label="Above these eaves" path="snow.neighbour.above" kind="length" :value="neighbour.above" />
      <NumberField label="Its width" path="snow.neighbour.width" kind="length" :value="neighbour.width" />
      <NumberField label="Gap between" path="snow.neighbour.gap" kind="length" :value="neighbour.gap" />
    </template>
    <template v-for="(o, i) in obstructions" :key="i">
      <p class="buttons">
        <b>Obstruction {{ i + 1 }}</b>
        <ElButton link type="primary" size="small" :title="`Drop obstruction ${i + 1}`" @click="dropObstruction(i)"
          >×</ElButton
        >
      </p>
      <ChoiceField
        label="On"
        :path="`snow.obstructions.${i}.panel`"
        :value="o.panel"
        :options="roofs.map((value) => ({ value, label: value }))"
      />
      <NumberField
        label="At x"
        :path="`snow.obstructions.${i}.at`"
        kind="length"
        :value="o.at"
        hint="Across the hall, from grid A"
      />
      <NumberField label="Height" :path="`snow.obstructions.${i}.height`" kind="length" :value="o.height" />
      <NumberField
        label="From y"
        :path="`snow.obstructions.${i}.start`"
        kind="length"
        :value="o.start"
        optional="front"
      />
      <NumberField label="To y" :path="`snow.obstructions.${i}.end`" kind="length" :value="o.end" optional="back" />
    </template>
    <p v-if="bench.hall" class="buttons">
      <ElButton size="small" title="Plant or an upstand against which snow drifts (6.2)" @click="addObstruction">
        Add an obstruction on the roof
      </ElButton>
    </p>
    <div v-if="bench.chain?.snow" class="pairs">
      <span title="Shape coefficient of the roof, table 5.2"
        >μ₁ at {{ bench.chain.hall?.slopes[0]?.[2].toFixed(1) }}°</span
      ><b>{{ bench.chain.snow.mu.toFixed(2) }}</b>
      <span title="s = μ Ce Ct sk (5.1), on the plan projection">Undrifted</span
      ><b>{{ bench.chain.snow.undrifted.toFixed(2) }} kN/m²</b>
      <span title="The largest of all arrangements, on the plan projection">Greatest, drifted</span
      ><b>{{ bench.chain.snow.drifted.toFixed(2) }} kN/m²</b>
    </div>
    <h4>Wind <span>EN 1991-1-4</span></h4>
    <NumberField
      label="Basic wind speed v_b,0"
      path="site.wind_speed"
      kind="speed"
      :value="site.wind_speed"
      hint="Fundamental value of the basic wind velocity (4.2)"
    />
    <p class="from">{{ origin('wind_speed') }}</p>
    <ChoiceField
      label="Terrain"
      path="site.terrain"
      :value="site.terrain ?? 'II'"
      :options="TERRAIN"
      :hint="`${origin('terrain')}. Terrain category, table 4.1`"
    />
    <NumberField
      label="Reference period"
      path="site.reference_period"
      kind="factor"
      unit="years"
      :value="site.reference_period"
      hint="Mean return period; other than 50 years takes c_prob (4.2)"
    />
    <NumberField label="Season c_season" path="wind.season" kind="factor" :value="wind.season" hint="4.2(2), 1.0" />
    <ToggleField
      label="Buildings stand around (terrain IV)"
      path="site.around"
      :value="site.around"
      :on="{}"
      :off="null"
      hint="The profile is displaced upwards between buildings (A.5)"
    />
    <template v-if="site.around">
      <NumberField label="Their height" path="site.around.height" kind="length" :value="site.around.height" />
      <NumberField label="Their distance" path="site.around.distance" kind="length" :value="site.around.distance" />
    </template>
    <table v-if="bench.chain?.winds?.length" class="winds">
      <thead>
        <tr>
          <th>From</th>
          <th title="Terrain, where it differs by direction">terrain</th>
          <th title="Directional factor (4.2)">c_dir</th>
          <th title="Orography factor (4.3.3)">c_o</th>
          <th title="Peak velocity pressure at the ridge, kN/m² (4.8)">q_p</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="d in DIRECTIONS" :key="d">
          <th>{{ d }}</th>
          <td>
            <PickList
              :model-value="wind.terrains?.[d] ?? ''"
              :options="terrains"
              :label="`Terrain to the ${d}`"
              :placeholder="site.terrain"
              @update:model-value="(value) => byDirection('terrains', d, value)"
            />
          </td>
          <td v-for="key in ['directional', 'orography'] as const" :key="key">
            <CellInput
              :value="key === 'orography' && wind.hills?.[d] ? '' : (wind[key]?.[d] ?? '')"
              :placeholder="key === 'orography' && wind.hills?.[d] ? orographyOf(d) : '1.0'"
              :disabled="key === 'orography' && !!wind.hills?.[d]"
              :label="`${key === 'directional' ? 'c_dir' : 'c_o'} ${d}`"
              @commit="(text) => byDirection(key, d, text)"
            />
          </td>
          <td class="mono" :title="`v_b = ${bench.chain.winds.find((w) => w.direction === d)?.speed.toFixed(2)} m/s`">
            {{ bench.chain.winds.find((w) => w.direction === d)?.peak.toFixed(3) }}
          </td>
        </tr>
      </tbody>
    </table>
    <template v-for="d in hilly" :key="d">
      <p class="buttons">
        <b>Rising ground, wind from the {{ d }}</b>
        <ElButton link type="primary" size="small" :title="`Level ground to the ${d}`" @click="hill(d, false)"
          >×</ElButton
        >
      </p>
      <ChoiceField
        label="It is"
        :path="`wind.hills.${d}.kind`"
        :value="wind.hills![d]!.kind ?? 'hill'"
        :options="[
          { value: 'hill', label: 'a hill or ridge' },
          { value: 'cliff', label: 'a cliff or escarpment' },
        ]"
        hint="Annex A.3: c_o follows from it, in place of the one in the table"
      />
      <NumberField label="Height H" :path="`wind.hills.${d}.height`" kind="length" :value="wind.hills![d]!.height" />
      <NumberField
        label="Upwind length L_u"
        :path="`wind.hills.${d}.upwind`"
        kind="length"
        :value="wind.hills![d]!.upwind"
      />
      <NumberField
        v-if="wind.hills![d]!.kind !== 'cliff'"
        label="Downwind length L_d"
        :path="`wind.hills.${d}.downwind`"
        kind="length"
        :value="wind.hills![d]!.downwind"
      />
      <NumberField
        label="The building, behind the crest"
        :path="`wind.hills.${d}.x`"
        kind="length"
        :value="wind.hills![d]!.x"
        hint="Along the wind; negative before the crest"
      />
    </template>
    <p v-if="even.length && bench.hall" class="buttons">
      <PickList
        :key="even.length"
        model-value=""
        :options="even.map((d) => ({ value: d, label: d }))"
        label="Rising ground to the"
        placeholder="Rising ground, wind from …"
        @update:model-value="(d) => hill(d, true)"
      />
    </p>
    <div v-if="bench.chain?.winds?.[0]" class="pairs">
      <span title="Reference height: the ridge above the ground">z_e</span
      ><b>{{ bench.chain.winds[0].height.toFixed(2) }} m</b> <span title="Basic velocity pressure (4.10)">q_b</span
      ><b>{{ bench.chain.winds[0].basic.toFixed(3) }} kN/m²</b> <span title="Exposure factor (4.8)">c_e(z_e)</span
      ><b>{{ bench.chain.winds[0].exposure.toFixed(3) }}</b>
      <span title="Peak velocity pressure (4.8), from the left">q_p(z_e)</span
      ><b>{{ bench.chain.winds[0].peak.toFixed(3) }} kN/m²</b>
      <template v-if="bench.chain.winds[0].displacement">
        <span title="Displacement height (A.5)">h_dis</span><b>{{ bench.chain.winds[0].displacement.toFixed(2) }} m</b>
      </template>
      <span title="Internal pressure, wind from the left">c_pi</span
      ><b>{{ minus(bench.chain.winds[0].inside.map(([v]) => v.toFixed(2)).join(' / ')) }}</b>
    </div>
    <NationalPart />
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
.from {
  margin: 0;
  padding: 0 12px 3px;
  font: 400 11px var(--condensed);
  color: var(--ink-2);
  text-align: right;
}
.winds {
  margin: 6px 12px;
  border-collapse: collapse;
  font: 400 12px var(--condensed);
}
.winds th {
  text-align: left;
  font-weight: 400;
  color: var(--ink-2);
  font-size: 11px;
}
.winds tbody th {
  font-size: 12px;
  color: var(--ink);
  padding-right: 8px;
}
.winds input,
.winds .el-select {
  width: 66px;
}
.winds .el-input {
  width: 56px;
}
.winds td:last-child {
  padding-left: 6px;
  text-align: right;
}
</style>
