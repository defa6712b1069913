<script setup lang="ts">
import { computed } from 'vue'
import { figures } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const word = (role: string) => {
  const plain = role.replaceAll('_', ' ')
  return plain[0]!.toUpperCase() + plain.slice(1)
}
const behind = computed(() => !!bench.rounds.length && bench.sizingBase !== bench.project?.revision.number)
const changes = computed(() => {
  const now = bench.hall?.sections as Record<string, string> | undefined
  const found = bench.sizing?.sections ?? {}
  return Object.keys(found).map((role) => ({ role, before: now?.[role] ?? '', after: found[role]! }))
})
const differs = computed(() => changes.value.some((c) => c.before !== c.after))
const last = computed(() => bench.rounds.at(-1))
async function accept() {
  const list = changes.value.filter((c) => c.before !== c.after)
  const done = await bench.edit(
    `Sizing accepted: ${list.map((c) => c.after).join(', ')}`,
    list.map((c) => ({ path: `hall.sections.${c.role}`, value: c.after })),
  )
  // what was found is what stands now
  if (done) bench.sizingBase = bench.project!.revision.number
}
</script>

<template>
  <SheetHead
    title="Sizing"
    :aside="bench.sizing ? `${bench.sizing.before.toFixed(2)} → ${bench.sizing.after.toFixed(2)} t` : ''"
  />
  <p class="note">
    Every role to the lightest passing section of its own family; analysed again after each change until nothing
    changes. Nothing is applied before you accept.
  </p>
  <p class="note">
    <button
      v-if="!bench.sizingRuns"
      class="plate solid"
      :disabled="!bench.hall || !!bench.chain?.problem"
      @click="bench.size()"
    >
      {{ bench.rounds.length ? 'Size again' : 'Size every role' }}
    </button>
    <button v-else class="plate" @click="bench.stopSizing()">Stop · round {{ bench.rounds.length + 1 }}</button>
  </p>
  <div v-if="bench.sizing" class="found" :class="{ behind }">
    <strong :class="{ fails: !bench.sizing.passes }">{{
      bench.sizing.passes ? 'Every member of the building passes' : 'Not every member passes'
    }}</strong>
    <p v-if="behind" class="stale">Found for revision {{ bench.sizingBase }}; the model has changed since.</p>
    <table>
      <tr v-for="c in changes" :key="c.role">
        <td>
          {{ word(c.role) }}<small v-if="c.before !== c.after">from {{ c.before }}</small>
        </td>
        <td class="mono" :class="{ new: c.before !== c.after }">
          {{ c.before === c.after ? `${c.after} stays` : c.after }}
        </td>
        <td class="mono" :class="{ fails: (last?.worst[c.role] ?? 9) > 1 }">
          {{ figures(last?.worst[c.role] ?? null) }}
        </td>
      </tr>
    </table>
    <p v-for="o in bench.sizing.obstacles" :key="o" class="fails">{{ o }}.</p>
    <button v-if="differs && !behind" class="plate solid" @click="accept">
      Accept {{ bench.sizing.passes ? '' : 'all the same' }}
    </button>
    <p v-else-if="!differs && !behind">These are the sections that stand.</p>
  </div>
  <p class="note caution">
    <b>Bear in mind:</b> only the roles of the hall are sized; what other jigs or hands set out stays as it is, and is
    counted all the same.
  </p>
  <template v-if="bench.rounds.length">
    <h4>Rounds <span v-if="bench.sizingRuns">working…</span></h4>
    <ol>
      <li v-for="r in bench.rounds" :key="r.number">
        <b class="mono">{{ r.number }}</b>
        <span
          ><em>{{ r.step }}</em> {{ r.why }}</span
        >
        <span class="mono">{{ r.tonnage.toFixed(2) }} t</span>
        <span class="mono" :class="{ fails: Math.max(...Object.values(r.worst).map((v) => v ?? 9)) > 1 }">{{
          Object.values(r.worst).some((v) => v === null)
            ? 'n.c.'
            : figures(Math.max(...Object.values(r.worst).map((v) => v ?? 9)))
        }}</span>
      </li>
    </ol>
  </template>
  <p v-else-if="!bench.hall" class="note">Sizing works on the roles of a hall; this document has none.</p>
  <p v-else-if="!bench.sizingRuns" class="note">No sizing yet for this project.</p>
</template>

<style scoped>
.found {
  margin: 4px 12px;
  border: 1px solid var(--line);
  background: #fff;
  padding: 8px 10px;
  font: 400 12.5px var(--condensed);
}
.found.behind {
  border-color: var(--behind);
}
.stale {
  color: #7d5a12;
  margin: 4px 0;
}
table {
  width: 100%;
  border-collapse: collapse;
  margin: 4px 0 8px;
}
td {
  padding: 2px 4px 2px 0;
  font-size: 11.5px;
}
td:first-child {
  font-size: 12.5px;
}
td small {
  display: block;
  font-size: 11px;
  color: var(--ink-2);
}
td:last-child {
  text-align: right;
}
.new {
  font-weight: 600;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0 12px;
}
li {
  display: grid;
  grid-template-columns: 20px 1fr auto 36px;
  gap: 6px;
  padding: 3px 0;
  border-bottom: 1px solid var(--line-soft);
  font: 400 12px/1.3 var(--condensed);
}
li .mono {
  font-size: 11px;
  text-align: right;
}
li em {
  font-style: normal;
  font-weight: 600;
}
.caution {
  margin: 6px 12px 0;
  border-left: 3px solid var(--behind);
  padding: 2px 8px;
}
h4 span {
  font-weight: 400;
}
</style>
