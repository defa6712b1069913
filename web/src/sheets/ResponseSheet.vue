<script setup lang="ts">
import { computed } from 'vue'
import { extremes } from '../lib/drawing'
import { fixed } from '../lib/quantity'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const run = computed(() => bench.diagram?.runs.find((r) => r.member === bench.selected) ?? null)
const rows = computed(() => {
  const r = run.value
  if (!r) return []
  const series = [
    { symbol: 'N', unit: 'kN', values: r.N, least: r.least_N, why: 'Axial force, tension positive' },
    { symbol: 'V_z', unit: 'kN', values: r.Vz, least: r.least_Vz, why: 'Shear in the plane of the web, dM/dx' },
    {
      symbol: 'M_y',
      unit: 'kNm',
      values: r.My,
      least: r.least_My,
      why: 'Moment about the strong axis, positive with tension on the −z side',
    },
  ]
  return series.flatMap((s) => {
    const [most, least] = [extremes(s.values)[0], extremes(s.least)[1]]
    return [
      { ...s, value: s.values[most]!, at: r.x[most]!, word: 'greatest' },
      { ...s, value: s.least[least]!, at: r.x[least]!, word: 'least' },
    ]
  })
})
const largest = computed(() => {
  const all = (bench.diagram?.runs ?? []).flatMap((r) => r.displacement.map((d) => ({ d, member: r.member })))
  return all.reduce<{ size: number; member: string } | null>((best, { d, member }) => {
    const size = Math.hypot(d[0], d[1], d[2])
    return !best || size > best.size ? { size, member } : best
  }, null)
})
</script>

<template>
  <SheetHead
    :title="bench.member?.label ?? 'Response'"
    :aside="bench.member ? `${bench.member.section} · ${bench.hall?.grade ?? ''}` : ''"
  />
  <p class="note">
    First-order linear analysis in 3D with shear deformation. Diagrams are exact at every station; choose a case, a
    combination or the envelope above the view.
  </p>
  <h4>
    Shown <span class="mono">{{ bench.diagram?.state }}</span>
  </h4>
  <p class="note mono">{{ bench.diagram?.formula }}</p>
  <template v-if="rows.length">
    <h4>Extremes along {{ bench.member?.label }}</h4>
    <div class="pairs">
      <template v-for="(row, i) in rows" :key="i">
        <span :title="row.why">{{ row.symbol }} {{ row.word }}, at {{ row.at.toFixed(2) }} m</span
        ><b>{{ fixed(row.value, 1) }} {{ row.unit }}</b>
      </template>
    </div>
  </template>
  <p v-else class="note">Point at a member to read its forces.</p>
  <div class="pairs">
    <template v-if="largest">
      <span :title="`on ${largest.member}`">Largest movement of the frame</span><b>{{ largest.size.toFixed(1) }} mm</b>
    </template>
    <span title="Largest residual force of the solution beside the largest load">Residual of the solution</span
    ><b>{{ (bench.chain?.residual ?? 0).toExponential(1) }}</b> <span>Time of the chain</span
    ><b>{{ (1000 * Object.values(bench.chain?.seconds ?? {}).reduce((a, b) => a + b, 0)).toFixed(0) }} ms</b>
  </div>
  <p class="note">
    Second order, critical factors and modes are not covered yet; stability in the frame's plane uses sway effective
    lengths.
  </p>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
</style>
