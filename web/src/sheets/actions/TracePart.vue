<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useAnswer } from '../../api/queries'
import { minus } from '../../lib/quantity'
import { useWorkbench } from '../../stores/workbench'

/** Which loads of the shown case lie on the selected member, and the panel that each comes from. */
const bench = useWorkbench()
const { data: found } = useAnswer('/api/projects/{project_id}/loads', () =>
  bench.project && bench.chain && bench.selected && bench.lists.cases.some((c) => c.symbol === bench.state)
    ? {
        path: { project_id: bench.project.id },
        query: { member: bench.selected, case: bench.state, revision: bench.chain.revision },
      }
    : null,
)
const rows = computed(() => found.value?.loads ?? [])
/** Forces and couples on it, with their distance from its start. */
const points = computed(() => {
  const [m, d] = [bench.member, bench.diagram]
  const foot = m && bench.chain?.nodes[m.line[0]!]
  if (!m || !foot || d?.state !== bench.state) return []
  return d.points
    .filter((p) => p.member === m.name)
    .map((p) => ({ ...p, x: Math.hypot(...p.at.map((v, i) => v - foot[i]!)) }))
    .sort((p, q) => p.x - q.x)
})
const some = (v: readonly number[]) => v.some((x) => Math.abs(x) > 5e-3)
const f = (v: readonly number[]) => minus(v.map((x) => x.toFixed(2)).join('  '))
const even = (r: Schemas['TracedLoad']) => r.first.every((x, i) => Math.abs(x - r.last[i]!) < 5e-3)
</script>

<template>
  <template v-if="bench.member && bench.state">
    <h4>On {{ bench.member.label }} in {{ bench.state }} <span>kN/m along X, Y, Z; own: x, y, z</span></h4>
    <ul>
      <li v-for="(r, i) in rows" :key="i" :title="r.why">
        <span class="mono">{{ r.start.toFixed(2) }} – {{ r.end.toFixed(2) }} m</span>
        <b class="mono"
          >{{ f(r.first) }}<template v-if="!even(r)"> … {{ f(r.last) }}</template></b
        >
        <span v-if="r.widths" title="Width of the panel that the member takes: half of the fields on both sides"
          >field {{ r.widths[0].toFixed(2)
          }}<template v-if="Math.abs(r.widths[0] - r.widths[1]) > 5e-3"> … {{ r.widths[1].toFixed(2) }}</template>
          m</span
        ><span v-else />
        <b class="mono" title="Along the member, and across it along its own y and z"
          >own {{ f(r.own_first) }}<template v-if="!even(r)"> … {{ f(r.own_last) }}</template></b
        >
        <ElButton
          v-if="r.panel"
          link
          type="primary"
          size="small"
          :title="`Lay ${r.panel} flat`"
          @click="bench.openPanel(r.panel)"
        >
          {{ r.panel }} {{ r.zone }}
        </ElButton>
      </li>
    </ul>
    <ul v-if="points.length" aria-label="Concentrated loads">
      <li v-for="(p, i) in points" :key="i">
        <span class="mono">{{ p.x.toFixed(2) }} m</span>
        <b v-if="some(p.force)" class="mono" title="Along X, Y, Z">{{ f(p.force) }} kN</b>
        <b v-if="some(p.moment)" class="mono" title="About X, Y, Z">{{ f(p.moment) }} kNm</b>
      </li>
    </ul>
    <p v-if="found?.factor != null" class="note">
      Takes {{ found.area!.toFixed(1) }} m² of deck: imposed load · α_A = {{ found.factor.toFixed(2) }} (EN 1991-1-1
      (6.1)), in the loads above.
    </p>
    <p v-if="found && !rows.length && !points.length" class="note">
      No line load of {{ bench.state }} lies on it. {{ found.nothing.map(minus).join(' ') }}
    </p>
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 12px;
  font: 400 12px var(--condensed);
}
li {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0 10px;
  padding: 2px 0;
  border-bottom: 1px solid var(--line-soft);
}
li b {
  font-weight: 400;
  text-align: right;
  white-space: pre-wrap;
}
li button {
  grid-column: 1 / 3;
  text-align: left;
  padding: 0;
}
.mono {
  font-size: 11.5px;
}
</style>
