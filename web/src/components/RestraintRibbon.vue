<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, typed, type Schemas } from '../api/client'
import { extremes } from '../lib/drawing'
import { fixed } from '../lib/quantity'
import { figures, temper } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import TexText from './TexText.vue'

const bench = useWorkbench()
const ribbon = ref<Schemas['RibbonOut'] | null>(null)
watch(
  () => [bench.selected, bench.chain?.revision] as const,
  async ([name, revision]) => {
    if (!name || !bench.project || !revision) {
      ribbon.value = null
      return
    }
    const { data } = await api.GET('/api/projects/{project_id}/ribbon', {
      params: { path: { project_id: bench.project.id }, query: { member: name, revision } },
    })
    if (name === bench.selected) ribbon.value = data ? typed('RibbonOut', data) : null
  },
  { immediate: true },
)
const X = (along: number) => 6 + (276 * along) / (ribbon.value?.length || 1)
const curve = computed(() => {
  const r = ribbon.value
  if (!r?.My.length) return { d: '', words: [] as { x: number; y: number; text: string; anchor: string }[] }
  const most = Math.max(...r.My.map(Math.abs), 1e-9)
  const y = (m: number) => 114 + (m / most) * 20
  const d = `M6 114${r.x.map((x, i) => `L${X(x).toFixed(1)} ${y(r.My[i]!).toFixed(1)}`).join('')}L282 114Z`
  const words = [...new Set(extremes(r.My))]
    .filter((i) => Math.abs(r.My[i]!) > most * 0.12)
    .map((i) => {
      const x = X(r.x[i]!)
      return {
        x: Math.min(Math.max(x, 8), 280),
        y: r.My[i]! > 0 ? y(r.My[i]!) + 11 : y(r.My[i]!) - 4,
        text: fixed(r.My[i]!, 0),
        anchor: x < 40 ? 'start' : x > 248 ? 'end' : 'middle',
      }
    })
  return { d, words }
})
/** the inner flange between y = 56 of the plain member and where its haunches take it, to the scale of the section's depth */
const haunches = computed(() => {
  const m = bench.member
  if (!m || m.name !== ribbon.value?.member) return []
  return (m.haunches ?? []).map((h) => ({ ...h, down: Math.min((34 * h.depth) / m.size[0], 40) }))
})
const deepest = computed(() => Math.max(0, ...haunches.value.map((h) => h.down)))
function inner(along: number): number {
  for (const h of haunches.value) {
    const share = Math.abs(along - h.foot) / Math.abs(h.tip - h.foot)
    if (share < 1) return 56 + h.down * (1 - share)
  }
  return 56
}
const tips = computed(() => haunches.value.map((h) => h.tip).sort((a, b) => a - b))
const lower = computed(() =>
  [0, ...tips.value, ribbon.value?.length ?? 0].map((x) => `${X(x).toFixed(1)} ${inner(x).toFixed(1)}`).join('L'),
)
const rows = computed(() => {
  const r = ribbon.value
  if (!r) return []
  return [
    { key: 'outer', y: 22, spans: r.outer_spans, marks: r.outer, up: true },
    { key: 'inner', y: 44, spans: r.inner_spans, marks: r.inner, up: false },
  ]
})
</script>

<template>
  <template v-if="ribbon && ribbon.outer.length > 1">
    <h4>
      Restraint ribbon <span class="hint">M in {{ ribbon.combination }}, kNm</span>
    </h4>
    <svg
      :viewBox="`0 -6 288 ${152 + deepest}`"
      role="img"
      aria-label="Restraints of both flanges and the moment along the member"
    >
      <text class="small" x="6" y="3">
        outer flange: {{ ribbon.outer.length > 2 ? 'purlins' : 'held at the ends' }}
      </text>
      <g v-for="row in rows" :key="row.key">
        <g v-for="s in row.spans" :key="s.start">
          <rect
            :x="X(s.start) + 0.7"
            :y="row.y"
            :width="Math.max(X(s.end) - X(s.start) - 1.4, 0.5)"
            height="12"
            :fill="temper(s.utilisation)"
            :stroke="s.utilisation > 1 ? '#5f2014' : 'none'"
            :stroke-dasharray="s.utilisation > 1 ? '3 2' : ''"
          >
            <title>
              {{ s.start.toFixed(2) }} to {{ s.end.toFixed(2) }} m: sideways
              {{ figures(s.utilisation) }}
            </title>
          </rect>
          <text
            v-if="X(s.end) - X(s.start) > 27 && s.utilisation > 0.005"
            class="span"
            :class="{ light: s.utilisation > 0.95 }"
            :x="(X(s.start) + X(s.end)) / 2"
            :y="row.y + 9.4"
          >
            {{ figures(s.utilisation) }}
          </text>
        </g>
        <path
          v-for="m in row.marks"
          :key="m"
          class="mark"
          :d="row.up ? `M${X(m)} 21l-3.6 -8h7.2z` : `M${X(m)} ${inner(m) + 1}l-3.6 8h7.2z`"
        />
      </g>
      <line class="flange" x1="6" x2="282" y1="22" y2="22" />
      <path v-if="deepest" class="haunch" :d="`M6 56L${lower}L282 56Z`" />
      <path class="flange" :d="`M${lower}`" />
      <g :transform="`translate(0 ${deepest})`">
        <text class="small" x="6" y="77">
          inner flange: {{ ribbon.inner.length > 2 ? 'stays' : 'held at the ends' }}
        </text>
        <line class="axis" x1="6" x2="282" y1="114" y2="114" />
        <path class="moment" :d="curve.d" />
        <text v-for="(w, i) in curve.words" :key="i" class="word" :x="w.x" :y="w.y" :text-anchor="w.anchor">
          {{ w.text }}
        </text>
      </g>
    </svg>
  </template>
  <div v-if="ribbon" class="pairs">
    <template v-for="[symbol, value, why] in ribbon.values" :key="symbol">
      <span :title="why"
        ><TexText :tex="symbol" /> <small>{{ why.split(':')[1]?.split('(')[0]?.trim() }}</small></span
      >
      <b :title="why">{{ value }}</b>
    </template>
  </div>
</template>

<style scoped>
.hint {
  font-weight: 400;
  letter-spacing: 0;
}
svg {
  display: block;
  width: 288px;
  margin: 0 12px;
}
.small {
  font: 400 11px var(--condensed);
  fill: var(--ink-2);
}
.span {
  font: 400 9.5px var(--mono);
  text-anchor: middle;
  fill: var(--ink);
}
.span.light {
  fill: #fff;
}
.word {
  font: 400 11px var(--mono);
  fill: var(--ink);
}
.haunch {
  fill: var(--ink);
  fill-opacity: 0.07;
}
.flange {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.mark {
  fill: var(--ink);
}
.axis {
  stroke: var(--ink-3);
}
.moment {
  fill: #5f7382;
  fill-opacity: 0.14;
  stroke: #5f7382;
}
.pairs small {
  font-size: 11px;
}
</style>
