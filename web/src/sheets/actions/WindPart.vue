<script setup lang="ts">
import { computed } from 'vue'
import ChoiceField from '../../components/ChoiceField.vue'
import HowButton from '../../components/HowButton.vue'
import NumberField from '../../components/NumberField.vue'
import TextField from '../../components/TextField.vue'
import ToggleField from '../../components/ToggleField.vue'
import { minus } from '../../lib/quantity'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
const wind = computed(() => bench.document?.wind)
const FACES = ['left', 'right', 'front', 'back', 'roof'] as const
const flat = computed(() => !!bench.hall?.bays.some((b) => b.shape === 'flat' || (b.pitch ?? 10) < 5))
function readValues(text: string) {
  const found = text
    .replaceAll('−', '-')
    .split(/[\s;,]+/)
    .filter(Boolean)
    .map(Number)
  return found.length && found.every(Number.isFinite) ? { value: found } : 'Numbers are needed, as 0.2 −0.3.'
}
</script>

<template>
  <template v-if="wind">
    <h4>Inside <span>EN 1991-1-4 7.2.9</span></h4>
    <ChoiceField
      label="Internal pressure"
      path="wind.inside.kind"
      :value="wind.inside?.kind ?? 'both'"
      :options="[
        { value: 'both', label: '+0.2 and −0.3' },
        { value: 'openings', label: 'from the openings' },
        { value: 'own', label: 'own values' },
      ]"
      hint="+0.2 and −0.3 where openings cannot be estimated (7.2.9(6) note 2)"
    />
    <template v-if="wind.inside?.kind === 'openings'">
      <NumberField
        v-for="face in FACES"
        :key="face"
        :label="`Openings, ${face}`"
        :path="`wind.inside.openings.${face}`"
        kind="factor"
        unit="m²"
        :value="wind.inside.openings?.[face] ?? 0"
        hint="A face with twice the openings of all others is dominant (7.2.9(4))"
      />
    </template>
    <TextField
      v-else-if="wind.inside?.kind === 'own'"
      label="c_pi"
      path="wind.inside.values"
      :written="minus(wind.inside.values.join('  '))"
      :read="readValues"
    />
    <h4>Structure and surface</h4>
    <NumberField
      label="c_s c_d"
      path="wind.structural"
      kind="factor"
      :value="wind.structural"
      hint="6.2(1): 1 below 15 m"
    />
    <ToggleField
      label="Lack of correlation of D and E"
      path="wind.correlation"
      :value="wind.correlation"
      hint="0.85 up to h/d = 1 on windward and leeward walls (7.2.2(3)); off is on the safe side"
    />
    <ToggleField
      v-if="bench.hall?.purlins?.modelled || bench.hall?.rails?.modelled"
      label="Purlins and rails by their own area"
      path="wind.own_areas"
      :value="wind.own_areas ?? true"
      hint="Those that are members bear c_pe of their own loaded area (7.2.1(1)), and what they rest on with them; off: c_pe,10, and their verdicts say so"
    />
    <ChoiceField
      label="Friction along the wind"
      path="wind.friction"
      :value="wind.friction ?? 'very rough'"
      :options="[
        { value: 'none', label: 'left out' },
        { value: 'smooth', label: 'smooth 0.01' },
        { value: 'rough', label: 'rough 0.02' },
        { value: 'very rough', label: 'ribs across 0.04' },
      ]"
      hint="Table 7.10; beyond 2b or 4h from the windward edge of long buildings (7.5)"
    />
    <template v-if="flat">
      <ChoiceField
        label="Edge of the flat roof"
        path="wind.eaves.kind"
        :value="wind.eaves?.kind ?? 'sharp'"
        :options="['sharp', 'parapet', 'curved', 'mansard'].map((value) => ({ value, label: value }))"
        hint="Table 7.2"
      />
      <NumberField
        v-if="wind.eaves?.kind !== 'sharp'"
        :label="{ parapet: 'Its height', curved: 'Radius', mansard: 'Angle' }[wind.eaves?.kind ?? ''] ?? 'Size'"
        path="wind.eaves.size"
        :kind="wind.eaves?.kind === 'mansard' ? 'angle' : 'length'"
        :value="wind.eaves?.size ?? 0"
      />
    </template>
    <template v-if="bench.chain?.winds?.length">
      <h4>By direction</h4>
      <table class="plain">
        <thead>
          <tr>
            <th>from</th>
            <th title="Across the wind, m">b</th>
            <th title="Along the wind, m">d</th>
            <th title="min(b, 2h), m">e</th>
            <th title="Slenderness">h/d</th>
            <th title="Peak velocity pressure, kN/m²">q_p</th>
            <th title="Internal pressure">c_pi</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="w in bench.chain.winds" :key="w.direction">
            <th>{{ w.direction }}</th>
            <td>{{ w.b.toFixed(1) }}</td>
            <td>{{ w.d.toFixed(1) }}</td>
            <td>{{ w.e.toFixed(2) }}</td>
            <td>{{ w.slenderness.toFixed(2) }}</td>
            <td>{{ w.peak.toFixed(3) }}</td>
            <td :title="w.inside.map(([, why]) => why).join('; ')">
              {{ minus(w.inside.map(([v]) => v.toFixed(2)).join(' ')) }}
            </td>
            <td>
              <HowButton
                words="how"
                :of="`Peak velocity pressure, wind from the ${w.direction}`"
                :asked="{ direction: w.direction }"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <p class="note">Lay a surface flat (Surfaces) to see the zones with their coefficients.</p>
    </template>
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
td,
thead th {
  padding: 2px 6px 2px 0;
}
</style>
