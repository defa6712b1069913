<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import { figures } from '../lib/temper'
import { haunchOf, same, useSizing, type Candidate, type Choice } from '../stores/sizing'
import { useWorkbench } from '../stores/workbench'
import SectionGlyph from './SectionGlyph.vue'
import UseTrack from './UseTrack.vue'

/** The candidates of the chosen group in the order of what is made least, each with what it would reach. */
const bench = useWorkbench()
const sizing = useSizing()
const group = computed(() => (sizing.found?.groups ?? []).find((g) => g.name === sizing.chosen) ?? null)
const shelf = computed(() => group.value?.shelf ?? [])
const deepest = computed(() => Math.max(80, ...shelf.value.map((c) => c.h)))
const scale = computed(() => 62 / deepest.value)
const KINDS = [
  ['section', 'sect'],
  ['stability', 'stab'],
  ['service', 'move'],
  ['slender', 'slen'],
  ['others', 'rest'],
] as const
const MEANS = {
  section: 'Cross-sections of the group',
  stability: 'Stability of the group',
  service: 'Deflection and sway that the group has a part in',
  slender: 'Slenderness L_cr/i beside the most that it may be',
  others: 'The greatest use of the other groups beside it',
}
const most = (c: Candidate) => {
  const values = [c.section, c.stability, c.service, c.others].filter((v): v is number => v !== null)
  return values.length ? Math.max(...values) : null
}
/** How far the group may be used in a kind of criteria; the others as they are. */
const mostOf = (key: string) => group.value?.targets?.[['section', 'stability', 'service'].indexOf(key)] ?? 1
/** Whether it reaches more than its group may be used. */
const over = (c: Candidate) =>
  (['section', 'stability', 'service', 'others'] as const).some((key) => (c[key] ?? 0) > mostOf(key) + 1e-9)
const is = (c: Candidate, choice?: Choice) => !!choice && same(c.choice, choice)
const word = (c: Candidate) => {
  if (is(c, group.value?.after)) return 'proposed'
  if (is(c, group.value?.before)) return 'now'
  if (c.open) return 'not covered'
  if (!c.fits) return 'tied otherwise'
  return over(c) ? 'fails' : ''
}
const grades = computed(() => new Set(shelf.value.map((c) => c.choice.grade)).size > 1)
const kept = computed(() => sizing.planOf(sizing.chosen).only ?? [])
/** Have a group keep a section, the others found anew beside it. */
async function keep(c: Candidate) {
  const name = sizing.chosen
  const done = await sizing.may(name, 'only', [c.choice.section], `${c.choice.section} alone`)
  if (done) await sizing.size()
}
async function free() {
  const done = await sizing.may(sizing.chosen, 'only', [], 'all sections of its series again')
  if (done) await sizing.size()
}
const box = useTemplateRef<HTMLElement>('box')
watch(
  () => [sizing.chosen, sizing.found] as const,
  async () => {
    await nextTick()
    const at = box.value?.querySelector<HTMLElement>('.proposed')
    if (!box.value || !at) return
    const [around, own] = [box.value.getBoundingClientRect(), at.getBoundingClientRect()]
    box.value.scrollLeft += own.left - around.left - (around.width - own.width) / 2
  },
  { immediate: true },
)
</script>

