<script setup lang="ts">
/** What was computed of the present revision beside an older one: inputs, verdicts, reactions. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useAnswer } from '../api/queries'
import type { Schemas } from '../api/client'
import { fixed } from '../lib/quantity'
import { standing } from '../lib/standing'
import { figures } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'

const props = defineProps<{ before: number }>()
const bench = useWorkbench()
const { data, problem } = useAnswer('/api/projects/{project_id}/beside', () =>
  bench.project && bench.chain && !bench.chain.problem && bench.chain.status !== 'bare'
    ? {
        path: { project_id: bench.project.id },
        query: { before: props.before, revision: bench.chain.revision },
      }
    : null,
)
const said = (value: unknown) => {
  if (value === null || value === undefined) return '–'
  const text = typeof value === 'object' ? JSON.stringify(value) : `${value as string | number | boolean}`
  return text.length > 60 ? `${text.slice(0, 58)} …` : text
}
const reaction = (pair: readonly number[] | null) =>
  pair ? pair.map((v) => fixed(v / 1000, 1)).join(' to ') : 'not held'
const unit = (freedom: string) => (freedom.startsWith('r') ? 'kNm' : 'kN')
const shownUse = (u: Schemas['VerifiedOut'] | null) => (u ? figures(u.utilisation) : 'not there')
const TOTALS = [
  ['Cost, by the present prices', 'cost', 0],
  ['Carbon, t CO₂e', 'carbon', 1],
] as const
const total = (key: 'cost' | 'carbon', k: 0 | 1) => data.value!.amounts.reduce((sum, a) => sum + a[key][k], 0)
const pieces = ([before, after]: readonly number[]) => (before === after ? `${after}×` : `${before}× → ${after}×`)
const more = (count: number) => (count ? `and ${count} more` : '')
const heads = computed(() => (data.value ? ([data.value.stood, data.value.stands] as const) : null))
</script>

<template>
  <p v-if="problem" class="note wrong" role="alert">{{ problem }}</p>
  <p v-else-if="!data" class="note">Computing both revisions …</p>
  <div v-else class="compared">
    <table v-if="heads">
      <caption>
        Verdict
      </caption>
      <thead>
        <tr>
          <th></th>
          <th>rev {{ data.before }}</th>
          <th>rev {{ data.after }}</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>Largest utilisation</td>
          <td v-for="(e, k) in heads" :key="k" class="mono">{{ figures(e.worst) }}</td>
        </tr>
        <tr>
          <td>Members</td>
          <td v-for="(e, k) in heads" :key="k" :class="{ fails: e.failing }">{{ standing(e) }}</td>
        </tr>
        <tr>
          <td>Steel</td>
          <td v-for="(e, k) in heads" :key="k" class="mono">{{ fixed(e.tonnage, 2) }} t</td>
        </tr>
      </tbody>
    </table>
    <table>
      <caption>
        Steel by role, t
      </caption>
      <tbody>
        <tr v-for="a in data.amounts" :key="a.words">
          <td>
            {{ a.words }} <small>{{ pieces(a.number) }}</small>
          </td>
          <td v-for="(t, k) in a.mass" :key="k" class="mono">{{ fixed(t, 2) }}</td>
        </tr>
        <tr v-for="[label, key, digits] in TOTALS" :key="key" class="total">
          <td>{{ label }}</td>
          <td v-for="k in [0, 1] as const" :key="k" class="mono">{{ fixed(total(key, k), digits) }}</td>
        </tr>
      </tbody>
    </table>
    <table v-if="data.inputs.length">
      <caption>
        Inputs
      </caption>
      <tbody>
        <tr v-for="d in data.inputs" :key="d.what">
          <td>{{ d.what }}</td>
          <td class="mono">{{ said(d.before) }}</td>
          <td class="mono">{{ said(d.after) }}</td>
        </tr>
      </tbody>
    </table>
    <p class="note">{{ data.inputs.length ? more(data.inputs_left) : 'The inputs are the same.' }}</p>
    <table v-if="data.members.length">
      <caption>
        Verdicts of members
      </caption>
      <tbody>
        <tr v-for="m in data.members" :key="m.member">
          <td>
            <ElButton v-if="m.after" link type="primary" size="small" @click="bench.select(m.member, true)">{{
              m.label
            }}</ElButton>
            <span v-else>{{ m.label }}</span>
            <small v-if="m.before && m.after && m.before.section !== m.after.section"
              >{{ m.before.section }} → {{ m.after.section }}</small
            >
            <small v-else-if="m.after">{{ m.after.governs }}</small>
          </td>
          <td class="mono" :class="{ fails: m.before?.status === 'fails' }">{{ shownUse(m.before) }}</td>
          <td class="mono" :class="{ fails: m.after?.status === 'fails' }">{{ shownUse(m.after) }}</td>
        </tr>
      </tbody>
    </table>
    <p class="note">{{ more(data.members_left) }} {{ data.members_alike }} members are verified alike, within 0.005.</p>
    <table v-if="data.reactions.length">
      <caption>
        Reactions, least to greatest
      </caption>
      <tbody>
        <tr v-for="r in data.reactions" :key="r.node + r.freedom">
          <td>
            {{ r.node }} <small>{{ r.freedom }}, {{ unit(r.freedom) }}</small>
          </td>
          <td class="mono">{{ reaction(r.before) }}</td>
          <td class="mono">{{ reaction(r.after) }}</td>
        </tr>
      </tbody>
    </table>
    <p class="note">
      {{ more(data.reactions_left) }} {{ data.reactions_alike }} reactions are alike, within 1 % or 0.5 kN.
    </p>
  </div>
</template>

<style scoped>
.compared {
  padding: 0 12px 8px;
}
.compared .note {
  padding: 2px 0 8px;
}
table {
  width: 100%;
  border-collapse: collapse;
  font: 400 12.5px var(--condensed);
}
caption {
  text-align: left;
  font-weight: 600;
  padding: 6px 0 2px;
}
th {
  text-align: right;
  font-weight: 400;
  color: var(--ink-2);
}
td {
  border-bottom: 1px solid var(--line-soft);
  padding: 2px 0;
  vertical-align: top;
}
td + td {
  text-align: right;
  padding-left: 8px;
}
td.mono {
  font-size: 11.5px;
}
small {
  margin-left: 6px;
  color: var(--ink-2);
  font-size: 11.5px;
}
.fails,
.wrong {
  color: var(--oxide);
}
</style>
