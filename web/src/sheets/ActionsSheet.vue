<script setup lang="ts">
import { computed } from 'vue'
import NumberField from '../components/NumberField.vue'
import { NATURE_COLOURS } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const off = computed(() => (bench.chain?.cases ?? []).filter((c) => !c.holds).length)
function look(symbol: string) {
  if (!bench.looking) bench.plane = bench.planes.filter((p) => p.kind === 'frame')[1]?.key ?? bench.plane
  bench.overlays = new Set([...bench.overlays].filter((o) => o !== 'moment')).add('actions')
  bench.show(symbol)
}
</script>

<template>
  <SheetHead title="Actions" :aside="`${bench.chain?.cases?.length ?? 0} cases`" />
  <template v-if="bench.hall && bench.document?.cladding">
    <h4>Cladding weight</h4>
    <NumberField
      label="Roof, with purlins"
      path="cladding.roof"
      kind="pressure"
      :value="bench.document.cladding.roof"
      hint="Per m² of roof surface"
    />
    <NumberField
      label="Walls, with rails"
      path="cladding.walls"
      kind="pressure"
      :value="bench.document.cladding.walls"
      hint="Per m² of wall surface, carried by the columns"
    />
  </template>
  <h4>
    Cases <span :class="{ fails: off }">{{ off ? `${off} out of balance` : 'all in balance' }}</span>
  </h4>
  <ul>
    <li v-for="c in bench.chain?.cases ?? []" :key="c.symbol">
      <button :class="{ on: bench.state === c.symbol }" :title="c.note" @click="look(c.symbol)">
        <i :style="{ background: NATURE_COLOURS[c.nature] }" /><b class="mono">{{ c.symbol }}</b>
        <span>{{ c.name }}</span>
      </button>
    </li>
  </ul>
  <template v-if="bench.chain?.wind">
    <h4>Wind coefficients <span>c_pe,10</span></h4>
    <div class="pairs">
      <span title="Windward wall, table 7.1">D</span><b>{{ bench.chain.wind.walls.D?.toFixed(2) }}</b>
      <span title="Leeward wall, table 7.1">E</span><b>{{ bench.chain.wind.walls.E?.toFixed(2) }}</b>
      <template v-for="(pair, zone) in bench.chain.wind.roof" :key="zone">
        <span title="Roof zone, wind across the ridge, table 7.4a">{{ zone }}</span><b>{{
          pair
            .map((v) => v.toFixed(2))
            .join(' / ')
            .replaceAll('-', '−')
        }}</b>
      </template>
      <span title="min(b, 2h)">e</span><b>{{ bench.chain.wind.e.toFixed(2) }} m</b>
    </div>
  </template>
  <h4>What is simplified</h4>
  <p v-for="s in bench.chain?.simplifications ?? []" :key="s" class="note">{{ s }}</p>
</template>

<style scoped>
h4 span {
  font-weight: 400;
  color: var(--current);
}
h4 span.fails {
  color: var(--oxide);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 8px;
}
li button {
  width: 100%;
  display: flex;
  gap: 7px;
  align-items: center;
  text-align: left;
  border: 0;
  background: none;
  font: 400 12.5px var(--condensed);
  padding: 2px 4px;
  border-radius: 3px;
  cursor: pointer;
}
li button.on {
  background: var(--chalk-soft);
}
li b {
  font-weight: 400;
  font-size: 12px;
  width: 30px;
}
li button > span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li i {
  width: 9px;
  height: 9px;
  flex: none;
}
</style>