<template>
  <section aria-label="Shelf">
    <p class="title">
      <b>Shelf of {{ sizing.chosen }}</b>
      <template v-if="group && haunchOf(group.after)"> with {{ haunchOf(group.after) }}</template>
      <template v-if="shelf.length">
        by {{ sizing.plan?.objective === 'cost' ? 'cost' : 'mass' }}; the others as proposed
        <span>● by its own analysis&emsp;○ foreseen</span>
      </template>
      <ElButton v-if="kept.length && bench.mayChange" size="small" text :disabled="sizing.runs" @click="free"
        >Let it choose again</ElButton
      >
    </p>
    <div
      v-if="shelf.length"
      ref="box"
      class="rack"
      tabindex="0"
      role="list"
      :aria-label="`Candidates of ${sizing.chosen}`"
    >
      <div
        v-for="c in shelf"
        :key="`${c.choice.section} ${c.choice.grade}`"
        role="listitem"
        class="one"
        :class="{ proposed: is(c, group?.after), now: is(c, group?.before) }"
      >
        <em :class="{ bad: word(c) === 'fails' }">{{ word(c) }}</em>
        <span class="standing">
          <SectionGlyph :section="c" :scale="scale" :faint="!c.solved" />
          <span class="mono"
            ><b :class="{ bad: over(c) }">{{ c.solved ? '●' : '○' }} {{ c.open ? 'n.c.' : figures(most(c)) }}</b
            >{{ c.by_metre.toFixed(1) }}<small>kg/m</small></span
          >
        </span>
        <strong>{{ c.choice.section }}</strong>
        <small v-if="grades">{{ c.choice.grade }}</small>
        <span v-for="[key, label] in KINDS" :key="key" class="bar">
          <small>{{ label }}</small>
          <UseTrack
            v-if="c[key] !== null"
            :title="`${MEANS[key]}: ${figures(c[key])}`"
            :use="c[key]"
            :limit="1.25"
            :most="mostOf(key)"
          />
          <small v-else class="none">{{ key === 'service' || key === 'slender' ? 'no limit' : 'not covered' }}</small>
        </span>
        <ElButton
          v-if="bench.mayChange && !is(c, group?.after)"
          size="small"
          text
          class="keep"
          :disabled="sizing.runs || !c.fits"
          :title="`Size everything again with ${c.choice.section} for ${sizing.chosen}`"
          @click="keep(c)"
          >Solve with it</ElButton
        >
      </div>
    </div>
    <p v-else class="note">
      {{
        group?.kept
          ? `${sizing.chosen}: ${group.kept}. Nothing else may be chosen.`
          : sizing.found
            ? 'Nothing was found that could be compared.'
            : 'After a sizing the candidates of the chosen group stand here, each with what it would reach.'
      }}
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
  overflow: hidden;
}
.title {
  margin: 0;
  padding: 7px 12px 3px;
  font: 400 12.5px var(--condensed);
  color: var(--ink-2);
}
.title b {
  color: var(--ink);
}
.title span {
  float: right;
}
.rack {
  display: flex;
  gap: 4px;
  overflow-x: auto;
  padding: 0 10px 6px;
}
.one {
  flex: none;
  width: 104px;
  padding: 2px 6px 4px;
  font: 400 12px var(--condensed);
  border: 1px solid transparent;
}
.one.proposed {
  background: var(--chalk-soft);
}
.one.now {
  border: 1px dashed var(--ink-3);
}
em {
  display: block;
  font: 500 11.5px var(--condensed);
  min-height: 16px;
  color: var(--ink-2);
}
.proposed em {
  color: var(--chalk);
}
.bad,
em.bad {
  color: var(--oxide);
}
.standing {
  display: flex;
  align-items: flex-end;
  justify-content: space-between;
  gap: 4px;
  height: 66px;
  border-bottom: 1.5px solid var(--ink);
  margin-bottom: 3px;
}
.standing .mono {
  font-size: 11px;
  text-align: right;
  line-height: 1.25;
}
.standing b {
  display: block;
  font-size: 12px;
  white-space: nowrap;
}
strong {
  font: 600 12.5px var(--condensed);
}
small {
  font: 400 11px var(--condensed);
  color: var(--ink-2);
}
.standing small {
  display: block;
}
.bar {
  display: grid;
  grid-template-columns: 28px 1fr;
  align-items: center;
  height: 14px;
}
.none {
  font-style: italic;
}
.keep {
  padding: 0;
  height: 18px;
  font: 500 11.5px var(--condensed);
}
</style>
