<script setup lang="ts">
import { ParallelChart } from 'echarts/charts'
import { ParallelComponent, TooltipComponent } from 'echarts/components'
import { use, type ECharts } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, useTemplateRef, watch } from 'vue'
import { FONT, MEASURES, thousands, useChart, varied } from '../lib/studyChart'
import { OXIDE } from '../lib/temper'
import { useStudy, type Point } from '../stores/study'

use([ParallelChart, ParallelComponent, TooltipComponent, SVGRenderer])

/** Every set-out as a line across what is varied and what comes of it; a stretch of an axis, drawn on it, leaves those that pass through. */
const study = useStudy()
const box = useTemplateRef<HTMLElement>('box')
const keys = computed(() => varied(study.solved))
const CAME = ['steel', 'area', 'cost', 'costArea'] as const

function axes() {
  const given = keys.value.map((key, dim) => {
    const q = study.state?.quantities.find((one) => one.key === key)
    const values = study.solved.map((p) => valueOf(p, key))
    const name = `${q?.words ?? key}${q?.unit ? `, ${q.unit}` : ''}`
    return values.every((v) => typeof v === 'number')
      ? { dim, name, scale: true, minInterval: q && !q.unit ? 1 : 0 }
      : { dim, name, type: 'category', data: [...new Set(values.map((v) => words(v)))] }
  })
  const came = CAME.map((key, i) => ({ dim: given.length + i, name: MEASURES[key].words, scale: true }))
  return [...given, ...came, { dim: given.length + came.length, name: 'most used', scale: true }]
}
function valueOf(p: Point, key: string) {
  return p.values[key] ?? study.state?.quantities.find((q) => q.key === key)?.now ?? 'as it is'
}
const words = (value: unknown) => (value === true ? 'yes' : value === false ? 'no' : `${value ?? ''}`)
const row = (p: Point) => [
  ...keys.value.map((key) => {
    const value = valueOf(p, key)
    return typeof value === 'number' ? value : words(value)
  }),
  ...CAME.map((key) => MEASURES[key].of(p)),
  p.worst ?? 0,
]
function drawn(p: Point) {
  const best = p.number === study.best?.number
  const width = p.number === study.chosen ? 4 : best ? 3 : 1.5
  return {
    value: row(p),
    number: p.number,
    name: p.words,
    lineStyle: {
      width,
      color: p.passes ? (best ? '#1d6480' : '#1f2a33') : OXIDE,
      opacity: best || width > 3 ? 1 : 0.5,
    },
  }
}

function draw(chart: ECharts) {
  chart.setOption(
    {
      animation: false,
      textStyle: FONT,
      tooltip: { confine: true, formatter: ({ data }: { data: { name: string } }) => data.name.replaceAll('<', '‹') },
      parallel: {
        left: 60,
        right: 70,
        top: 46,
        bottom: 22,
        parallelAxisDefault: {
          nameTextStyle: FONT,
          nameTruncate: { maxWidth: 120 },
          axisLabel: { ...FONT, formatter: (v: number | string) => (typeof v === 'number' ? thousands(v) : v) },
          axisLine: { lineStyle: { color: '#8b8577' } },
          areaSelectStyle: { color: '#1d6480', opacity: 0.15 },
        },
      },
      parallelAxis: axes(),
      series: [{ type: 'parallel', data: study.solved.map(drawn), inactiveOpacity: 0.05, smooth: false }],
    },
    true,
  )
}
const again = useChart(box, draw, (number) => (study.chosen = number))
watch(() => [study.solved, study.chosen], again)
</script>

<template>
  <div
    ref="box"
    class="chart"
    role="img"
    :aria-label="`${study.solved.length} set-outs across ${keys.length} things varied and what comes of them; the table above has their numbers`"
  />
</template>

<style scoped>
.chart {
  height: 100%;
  width: 100%;
}
</style>
