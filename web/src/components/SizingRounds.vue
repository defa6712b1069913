<script setup lang="ts">
import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { init, use, type ECharts } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue'
import { figures, OXIDE } from '../lib/temper'
import { useSizing, type Round } from '../stores/sizing'

use([LineChart, ScatterChart, GridComponent, MarkLineComponent, TooltipComponent, SVGRenderer])

/** Every analysis on the way: its tonnage above, what it reached most beside what may be below. */
const sizing = useSizing()
const box = useTemplateRef<HTMLElement>('box')
let chart: ECharts | null = null
const INK = '#1f2a33'
const SOFT = '#d9d4c8'
/** Beyond this the figure says nothing that a drawing could show. */
const MOST = 2

const worst = (r: Round) => {
  const values = Object.values(r.worst)
  return values.some((v) => v === null) ? null : Math.max(...(values as number[]))
}
const kept = (r: Round) => r.number === sizing.best?.number

function draw() {
  if (!chart) return
  const rounds = sizing.rounds
  const font = { fontFamily: 'IBM Plex Sans Condensed', fontSize: 11, color: '#56626c' }
  const numbers = rounds.map((r) => `${r.number}`)
  chart.setOption(
    {
      animation: false,
      textStyle: font,
      tooltip: {
        trigger: 'axis',
        confine: true,
        textStyle: { ...font, color: INK },
        formatter: (items: { dataIndex: number }[]) => {
          const r = rounds[items[0]?.dataIndex ?? 0]
          if (!r) return ''
          const use = worst(r)
          const looked = r.few ? `fails under ${r.few} combinations that govern` : 'all combinations'
          const words = r.why.replaceAll('<', '‹')
          return `<b>${r.number} ${r.step}</b> ${r.tonnage.toFixed(2)} t, ${use === null ? 'not covered' : `${figures(use)} of what may be used`}<br>${words.replaceAll(', ', '<br>')}<br>${looked}`
        },
      },
      grid: [
        { left: 34, right: 10, top: 20, height: 74 },
        { left: 34, right: 10, top: 122, height: 62 },
      ],
      xAxis: [0, 1].map((gridIndex) => ({
        type: 'category',
        gridIndex,
        data: numbers,
        axisLine: { lineStyle: { color: SOFT } },
        axisTick: { show: false },
        axisLabel: { show: gridIndex === 1, ...font },
      })),
      yAxis: [
        { gridIndex: 0, name: 'steel, t', scale: true },
        { gridIndex: 1, name: 'used, of what may be', min: 0, max: MOST, interval: 1 },
      ].map((axis) => ({
        ...axis,
        nameTextStyle: { ...font, align: 'left', padding: [0, 0, 0, -30] },
        axisLabel: font,
        splitNumber: 3,
        splitLine: { lineStyle: { color: '#ebe7dd' } },
      })),
      series: [
        {
          type: 'line',
          xAxisIndex: 0,
          yAxisIndex: 0,
          color: INK,
          symbol: 'rect',
          data: rounds.map((r) => ({
            value: r.tonnage,
            symbolSize: kept(r) ? 10 : 5,
            itemStyle: { color: r.passes ? INK : OXIDE },
          })),
        },
        {
          type: 'scatter',
          xAxisIndex: 1,
          yAxisIndex: 1,
          data: rounds.map((r) => {
            const use = worst(r)
            return {
              value: use === null ? MOST : Math.min(use, MOST),
              symbol: use === null ? 'diamond' : use > 1 ? 'triangle' : 'circle',
              symbolSize: kept(r) ? 11 : 8,
              itemStyle: { color: r.passes ? '#8a5a7d' : OXIDE },
            }
          }),
          markLine: {
            silent: true,
            symbol: 'none',
            label: { show: false },
            lineStyle: { color: INK, type: 'solid', width: 1 },
            data: [{ yAxis: 1 }],
          },
        },
      ],
    },
    true,
  )
}
onMounted(() => {
  if (!box.value) return
  chart = init(box.value, undefined, { renderer: 'svg', width: 280, height: 206 })
  draw()
})
onBeforeUnmount(() => chart?.dispose())
watch(() => [sizing.rounds, sizing.best], draw)
</script>

<template>
  <div
    ref="box"
    class="chart"
    role="img"
    :aria-label="`Tonnage and greatest use of ${sizing.rounds.length} analyses`"
  />
</template>

<style scoped>
.chart {
  width: 280px;
  height: 206px;
  margin: 0 auto;
}
</style>
