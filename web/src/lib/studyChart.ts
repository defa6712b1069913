import { useResizeObserver } from '@vueuse/core'
import { init, type ECharts } from 'echarts/core'
import { onBeforeUnmount, onMounted, type ShallowRef } from 'vue'
import type { Point } from '../stores/study'

export const FONT = { fontFamily: 'IBM Plex Sans Condensed', fontSize: 11.5, color: '#56626c' }

/** What a set-out is measured by: its words, and its value. */
export const MEASURES = {
  steel: { words: 'steel, t', of: (p: Point) => p.tonnage! },
  area: { words: 'steel, kg/m²', of: (p: Point) => (p.tonnage! * 1000) / p.area! },
  cost: { words: 'cost by the prices', of: (p: Point) => p.cost! },
  costArea: { words: 'cost per m²', of: (p: Point) => p.cost! / p.area! },
} as const
export type Measure = keyof typeof MEASURES

/** Thousands apart, as in the tables. */
export const thousands = (v: number) => v.toLocaleString('en-GB').replaceAll(',', '\u202f')

/** The keys of what differs between set-outs, in the order in which they came; what one does not state is as the model has it. */
export function varied(points: readonly Point[]): string[] {
  const keys = [...new Set(points.flatMap((p) => Object.keys(p.values)))]
  return keys.filter((key) => new Set(points.map((p) => p.values[key])).size > 1)
}

/** A chart in a box, as wide as that is, that says which point was clicked. */
export function useChart(
  box: Readonly<ShallowRef<HTMLElement | null>>,
  draw: (chart: ECharts) => void,
  clicked: (number: number) => void,
): () => void {
  let chart: ECharts | null = null
  const again = () => chart && draw(chart)
  useResizeObserver(box, () => chart?.resize())
  onMounted(() => {
    if (!box.value) return
    chart = init(box.value, undefined, { renderer: 'svg' })
    chart.on('click', (event) => {
      const number = (event.data as { number?: number } | undefined)?.number
      if (number) clicked(number)
    })
    again()
  })
  onBeforeUnmount(() => chart?.dispose())
  return again
}
