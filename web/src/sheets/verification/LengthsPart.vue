<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useAnswer } from '../../api/queries'
import { useWorkbench } from '../../stores/workbench'
import SegmentsPart from './SegmentsPart.vue'

/** Effective lengths of the selected member: what is in force and why, and what other ways lead to; one is taken by choosing it. */
const bench = useWorkbench()
const { data: lengths } = useAnswer(
  '/api/projects/{project_id}/lengths',
  // a chain without numbers yet has the revision of the one that follows it
  () =>
    bench.project && bench.chain && bench.member?.checks?.length
      ? { path: { project_id: bench.project.id }, query: { member: bench.selected, revision: bench.chain.revision } }
      : null,
  (before, now) => before.query.member === now.query.member,
)
type Axis = Schemas['AxisOut']
const members = computed(() => (bench.picked.length ? bench.picked : bench.member ? [bench.member] : []))
/** The way that is in force, by its place; “by its role” where the member has no length of its own. */
const ways = (a: Axis) => a.methods.filter((m) => m.key !== 'rule')
const role = (a: Axis) => {
  const found = a.methods.find((m) => m.key === 'rule')
  return found ? label(found) : 'by its role'
}
const chosen = (a: Axis) =>
  a.own ? ways(a).findIndex((m) => m.factor !== null && Math.abs(m.factor - a.factor) < 5e-4) : ROLE
const ROLE = 99
const label = (m: Schemas['MethodOut']) => `${m.name} · ${m.factor === null ? 'none' : m.factor.toFixed(3)}`
async function take(a: Axis, at: number) {
  const way = ways(a)[at]
  const value = at === ROLE || !way ? null : way.factor
  const words = at === ROLE || !way ? null : way.words.slice(0, 120)
  const name = members.value.length > 1 ? `${members.value.length} members` : bench.member?.label
  await bench.operate(
    `${name}: L_cr,${a.axis} ${value === null ? 'by its role' : `${value.toFixed(3)} × own length`}`,
    ...members.value.map((m) => ({
      do: 'change' as const,
      members: [m.name],
      change: { checks: { [`buckling_${a.axis}`]: value, [`from_${a.axis}`]: words } },
    })),
  )
}
const notes = computed(() =>
  (lengths.value?.axes ?? []).flatMap((a) => {
    const way = ways(a)[chosen(a)]
    return a.own && way?.note ? [`About ${a.axis}: ${way.note}`] : []
  }),
)
</script>

<template>
  <template v-if="lengths && lengths.member === bench.selected">
    <h4>
      Effective lengths <span>forces of {{ lengths.combination }}</span>
    </h4>
    <div class="lengths">
      <template v-for="a in lengths.axes" :key="a.axis">
        <span>about {{ a.axis }}</span>
        <b class="mono">{{ a.length.toFixed(2) }} m</b>
        <ElSelect
          :model-value="chosen(a)"
          size="small"
          :disabled="!bench.mayChange"
          :aria-label="`Way to the effective length about ${a.axis}`"
          placeholder="typed"
          @update:model-value="take(a, $event)"
        >
          <ElOption :value="ROLE" :label="role(a)" />
          <ElOption
            v-for="(m, i) in ways(a)"
            :key="i"
            :value="i"
            :label="label(m)"
            :disabled="m.factor === null || m.factor < 0.1"
          >
            <span :title="`${m.words}. ${m.note}`">{{ m.name }}</span>
            <b class="mono factor">{{ m.factor === null ? 'none' : m.factor.toFixed(3) }}</b>
          </ElOption>
        </ElSelect>
        <small>{{ a.why }}</small>
      </template>
    </div>
    <SegmentsPart :segments="lengths.segments" />
    <p v-for="words in notes" :key="words" class="uncovered" role="note"><b>Mind:</b> {{ words }}</p>
  </template>
</template>

<style scoped>
.lengths {
  display: grid;
  grid-template-columns: 48px 62px minmax(0, 1fr);
  gap: 1px 8px;
  align-items: center;
  padding: 0 12px 4px;
  font: 400 12.5px var(--condensed);
}
.lengths > b {
  font-weight: 400;
  font-size: 12px;
}
small {
  grid-column: 2 / 4;
  font: 400 11.5px/1.3 var(--condensed);
  color: var(--ink-2);
  padding-bottom: 3px;
}
.factor {
  float: right;
  font-weight: 400;
  padding-left: 14px;
}
</style>
