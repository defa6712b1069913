<script setup lang="ts">
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { figures } from '../lib/temper'
import { useStudy, type Point } from '../stores/study'
import { useWorkbench } from '../stores/workbench'
import StudyCharts from './StudyCharts.vue'

/** Set-outs beside one another: a row and a mark in the chart for each. */
const bench = useWorkbench()
const study = useStudy()
const by = (value: number | null | undefined, of: number | null | undefined, figure: (v: number) => string) => {
  if (value == null || of == null) return ''
  const d = value - of
  return Math.abs(d) < 0.005 ? '' : `${d < 0 ? '−' : '+'}${figure(Math.abs(d))}`
}
const thousands = (v: number) => Math.round(v).toLocaleString('en-GB').replaceAll(',', '\u202f')
const stated = (p: Point) =>
  p.state === 'done' ? '' : ({ waiting: 'waits', running: 'being sized', failed: 'not possible' }[p.state] ?? 'stopped')
const apart = (p: Point) => {
  const base = study.base?.sections ?? {}
  const found = Object.entries(p.sections).filter(([name, s]) => base[name] !== s)
  return p === study.base ? Object.entries(p.sections) : found
}
async function take(p: Point) {
  await study.take(p)
}
</script>

<template>
  <div class="page" :class="{ charted: study.solved.length > 1 }">
    <ElTable
      :data="study.points"
      row-key="number"
      size="small"
      height="100%"
      :row-class-name="({ row }) => (row.number === study.chosen ? 'on' : '')"
      @row-click="(row) => (study.chosen = row.number)"
    >
      <ElTableColumn label="Set-out" min-width="170">
        <template #default="{ row }">
          <ElButton
            class="bare name"
            :aria-pressed="row.number === study.chosen"
            @click.stop="study.chosen = row.number"
          >
            {{ row.words }}</ElButton><small v-if="row.number === study.best?.number" class="best"
            >least that passes</small
          >
        </template>
      </ElTableColumn>
      <ElTableColumn label="Steel, t" width="98" align="right" sortable :sort-by="(p) => p.tonnage ?? 1e9">
        <template #default="{ row }">
          <template v-if="row.tonnage !== null"
            ><b class="mono">{{ row.tonnage.toFixed(2) }}</b>
            <small class="mono">{{ by(row.tonnage, study.base?.tonnage, (v) => v.toFixed(2)) }}</small></template
          ><small v-else>{{ stated(row as Point) }}</small>
        </template>
      </ElTableColumn>
      <ElTableColumn label="Cost" width="92" align="right" sortable :sort-by="(p) => p.cost ?? 1e12">
        <template #default="{ row }">
          <template v-if="row.cost !== null"
            ><span class="mono">{{ thousands(row.cost) }}</span>
            <small class="mono">{{ by(row.cost, study.base?.cost, thousands) }}</small></template
          >
        </template>
      </ElTableColumn>
      <ElTableColumn label="kg/m²" width="64" align="right">
        <template #default="{ row }"
          ><span v-if="row.tonnage !== null && row.area" class="mono">{{
            ((row.tonnage * 1000) / row.area).toFixed(1)
          }}</span></template
        >
      </ElTableColumn>
      <ElTableColumn label="Most used" width="84" align="right">
        <template #default="{ row }">
          <span v-if="row.state === 'done'" class="mono" :class="{ fails: !row.passes }">{{
            row.worst === null ? 'n.c.' : figures(row.worst)
          }}</span>
          <small v-if="row.state === 'done' && !row.passes" class="fails" :title="row.obstacles.join('; ')"
            >does not pass</small
          >
        </template>
      </ElTableColumn>
      <ElTableColumn label="Sections that differ" min-width="150">
        <template #default="{ row }">
          <small v-if="row.message" class="why" :title="row.message">{{ row.message }}</small>
          <small
            v-else
            class="why"
            :title="
              apart(row as Point)
                .map(([n, s]) => `${n} ${s}`)
                .join(', ')
            "
            >{{
              apart(row as Point)
                .map(([n, s]) => `${n} ${s}`)
                .join(', ')
            }}</small
          >
        </template>
      </ElTableColumn>
      <ElTableColumn label="" width="72">
        <template #default="{ row }">
          <ElButton
            v-if="row.state === 'done' && bench.mayChange"
            size="small"
            text
            :disabled="!study.state?.stands"
            :title="`Make it what stands: ${row.words}`"
            @click.stop="take(row as Point)"
            >Take</ElButton
          >
        </template>
      </ElTableColumn>
      <template #empty>{{
        study.state?.quantities.length
          ? 'No set-outs yet. Say in the sheet at the right what to vary, or try what may help.'
          : 'No members stand yet: set out a hall, or draw some by hand.'
      }}</template>
    </ElTable>
    <StudyCharts v-if="study.solved.length > 1" class="chart" />
  </div>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-rows: minmax(0, 1fr);
  height: 100%;
  overflow: hidden;
}
.page.charted {
  grid-template-rows: minmax(0, 1fr) 262px;
}
.chart {
  border-top: 1px solid var(--line);
  background: #faf9f6;
}
.name {
  border: 0;
  background: none;
  padding: 0;
  text-align: left;
  font: 500 13px var(--condensed);
  cursor: pointer;
}
small {
  display: block;
  font: 400 11.5px/1.25 var(--condensed);
  color: var(--ink-2);
}
small.mono {
  font-family: var(--mono);
  font-size: 11px;
}
small.best {
  color: var(--current);
  font-weight: 600;
}
.fails,
small.fails {
  color: var(--oxide);
}
.why {
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
:deep(.el-table__row.on td) {
  background: var(--chalk-soft);
}
:deep(.el-table__row) {
  cursor: pointer;
}
</style>
