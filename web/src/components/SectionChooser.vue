<script setup lang="ts">
import { ElButton, ElDialog } from 'element-plus'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import type { Schemas } from '../api/client'
import { useAnswer } from '../api/queries'
import { useWorkbench } from '../stores/workbench'
import ChoiceTable from './ChoiceTable.vue'

/** A section chosen with its shape to scale, its properties, and its neighbours in mass. */
const props = defineProps<{ present: string }>()
const emit = defineEmits<{ close: []; take: [name: string] }>()
const bench = useWorkbench()
const name = ref(props.present)
const family = ref('')
const own = computed(() => [...bench.stated.sections, ...bench.stated.built_sections].map((s) => s.name))
onMounted(() => void bench.loadCatalogue())
const list = computed(() => bench.catalogue.find((f) => f.name === family.value)?.sections ?? [])

const { data: outline, problem: wrong } = useAnswer('/api/catalogue/outline', () => ({ query: { name: name.value } }))
/** The last one that was found: what is typed goes through names that are none. */
const found = shallowRef<Schemas['OutlineOut'] | null>(null)
watch(
  outline,
  (next) => {
    if (!next) return
    found.value = next
    family.value = next.section.family
  },
  { immediate: true },
)
const box = computed(() => {
  const points = (found.value?.rings ?? []).flat()
  if (!points.length) return null
  const [y0, y1] = [Math.min(...points.map((p) => p[0])), Math.max(...points.map((p) => p[0]))]
  const [z0, z1] = [Math.min(...points.map((p) => p[1])), Math.max(...points.map((p) => p[1]))]
  const scale = Math.min(190 / (y1 - y0), 230 / (z1 - z0))
  const at = (p: readonly number[]) =>
    `${(130 + (p[0]! - (y0 + y1) / 2) * scale).toFixed(2)} ${(150 - (p[1]! - (z0 + z1) / 2) * scale).toFixed(2)}`
  return {
    d: found.value!.rings.map((ring) => `M${ring.map(at).join('L')}Z`).join(''),
    left: 130 - ((y1 - y0) / 2) * scale,
    right: 130 + ((y1 - y0) / 2) * scale,
    top: 150 - ((z1 - z0) / 2) * scale,
    bottom: 150 + ((z1 - z0) / 2) * scale,
    wide: y1 - y0,
    deep: z1 - z0,
  }
})
const PROPERTIES: [keyof Schemas['SectionOut'], string, string, string][] = [
  ['mass', 'Mass', 'kg/m', 'Mass per metre at 7850 kg/m³'],
  ['A', 'A', 'cm²', 'Area'],
  ['Iy', 'I_y', 'cm⁴', 'Second moment about the strong axis'],
  ['Iz', 'I_z', 'cm⁴', 'Second moment about the weak axis'],
  ['Wel_y', 'W_el,y', 'cm³', 'Elastic modulus, strong axis'],
  ['Wpl_y', 'W_pl,y', 'cm³', 'Plastic modulus, strong axis'],
  ['Wel_z', 'W_el,z', 'cm³', 'Elastic modulus, weak axis'],
  ['Wpl_z', 'W_pl,z', 'cm³', 'Plastic modulus, weak axis'],
  ['It', 'I_T', 'cm⁴', 'Torsion constant'],
  ['Iw', 'I_w', 'cm⁶', 'Warping constant'],
]
const figure = (value: unknown) => Number((value as number).toPrecision(4)).toLocaleString('en', { useGrouping: false })
</script>

<template>
  <ElDialog :model-value="true" title="Choose a section" width="860" @close="emit('close')">
    <div class="chooser">
      <div class="families">
        <ChoiceTable
          v-model="family"
          label="Family"
          :height="250"
          :rows="bench.catalogue.map((f) => ({ key: f.name, cells: [f.name, f.what] }))"
        />
        <p v-if="own.length" class="note">
          Of this project:
          <ElButton v-for="s in own" :key="s" link type="primary" size="small" @click="emit('take', s)">{{
            s
          }}</ElButton>
        </p>
      </div>
      <ChoiceTable
        v-model="name"
        label="Section"
        :height="330"
        :rows="list.map((x) => ({ key: x.name, cells: [x.name, `${x.mass.toFixed(1)} kg/m`] }))"
        @take="emit('take', name)"
      />
      <div v-if="found" class="shown">
        <svg v-if="box" viewBox="0 0 260 300" role="img" :aria-label="`${name} to scale`">
          <path :d="box.d" fill-rule="evenodd" />
          <g class="dimension">
            <line :x1="box.left" :x2="box.right" :y1="box.bottom + 14" :y2="box.bottom + 14" />
            <text :x="130" :y="box.bottom + 27">{{ Number(box.wide.toFixed(1)) }}</text>
            <line :x1="box.right + 12" :x2="box.right + 12" :y1="box.top" :y2="box.bottom" />
            <text :x="box.right + 16" y="153" class="side">{{ Number(box.deep.toFixed(1)) }}</text>
          </g>
        </svg>
        <dl>
          <template v-for="[key, words, unit, hint] in PROPERTIES" :key="key">
            <dt :title="hint">{{ words }}</dt>
            <dd class="mono">{{ figure(found.section[key]) }} {{ unit }}</dd>
          </template>
        </dl>
        <p class="note">
          In mass order:
          <ElButton v-for="n in found.neighbours" :key="n.name" link type="primary" size="small" @click="name = n.name">
            {{ n.name }} ({{ n.mass.toFixed(1) }})
          </ElButton>
        </p>
      </div>
      <p v-if="wrong" class="note fails">{{ wrong }}</p>
    </div>
    <template #footer>
      <ElButton size="small" @click="emit('close')">Leave as it is</ElButton>
      <ElButton type="primary" size="small" :disabled="!!wrong" @click="emit('take', name)">Take {{ name }}</ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.chooser {
  display: grid;
  grid-template-columns: 220px 190px 1fr;
  gap: 12px;
}
svg {
  width: 250px;
  height: 250px;
  display: block;
  margin: auto;
}
path {
  fill: #c7ced2;
  stroke: var(--ink);
  stroke-width: 1.2;
}
.dimension line {
  stroke: var(--ink-2);
}
.dimension text {
  font: 400 11px var(--mono);
  text-anchor: middle;
  fill: var(--ink-2);
}
.dimension .side {
  text-anchor: start;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr auto 1fr;
  gap: 2px 10px;
  margin: 6px 0;
  font: 400 12.5px var(--condensed);
}
dt {
  color: var(--ink-2);
}
dd {
  margin: 0;
  font-size: 12px;
}
</style>
