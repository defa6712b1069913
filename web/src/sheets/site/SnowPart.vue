<script setup lang="ts">
/** Snow on the ground and on the roofs: exposure, what holds it, what it drifts against. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import ChoiceField from '../../components/ChoiceField.vue'
import HowButton from '../../components/HowButton.vue'
import NumberField from '../../components/NumberField.vue'
import ToggleField from '../../components/ToggleField.vue'
import { added, removed } from '../../lib/changes'
import { options } from '../../lib/options'
import { originOf } from '../../lib/siteValues'
import { useWorkbench } from '../../stores/workbench'

const props = defineProps<{
  site: NonNullable<Schemas['Document']['site']>
  snow: NonNullable<Schemas['Document']['snow']>
}>()
const bench = useWorkbench()
const roofs = computed(() => bench.lists.panels.filter((p) => p.kind === 'roof').map((p) => p.name))
const obstructions = computed(() => props.snow.obstructions)
const addObstruction = () => {
  const [name, length] = bench.chain?.hall?.slopes[0] ?? []
  const value = { panel: `roof-${name}`, at: Math.round((length ?? 6) * 5) / 10, height: 1 }
  void bench.edit('Obstruction on the roof', added('snow.obstructions', value))
}
const dropObstruction = (i: number) =>
  bench.edit('Obstruction dropped', removed('snow.obstructions', obstructions.value[i]))
const arrangements = computed(() => bench.lists.cases.filter((c) => c.nature === 'snow' && !c.own))
const neighbour = computed(() => props.snow.neighbour)
</script>

<template>
  <h4>Snow <span>EN 1991-1-3</span></h4>
  <NumberField label="Ground snow s_k" path="site.ground_snow" kind="pressure" :value="site.ground_snow" />
  <p class="from">{{ originOf(site, 'ground_snow') }}</p>
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
    <ChoiceField label="On" :path="`snow.obstructions.${i}.panel`" :value="o.panel" :options="options(...roofs)" />
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
    <template v-for="c in arrangements" :key="c.symbol">
      <span>{{ c.name }}</span><HowButton :of="`${c.symbol} · ${c.name}`" :asked="{ case: c.symbol }" />
    </template>
  </div>
</template>

<style scoped>
.from {
  margin: 0;
  padding: 0 12px 3px;
  font: 400 11px var(--condensed);
  color: var(--ink-2);
  text-align: right;
}
</style>
