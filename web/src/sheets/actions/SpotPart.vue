<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, useTemplateRef, watch } from 'vue'
import { minus } from '../../lib/quantity'
import { PLACES } from '../../lib/panelPlaces'
import { caseWords } from '../../lib/states'
import { useWorkbench } from '../../stores/workbench'
import HowButton from '../../components/HowButton.vue'
import PickList from '../../components/PickList.vue'

/** What is shown on the panel laid flat, and the proof of the pressure at the spot pointed at. */
const bench = useWorkbench()
const DIRECTIONS = ['left', 'right', 'front', 'back'] as const
const cases = computed(() => {
  const here = new Set((bench.panel?.loads ?? []).map((l) => l.case))
  return bench.lists.cases.filter((c) => here.has(c.symbol))
})
const zone = computed(() => (bench.spot?.of === 'zone' ? bench.panel?.zones[bench.spot.number] : undefined))
const load = computed(() => (bench.spot?.of === 'load' ? bench.panel?.loads[bench.spot.number] : undefined))
const winds = computed(() => bench.chain?.winds?.find((w) => w.direction === zone.value?.direction))
const head = useTemplateRef<HTMLElement>('head')
watch(head, (at) => at?.scrollIntoView({ block: 'start' }))
const two = computed(() => zone.value && zone.value.suction[0] !== zone.value.pressure[0])
/** The one set of coefficients, or both where their signs differ. */
const sets = computed(() =>
  zone.value ? (two.value ? [zone.value.suction, zone.value.pressure] : [zone.value.suction]) : [],
)
const f = (x: number, digits = 2) => minus(x.toFixed(digits))
function blow(direction: (typeof DIRECTIONS)[number]) {
  bench.wind = direction
  bench.spot = null
  bench.show('')
}
const shown = computed(() => [
  { value: '', label: bench.panel?.zones.length ? 'wind zones' : 'choose a case' },
  ...cases.value.map((c) => ({ value: c.symbol, label: caseWords(c) })),
])
function showCase(symbol: string) {
  bench.spot = null
  bench.show(symbol)
}
</script>

<template>
  <template v-if="bench.panel">
    <h4>Shown on {{ bench.panel.name }}</h4>
    <p v-if="bench.panel.zones.length" class="buttons">
      <ElButton
        v-for="d in DIRECTIONS"
        :key="d"
        size="small"
        :type="!bench.state && bench.wind === d ? 'primary' : undefined"
        :title="`Wind zones for wind from the ${d}`"
        @click="blow(d)"
      >
        {{ d }}
      </ElButton>
    </p>
    <label class="field">
      <span>Loads of case</span>
      <PickList
        :model-value="bench.state"
        :options="shown"
        label="Case shown on the panel"
        :placeholder="bench.panel.zones.length ? 'wind zones' : 'choose a case'"
        @update:model-value="showCase"
      />
    </label>
    <template v-if="zone">
      <h4 ref="head">
        Zone {{ zone.letter }} <span>wind from the {{ zone.direction }}</span>
      </h4>
      <div class="pairs">
        <span>Area of the zone</span><b>{{ f(zone.area) }} m²</b> <span :title="zone.source">c_pe,10 · c_pe,1</span
        ><b>{{ f(zone.suction[0]) }} · {{ f(zone.suction[1]) }}</b>
        <template v-if="two">
          <span title="The other sign that the table gives">with the other sign</span
          ><b>{{ f(zone.pressure[0]) }} · {{ f(zone.pressure[1]) }}</b>
        </template>
        <span title="Peak velocity pressure at the reference height (4.8)">q_p(z_e)</span
        ><b>{{ f(zone.peak, 3) }} kN/m²</b>
      </div>
      <p class="note">
        {{ minus(zone.source)
        }}<template v-for="(set, i) in sets" :key="i"
          ><br v-if="zone.read[i]" />{{ zone.read[i] ? `${f(set[0])} ${minus(zone.read[i]!)}` : '' }}</template
        >
      </p>
      <p class="buttons">
        <HowButton
          :of="`Wind from the ${zone.direction} on zone ${zone.letter} of ${bench.panel.name}`"
          :asked="{ direction: zone.direction, panel: bench.panel.name, zone: zone.letter }"
        />
      </p>
      <template v-for="(set, i) in sets" :key="i">
        <p v-if="zone.below != null" class="note mono">
          w = q_p (c_pe − c_pe of the wall below) = {{ f(zone.peak, 3) }} · ({{ f(set[0]) }}
          {{ zone.below < 0 ? '+' : '−' }} {{ Math.abs(zone.below).toFixed(2) }}) =
          {{ f(zone.peak * (set[0] - zone.below)) }} kN/m² <br /><span>7.2.1(3)</span>
        </p>
        <p v-for="[c, why] in zone.below == null ? (winds?.inside ?? []) : []" :key="c" class="note mono">
          w = q_p (c_pe − c_pi) = {{ f(zone.peak, 3) }} · ({{ f(set[0]) }} {{ c < 0 ? '+' : '−' }}
          {{ Math.abs(c).toFixed(2) }}) = {{ f(zone.peak * (set[0] - c)) }} kN/m² <br /><span
            >c_pi {{ f(c) }}: {{ minus(why) }}; (5.1), (5.2)</span
          >
        </p>
      </template>
    </template>
    <template v-else-if="load">
      <h4 ref="head">
        {{ load.case }} <span>{{ load.zone }}</span>
      </h4>
      <div class="pairs">
        <template v-if="load.kind === 'area'"
          ><span>Area</span><b>{{ f(load.area) }} m²</b> <span>Pressure</span></template
        >
        <span v-else>{{ load.kind === 'line' ? 'Along a line' : 'At a point' }}</span>
        <b
          >{{ f(Math.min(...load.pressure), 3)
          }}<template v-if="Math.max(...load.pressure) - Math.min(...load.pressure) > 5e-4">
            … {{ f(Math.max(...load.pressure), 3) }}</template
          >
          {{ PLACES[load.kind].unit }}</b
        >
      </div>
      <p class="note">{{ load.why }}</p>
      <p class="buttons">
        <HowButton
          :of="`${load.case} on ${bench.panel.name}`"
          :asked="{ panel: bench.panel.name, number: bench.spot!.number }"
        />
      </p>
    </template>
    <p v-else-if="!bench.panel.zones.length && !bench.state" class="note">
      No wind zones lie on it: choose a case to see what it puts there.
    </p>
    <p v-else class="note">Point at a zone in the drawing to see how its pressure comes about.</p>
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
.note span {
  color: var(--ink-2);
  font-family: var(--condensed);
}
</style>
