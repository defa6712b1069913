<script setup lang="ts">
/** Wind at the place: its speed, the ground it comes over by direction, and the pressure that follows. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import CellInput from '../../components/CellInput.vue'
import ChoiceField from '../../components/ChoiceField.vue'
import HowButton from '../../components/HowButton.vue'
import NumberField from '../../components/NumberField.vue'
import PickList from '../../components/PickList.vue'
import ToggleField from '../../components/ToggleField.vue'
import { keyed } from '../../lib/changes'
import { options } from '../../lib/options'
import { minus } from '../../lib/quantity'
import { DIRECTIONS, originOf, TERRAIN } from '../../lib/siteValues'
import { useSite } from '../../stores/site'
import { useWorkbench } from '../../stores/workbench'

const props = defineProps<{
  site: NonNullable<Schemas['Document']['site']>
  wind: NonNullable<Schemas['Document']['wind']>
}>()
const bench = useWorkbench()
const terrains = computed(() => [{ value: '', label: props.site.terrain }, ...options(...TERRAIN.map((t) => t.value))])
const { byDirection } = useSite()
const typed = (key: 'directional' | 'orography', direction: string, text: string) =>
  byDirection(key, direction, text === '' ? null : Number(text.replace(',', '.')))
const hilly = computed(() => DIRECTIONS.filter((d) => props.wind.hills?.[d]))
const even = computed(() => DIRECTIONS.filter((d) => !props.wind.hills?.[d]))
const hill = (direction: string, there: boolean) => {
  void bench.edit(`Rising ground to the ${direction}`, [keyed('wind.hills', direction, there ? {} : undefined)])
}
const orographyOf = (d: string) => bench.chain?.winds?.find((w) => w.direction === d)?.orography.toFixed(3) ?? ''
</script>

<template>
  <h4>Wind <span>EN 1991-1-4</span></h4>
  <NumberField
    label="Basic wind speed v_b,0"
    path="site.wind_speed"
    kind="speed"
    :value="site.wind_speed"
    hint="Fundamental value of the basic wind velocity (4.2)"
  />
  <p class="from">{{ originOf(site, 'wind_speed') }}</p>
  <ChoiceField
    label="Terrain"
    path="site.terrain"
    :value="site.terrain ?? 'II'"
    :options="TERRAIN"
    :hint="`${originOf(site, 'terrain')}. Terrain category, table 4.1`"
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
            @update:model-value="(value) => byDirection('terrains', d, value || null)"
          />
        </td>
        <td v-for="key in ['directional', 'orography'] as const" :key="key">
          <CellInput
            :value="key === 'orography' && wind.hills?.[d] ? '' : (wind[key]?.[d] ?? '')"
            :placeholder="key === 'orography' && wind.hills?.[d] ? orographyOf(d) : '1.0'"
            :disabled="key === 'orography' && !!wind.hills?.[d]"
            :label="`${key === 'directional' ? 'c_dir' : 'c_o'} ${d}`"
            @commit="(text) => typed(key, d, text)"
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
      :options="options(...even)"
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
    ><b>{{ bench.chain.winds[0].peak.toFixed(3) }} kN/m²</b> <span /><HowButton
      of="Peak velocity pressure, wind from the left"
      :asked="{ direction: 'left' }"
    />
    <template v-if="bench.chain.winds[0].displacement">
      <span title="Displacement height (A.5)">h_dis</span><b>{{ bench.chain.winds[0].displacement.toFixed(2) }} m</b>
    </template>
    <span title="Internal pressure, wind from the left">c_pi</span
    ><b>{{ minus(bench.chain.winds[0].inside.map(([v]) => v.toFixed(2)).join(' / ')) }}</b>
  </div>
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
