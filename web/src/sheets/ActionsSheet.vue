<script setup lang="ts">
import { ElButton, ElCheckbox } from 'element-plus'
import { computed, ref, watch } from 'vue'
import HowButton from '../components/HowButton.vue'
import NumberField from '../components/NumberField.vue'
import { balanceOf } from '../lib/actionTables'
import { fixed } from '../lib/quantity'
import { NATURE_COLOURS } from '../lib/temper'
import { useChosenLoad } from '../stores/chosenLoad'
import { caseWords } from '../lib/states'
import { useWorkbench } from '../stores/workbench'
import LoadsPart from './actions/LoadsPart.vue'
import LocalPart from './actions/LocalPart.vue'
import SpotPart from './actions/SpotPart.vue'
import TracePart from './actions/TracePart.vue'
import WindPart from './actions/WindPart.vue'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const parts = ['Cases', 'Surfaces', 'Wind', 'By hand', 'Local'] as const
const part = ref<(typeof parts)[number]>('Cases')
// a zone that is pointed at is proved beside the surfaces
watch(
  () => bench.spot,
  (spot) => {
    if (spot) part.value = 'Surfaces'
  },
)
// a load that is pointed at is typed where loads are
const load = useChosenLoad()
watch(
  () => load.at,
  (at) => {
    if (at) part.value = 'By hand'
  },
)
const clad = computed(() => bench.chain?.panels?.some((p) => p.kind === 'roof' || p.kind === 'wall'))
const off = computed(() => bench.lists.cases.filter((c) => !c.holds).length)
// there are many of both, and nobody states them
const [leaning, concentrated] = [ref(false), ref(false)]
const cases = computed(() =>
  bench.lists.cases.filter((c) => (leaning.value || c.nature !== 'imperfection') && (concentrated.value || !c.alone)),
)
const leans = computed(() => bench.lists.cases.filter((c) => c.nature === 'imperfection').length)
const singles = computed(() => bench.lists.cases.filter((c) => c.alone).length)
const chosen = computed(() => bench.chain?.cases?.find((c) => c.symbol === bench.state) ?? null)
const grounded = computed(() => chosen.value?.ground.some((v) => Math.abs(v) >= 0.05))
function look(symbol: string) {
  bench.overlays = new Set([...bench.overlays].filter((o) => o !== 'moment')).add('actions')
  bench.spot = null
  bench.show(symbol)
}
const surfaces = computed(() => {
  const found = new Map<string, string[]>()
  for (const p of bench.lists.panels) {
    const key = p.kind === 'roof' ? 'Roof' : p.kind === 'wall' ? 'Walls and gables' : 'Floors'
    found.set(key, [...(found.get(key) ?? []), p.name])
  }
  return [...found]
})
function lay(name: string) {
  bench.state = ''
  void bench.openPanel(name)
}
const round = (v: readonly number[]) => v.map((x) => fixed(x, 1)).join('  ')
/** What comes about by a standard, step by step. */
const DERIVED = ['snow', 'wind', 'accidental']
</script>

<template>
  <SheetHead title="Actions" :aside="`${cases.length} ${cases.length === 1 ? 'case' : 'cases'}`" />
  <nav class="parts" aria-label="Parts of the actions">
    <ElButton
      v-for="p in parts"
      :key="p"
      class="bare"
      :class="{ on: part === p }"
      :aria-pressed="part === p"
      @click="part = p"
    >
      {{ p }}
    </ElButton>
  </nav>
  <template v-if="part === 'Cases'">
    <template v-if="clad && bench.document?.cladding">
      <h4>Cladding</h4>
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
      <NumberField
        label="Imposed on the roof"
        path="cladding.roof_imposed"
        kind="pressure"
        :value="bench.document.cladding.roof_imposed"
        hint="Category H, maintenance: alone, not with snow or wind; 0: none"
      />
    </template>
    <h4>
      Cases
      <span v-if="cases.length" :class="{ fails: off }">{{ off ? `${off} out of balance` : 'all in balance' }}</span>
    </h4>
    <ul>
      <li v-for="c in cases" :key="c.symbol">
        <ElButton class="bare" :class="{ on: bench.state === c.symbol }" :title="c.note" @click="look(c.symbol)">
          <i :style="{ background: NATURE_COLOURS[c.nature] ?? '#8b949b' }" /><b
            v-if="c.symbol !== c.name"
            class="mono"
            >{{ c.symbol }}</b
          >
          <span>{{ c.name }}</span>
        </ElButton>
      </li>
    </ul>
    <ElCheckbox v-if="singles" v-model="concentrated" class="keep" size="small"
      >{{ singles }} {{ singles === 1 ? 'case' : 'cases' }} of concentrated loads</ElCheckbox
    >
    <ElCheckbox v-if="leans" v-model="leaning" class="keep" size="small"
      >{{ leans }} cases of sway imperfections</ElCheckbox
    >
    <template v-if="chosen">
      <h4>Balance of {{ chosen.symbol }} <span :class="{ fails: !chosen.holds }">kN along X, Y, Z</span></h4>
      <div class="pairs balance">
        <span title="From pressures, areas and masses">expected</span><b>{{ round(chosen.expected) }}</b>
        <template v-if="grounded">
          <span title="What cladding gives to the ground, past the structure">to the ground</span
          ><b>{{ round(chosen.ground) }}</b>
        </template>
        <span title="On members and nodes">applied</span><b>{{ round(chosen.applied) }}</b>
        <span title="What the supports give back, with the sign of the load">reacted</span
        ><b>{{ round(chosen.reacted) }}</b>
      </div>
      <p v-if="!chosen.holds" class="note fails">The balance {{ balanceOf(chosen) }}.</p>
      <p class="note">{{ chosen.note }}</p>
      <p v-if="DERIVED.includes(chosen.nature) && !chosen.own" class="buttons">
        <HowButton :of="caseWords(chosen)" :asked="{ case: chosen.symbol }" />
      </p>
    </template>
    <TracePart />
    <h4>What is simplified</h4>
    <p v-for="s in bench.lists.simplifications" :key="s" class="note">{{ s }}</p>
  </template>
  <template v-else-if="part === 'Surfaces'">
    <p class="note">
      Lay a surface flat to see the wind zones on it, cut exactly; then choose a case to see what it puts there. Point
      at a zone for the proof of its pressure.
    </p>
    <template v-for="[kind, names] in surfaces" :key="kind">
      <h4>{{ kind }}</h4>
      <ul>
        <li v-for="name in names" :key="name">
          <ElButton class="bare" :class="{ on: bench.panel?.name === name }" @click="lay(name)">
            <span>{{ name }}</span><b class="mono wide"
              >{{ bench.chain?.panels?.find((p) => p.name === name)?.area.toFixed(1) }} m²</b
            >
          </ElButton>
        </li>
      </ul>
    </template>
    <SpotPart />
  </template>
  <WindPart v-else-if="part === 'Wind'" />
  <LoadsPart v-else-if="part === 'By hand'" />
  <LocalPart v-else />
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
  justify-content: flex-start;
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
  min-width: 30px;
}
li b.wide {
  margin-left: auto;
  color: var(--ink-2);
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
.keep {
  margin: 0 12px;
}
.balance b {
  white-space: pre;
}
</style>
