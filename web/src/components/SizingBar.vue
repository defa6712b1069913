<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useSizing } from '../stores/sizing'
import { useStudy } from '../stores/study'
import { useWorkbench } from '../stores/workbench'

/** What was found in one line, and what takes it. */
const bench = useWorkbench()
const sizing = useSizing()
const study = useStudy()
/** The set-out that may be taken: the one that is chosen, else the least that passes. */
const point = computed(() => (study.point?.state === 'done' ? study.point : study.best))
const least = computed(() => {
  if (study.best) return `Least that passes: ${study.best.words}, ${study.best.tonnage!.toFixed(2)} t.`
  return study.solved.length ? 'None of them passes so far.' : ''
})
const result = computed(() => sizing.found)
const names = computed(() => sizing.changes.map((c) => c.group.name))
const members = computed(() => sizing.changes.reduce((sum, c) => sum + c.group.members.length, 0))
const own = computed(() => names.value.includes(sizing.chosen) && names.value.length > 1)
const difference = computed(() => {
  const after = result.value?.after.tonnage ?? sizing.best?.tonnage ?? 0
  const before = result.value?.before.tonnage ?? sizing.rounds[0]?.tonnage ?? 0
  const d = after - before
  return { after: after.toFixed(2), by: `${d < 0 ? '−' : '+'}${Math.abs(d).toFixed(2)}` }
})
const may = computed(() => bench.mayChange && !sizing.runs && !sizing.behind && !!names.value.length)
const say = computed(() => {
  if (sizing.runs) {
    const last = sizing.rounds.at(-1)
    const best = sizing.best
    return {
      head: last ? `Analysis ${last.number}: ${last.why}` : 'A worker begins…',
      body: best ? `Best so far that passes: ${best.tonnage.toFixed(2)} t` : 'Nothing passes yet.',
    }
  }
  if (sizing.behind)
    return { head: `Found for revision ${sizing.state.revision}.`, body: 'The model has changed since: size again.' }
  if (!result.value) {
    if (sizing.rounds.length)
      return {
        head: sizing.state.state === 'failed' ? 'It ended before its end.' : 'Stopped.',
        body: sizing.best ? 'The best so far may be accepted.' : 'Nothing that passes had been found.',
      }
    return { head: 'Not sized yet.', body: 'Nothing is applied before you accept it.' }
  }
  if (!names.value.length) return { head: 'These are the sections that stand.', body: '' }
  const of = `${names.value.length} of ${sizing.groups.length} groups change, ${members.value} members.`
  return {
    head: of,
    body: result.value.passes
      ? 'Every member of the building passes. Ctrl+Z takes it back.'
      : 'Not every member passes, or keeps what is to stay in reserve.',
  }
})
</script>

<template>
  <section v-if="sizing.shows === 'set-outs'" class="bar" aria-label="What was found">
    <div class="words" role="status">
      <p v-if="study.points.length">
        <b>{{ study.state?.done }} of {{ study.points.length }} set-outs are sized.</b> {{ least }}
      </p>
      <p v-else><b>No set-outs yet.</b> Nothing changes until one is taken.</p>
    </div>
    <ElButton v-if="study.runs" @click="study.stop()">Stop</ElButton>
    <ElButton v-if="point && bench.mayChange" type="primary" :disabled="!study.state?.stands" @click="study.take(point)"
      >Take “{{ point.words }}”{{ point.passes ? '' : ' all the same' }}</ElButton
    >
  </section>
  <section v-else class="bar" aria-label="What was found">
    <div class="words" role="status">
      <p>
        <b>{{ say.head }}</b> {{ say.body }}
        <span v-if="result && !sizing.behind" class="mono"
          >{{ result.after.cost.toFixed(0) }} by the prices, {{ result.after.carbon.toFixed(1) }} t CO₂e</span
        >
      </p>
      <ul v-if="result?.obstacles.length && !sizing.behind">
        <li v-for="o in result.obstacles" :key="o" :class="{ fails: !o.includes('not covered') }">{{ o }}.</li>
      </ul>
    </div>
    <ElButton v-if="sizing.runs" @click="sizing.stop()">Stop</ElButton>
    <template v-else-if="names.length">
      <ElButton v-if="own" :disabled="!may" @click="sizing.accept([sizing.chosen])">Only {{ sizing.chosen }}</ElButton>
      <ElButton type="primary" :disabled="!may" @click="sizing.accept(names)"
        >Accept {{ difference.after }} t ({{ difference.by }} t){{
          result && !result.passes ? ' all the same' : ''
        }}</ElButton
      >
    </template>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 6px 12px;
  border-top: 1px solid var(--ink);
  background: var(--sheet);
  overflow: hidden;
}
.words {
  flex: 1;
  min-width: 0;
  max-height: 100%;
  overflow: auto;
  font: 400 12.5px var(--condensed);
}
p,
ul {
  margin: 0;
}
ul {
  padding-left: 18px;
}
.mono {
  color: var(--ink-2);
  font-size: 12px;
  margin-left: 8px;
}
.fails {
  color: var(--oxide);
}
</style>
