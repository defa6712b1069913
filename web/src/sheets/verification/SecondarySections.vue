<script setup lang="ts">
/** Cold-formed purlins or rails as each section of their series: how they would fare under the same loads, the lightest first. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useAnswer } from '../../api/queries'
import { figures } from '../../lib/temper'
import { useWorkbench } from '../../stores/workbench'

const props = defineProps<{ role: string }>()
const bench = useWorkbench()
const { data, problem } = useAnswer('/api/projects/{project_id}/secondary-sections', () =>
  bench.project && bench.chain
    ? { path: { project_id: bench.project.id }, query: { role: props.role, revision: bench.chain.revision } }
    : null,
)
const which = computed(() => (props.role === 'purlin' ? 'purlins' : 'rails'))
const present = computed(() => bench.hall?.[which.value]?.cold?.section)
const WAYS = ['down', 'up', 'service'] as const
const lightest = computed(() => data.value?.find((c) => c.status === 'passes')?.section)
/** What passes first, the lightest of it at the top. */
const sorted = computed(() =>
  [...(data.value ?? [])].sort((a, b) => +(b.status === 'passes') - +(a.status === 'passes') || a.mass - b.mass),
)
const take = (name: string) =>
  void bench.edit(`${which.value === 'purlins' ? 'Purlins' : 'Rails'} ${name}`, [
    { path: `hall.${which.value}.cold.section`, value: name },
  ])
</script>

<template>
  <p v-if="problem" class="note" role="alert">{{ problem }}</p>
  <p v-else-if="!data" class="note">Each section is computed…</p>
  <template v-else>
    <p class="note">
      {{ lightest ? `The lightest that passes is ${lightest}.` : 'None of this series passes.' }} The frame feels no
      difference but the weight that the cladding states.
    </p>
    <table class="plain">
      <thead>
        <tr>
          <th>section</th>
          <td>kg/m</td>
          <td>pressed</td>
          <td>lifted</td>
          <td title="deflection">bent</td>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in sorted" :key="c.section" :class="{ on: c.section === present }" :title="c.reasons.join('; ')">
          <th>{{ c.section }}</th>
          <td>{{ c.mass.toFixed(2) }}</td>
          <template v-if="c.reasons.length"><td colspan="3" class="uncovered">not covered</td></template>
          <template v-else>
            <td v-for="way in WAYS" :key="way" :class="{ fails: (c.ways[way] ?? 0) > 1 }">
              {{ c.ways[way] ? figures(c.ways[way]!) : '–' }}
            </td>
          </template>
          <td>
            <small v-if="c.section === present">now</small>
            <ElButton
              v-else-if="bench.mayChange"
              link
              type="primary"
              size="small"
              :aria-label="`Take ${c.section}`"
              @click="take(c.section)"
              >Take</ElButton
            >
          </td>
        </tr>
      </tbody>
    </table>
  </template>
</template>

<style scoped>
td,
th {
  white-space: nowrap;
  font-size: 12px;
  padding: 1px 8px 1px 0;
  border-bottom: 1px solid var(--line);
}
td {
  text-align: right;
}
thead td,
thead th {
  color: var(--ink-2);
}
tr.on {
  background: var(--chalk-soft);
}
td.fails {
  color: var(--oxide);
  font-weight: 600;
}
</style>
