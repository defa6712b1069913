<script setup lang="ts">
import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use, type ECharts } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, useTemplateRef, watch } from 'vue'
import { FONT as font, MEASURES, thousands, useChart, type Measure } from '../lib/studyChart'
import { OXIDE } from '../lib/temper'
import { useStudy, type Point } from '../stores/study'

/** A measure against what is varied most, or against cost where several things are: a line for each of the other values. */
const props = defineProps<{ measure: Measure }>()
use([LineChart, ScatterChart, GridComponent, TooltipComponent, SVGRenderer])
const study = useStudy()
const box = useTemplateRef<HTMLElement>('box')
const COLOURS = ['#1f2a33', '#1d6480', '#a97b22', '#5c7f3b', '#7d5a86', '#a3574b', '#3f8280']

/** The number with most different values: it lies along the chart. */
const along = computed(() => {
  const count = new Map<string, Set<unknown>>()
  for (const p of study.solved)
    for (const [key, value] of Object.entries(p.values))
      if (typeof value === 'number') count.set(key, (count.get(key) ?? new Set()).add(value))
  const most = [...count].filter(([, values]) => values.size > 2).sort((a, b) => b[1].size - a[1].size)[0]
  return study.state?.quantities.find((q) => q.key === most?.[0]) ?? null
})
const rest = (p: Point) =>
  Object.entries(p.values)
    .filter(([key]) => key !== along.value?.key)
    .map(([, value]) => `${value}`)
    .join(', ')
/** Nothing that passes is both lighter and cheaper. */
const pareto = (p: Point) =>
  p.passes && !study.solved.some((o) => o.passes && o.tonnage! < p.tonnage! - 1e-6 && o.cost! < p.cost! - 1e-6)

function draw(chart: ECharts) {
  const q = along.value
  const measure = MEASURES[props.measure]
  const tonnes = props.measure === 'steel'
  const groups = new Map<string, Point[]>()
  for (const p of study.solved) {
    if (q && !(q.key in p.values)) continue
    const key = q ? rest(p) : ''
    groups.set(key, [...(groups.get(key) ?? []), p])
  }
  const x = (p: Point) => (q ? (p.values[q.key] as number) : p.cost!)
  // what does not pass may weigh many times what does: it stands at the edge, with its figure
  const passing = study.solved.filter((p) => p.passes).map(measure.of)
  const most = passing.length ? Math.max(...passing) : Infinity
  const top = most + Math.max(most - Math.min(...passing), 0.1 * most)
  const told = (v: number) => (tonnes ? `${v.toFixed(1)} t` : v < 1000 ? v.toFixed(1) : thousands(Math.round(v)))
  const point = (p: Point) => ({
    value: [x(p), Math.min(measure.of(p), top)],
    label: measure.of(p) > top ? { show: true, position: 'right', formatter: told(measure.of(p)), ...font } : {},
    steel: measure.of(p),
    number: p.number,
    name: p.words,
    symbol: p.passes ? (p.number === study.best?.number ? 'rect' : 'circle') : 'triangle',
    symbolSize: p.number === study.chosen ? 14 : p.number === study.best?.number ? 12 : 8,
    itemStyle: p.passes ? { opacity: pareto(p) ? 1 : 0.45 } : { color: OXIDE },
  })
  chart.setOption(
    {
      animation: false,
      textStyle: font,
      color: COLOURS,
      grid: { left: 52, right: 150, top: 26, bottom: 40 },
      tooltip: {
        confine: true,
        textStyle: { ...font, color: '#1f2a33' },
        formatter: ({ data }: { data: { name: string; steel: number } }) =>
          `${data.name.replaceAll('<', '‹')}<br><b>${tonnes ? `${data.steel.toFixed(2)} t` : `${measure.words} ${told(data.steel)}`}</b>`,
      },
      xAxis: {
        type: 'value',
        scale: true,
        minInterval: q && !q.unit ? 1 : 0,
        name: q ? `${q.words}${q.unit ? `, ${q.unit}` : ''}` : 'cost by the prices',
        nameLocation: 'middle',
        nameGap: 24,
        nameTextStyle: font,
        axisLabel: { ...font, formatter: thousands },
        splitLine: { show: false },
      },
      yAxis: {
        type: 'value',
        scale: true,
        name: measure.words,
        nameTextStyle: { ...font, align: 'left' },
        axisLabel: { ...font, formatter: thousands },
        splitLine: { lineStyle: { color: '#ebe7dd' } },
      },
      series: [...groups].map(([name, own]) => ({
        type: q ? 'line' : 'scatter',
        name,
        data: [...own].sort((a, b) => x(a) - x(b)).map(point),
        endLabel: q && name ? { show: true, formatter: name, ...font } : undefined,
        labelLayout: { moveOverlap: 'shiftY', hideOverlap: false },
      })),
    },
    true,
  )
}
const again = useChart(box, draw, (number) => (study.chosen = number))
watch(() => [study.solved, study.chosen, along.value, props.measure], again)
</script>

<template>
  <div
    ref="box"
    class="chart"
    role="img"
    :aria-label="`${MEASURES[measure].words} of ${study.solved.length} set-outs; the table above has their numbers`"
  />
</template>

<style scoped>
.chart {
  height: 100%;
  width: 100%;
}
</style>
