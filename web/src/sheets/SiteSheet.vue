<script setup lang="ts">
import ChoiceField from '../components/ChoiceField.vue'
import NumberField from '../components/NumberField.vue'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const TERRAIN = [
  { value: '0', label: '0 · sea, coast' },
  { value: 'I', label: 'I · lakes, flat' },
  { value: 'II', label: 'II · low vegetation' },
  { value: 'III', label: 'III · villages, forest' },
  { value: 'IV', label: 'IV · town' },
]
async function place(event: Event) {
  const value = (event.target as HTMLInputElement).value.trim()
  if (value !== bench.document?.site?.place) await bench.edit(`Place ${value}`, [{ path: 'site.place', value }])
}
</script>

<template>
  <SheetHead title="Site" :aside="bench.document?.site?.place" />
  <template v-if="bench.document?.site">
    <h4>Place</h4>
    <label class="place"
      ><span>Name</span><input :value="bench.document.site.place" maxlength="80" @change="place"
    /></label>
    <NumberField
      label="Altitude"
      path="site.altitude"
      kind="altitude"
      :value="bench.document.site.altitude"
      hint="Above 1000 m snow takes ψ0 = 0.7 (EN 1990 table A1.1)"
    />
    <h4>Snow <span>EN 1991-1-3</span></h4>
    <NumberField
      label="Ground snow s_k"
      path="site.ground_snow"
      kind="pressure"
      :value="bench.document.site.ground_snow"
      hint="Characteristic ground snow load at the site, entered by hand"
    />
    <div v-if="bench.chain?.snow" class="pairs">
      <span title="Shape coefficient of the roof, table 5.2"
        >μ₁ at {{ bench.chain.hall?.slopes[0]?.[2].toFixed(1) }}°</span
      ><b>{{ bench.chain.snow.mu.toFixed(2) }}</b>
      <span title="s = μ Ce Ct sk (5.1), on the plan projection">Undrifted</span
      ><b>{{ bench.chain.snow.undrifted.toFixed(2) }} kN/m²</b>
      <span title="Half of μ on one slope, figure 5.3">Drifted, lee half</span
      ><b>{{ bench.chain.snow.drifted.toFixed(2) }} kN/m²</b>
    </div>
    <h4>Wind <span>EN 1991-1-4</span></h4>
    <NumberField
      label="Basic wind speed v_b"
      path="site.wind_speed"
      kind="speed"
      :value="bench.document.site.wind_speed"
      hint="Fundamental value of the basic wind velocity, entered by hand (4.2)"
    />
    <ChoiceField
      label="Terrain"
      path="site.terrain"
      :value="bench.document.site.terrain ?? 'II'"
      :options="TERRAIN"
      hint="Terrain category, table 4.1"
    />
    <div v-if="bench.chain?.wind" class="pairs">
      <span title="Reference height: the ridge">z_e</span><b>{{ bench.chain.wind.height.toFixed(2) }} m</b>
      <span title="Basic velocity pressure (4.10)">q_b</span><b>{{ bench.chain.wind.basic.toFixed(3) }} kN/m²</b>
      <span title="Exposure factor (4.8), flat terrain">c_e(z_e)</span><b>{{ bench.chain.wind.exposure.toFixed(3) }}</b>
      <span title="Peak velocity pressure (4.8)">q_p(z_e)</span><b>{{ bench.chain.wind.peak.toFixed(3) }} kN/m²</b>
    </div>
    <p class="note">Site values are entered by hand; each is shown with what follows from it.</p>
  </template>
</template>

<style scoped>
.place {
  display: grid;
  grid-template-columns: 1fr 200px;
  align-items: center;
  padding: 2px 12px;
  font: 400 12.5px var(--condensed);
  color: var(--ink-2);
}
.place input {
  font: 400 12.5px var(--condensed);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 4px 6px;
  background: #fff;
}
h4 span {
  font-weight: 400;
}
</style>
