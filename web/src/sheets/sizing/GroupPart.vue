<script setup lang="ts">
import { ElButton, ElCollapse, ElCollapseItem, ElInputNumber, ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { useSizing } from '../../stores/sizing'
import { useStudy } from '../../stores/study'
import { useWorkbench } from '../../stores/workbench'
import HaunchesPart from './HaunchesPart.vue'
import PlatesPart from './PlatesPart.vue'
import TargetsPart from './TargetsPart.vue'

/** What the chosen group may have. */
const bench = useWorkbench()
const sizing = useSizing()
const study = useStudy()
const group = computed(() => sizing.groups.find((g) => g.name === sizing.chosen) ?? null)
const plan = computed(() => sizing.planOf(sizing.chosen))
const off = computed(() => !bench.mayChange || sizing.runs)
const families = computed(() => bench.catalogue.map((f) => ({ name: f.name, what: f.what })))
const grades = ['S235', 'S275', 'S355', 'S420', 'S460']
const others = computed(() => sizing.groups.map((g) => g.name).filter((n) => n !== sizing.chosen))
const mm = (value: number | null | undefined) => (value == null ? undefined : Math.round(value * 1000))
const SIZES = [
  ['least_depth', 'Least depth'],
  ['most_depth', 'Most depth'],
  ['least_width', 'Least width'],
  ['most_width', 'Most width'],
] as const
const KINDS = ['section', 'stability', 'service'] as const
/** How far the group may be used, in words. */
const targets = computed(() => {
  const all = plan.value.target ?? 1 - (sizing.plan?.reserve ?? 0)
  const each = KINDS.map((kind) => Math.round((plan.value.targets?.[kind] ?? all) * 100))
  return `Used at most ${new Set(each).size > 1 ? each.join(', ') : each[0]} %`
})
type Key = Parameters<typeof sizing.may>[1]
const set = (key: Key, value: unknown, words: string) => sizing.may(sizing.chosen, key, value, words)
const size = (key: Key, label: string, value: number | undefined | null) =>
  set(key, value == null ? null : value / 1000, value == null ? `${label}: none` : `${label} ${value} mm`)
/** What the group, or the one that it is a part of, is split by. */
const apart = computed(() => sizing.plan?.groups?.[group.value?.of ?? '']?.apart ?? [])
function split(by: string[]) {
  const of = group.value?.of
  if (of) void sizing.may(of, 'apart', by, by.length ? `split by ${by.join(' and ')}` : 'one group again')
}
const unsplit = computed(() => group.value?.splits.filter((s) => !apart.value.includes(s.by)) ?? [])
/** Have it sized beside what stands, once for each way to split it. */
function tell() {
  sizing.shows = 'set-outs'
  void study.start({ split: unsplit.value.map((s) => s.words) })
}
/** The members that are chosen in the model become a group of their own. */
const picked = computed(() => [...bench.chosen].filter((name) => bench.chain?.members?.some((m) => m.name === name)))
function gather() {
  const taken = new Set(sizing.groups.map((g) => g.name))
  let k = 1
  while (taken.has(`Group ${k}`)) k++
  void bench.edit(`Sizing: a group of ${picked.value.length} members`, [
    { path: 'sizing.own', do: 'add', value: { name: `Group ${k}`, members: picked.value } },
  ])
}
function scatter() {
  const own = sizing.plan?.own?.find((g) => g.name === sizing.chosen)
  if (own) void bench.edit(`Sizing: group ${own.name} taken apart`, [{ path: 'sizing.own', do: 'remove', value: own }])
}
</script>

<template>
  <template v-if="group">
    <h4>
      May be chosen: {{ group.name }} <span>{{ group.candidates }} candidates</span>
    </h4>
    <p v-if="group.kept" class="note">It keeps what it has: {{ group.kept }}.</p>
    <div class="field-grid">
      <span>Series</span>
      <ElSelect
        size="small"
        multiple
        collapse-tags
        filterable
        clearable
        :model-value="plan.families ?? []"
        :placeholder="`its own, ${group.families.join(', ')}`"
        :disabled="off"
        aria-label="Series"
        @change="set('families', $event, $event.length ? `series ${$event.join(', ')}` : 'its own series')"
      >
        <ElOption v-for="f in families" :key="f.name" :value="f.name" :label="f.name"
          >{{ f.name }} <small>{{ f.what }}</small></ElOption
        >
      </ElSelect>
      <span>Grades beside {{ group.now.grade }}</span>
      <ElSelect
        size="small"
        multiple
        collapse-tags
        clearable
        :model-value="plan.grades ?? []"
        placeholder="none"
        :disabled="off"
        aria-label="Grades"
        @change="set('grades', $event, $event.length ? `grades ${$event.join(', ')}` : 'its own grade')"
      >
        <ElOption v-for="g in grades.filter((g) => g !== group!.now.grade)" :key="g" :value="g" :label="g" />
      </ElSelect>
      <template v-for="[key, label] in SIZES" :key="key">
        <span>{{ label }}, mm</span>
        <ElInputNumber
          size="small"
          controls-position="right"
          :model-value="mm(plan[key])"
          :min="10"
          :max="5000"
          :step="10"
          placeholder="none"
          :disabled="off"
          :aria-label="`${label}, mm`"
          @change="size(key, label, $event)"
        />
      </template>
      <span>Not deeper than</span>
      <ElSelect
        size="small"
        clearable
        :model-value="plan.not_deeper_than ?? ''"
        placeholder="any depth"
        :disabled="off"
        aria-label="Not deeper than"
        @change="set('not_deeper_than', $event || null, $event ? `not deeper than ${$event}` : 'any depth')"
      >
        <ElOption v-for="name in others" :key="name" :value="name" :label="name" />
      </ElSelect>
      <span>As deep as</span>
      <ElSelect
        size="small"
        clearable
        :model-value="plan.as_deep_as ?? ''"
        placeholder="any depth"
        :disabled="off"
        aria-label="As deep as"
        @change="set('as_deep_as', $event || null, $event ? `as deep as ${$event}` : 'any depth')"
      >
        <ElOption v-for="name in others" :key="name" :value="name" :label="name" />
      </ElSelect>
    </div>
    <HaunchesPart
      v-if="group.haunch || plan.haunch_lengths?.length || plan.haunch_depths?.length"
      :group="group.name"
      :now="group.haunch"
      :off="off"
    />
    <div v-if="group.splits.length || apart.length" class="field-grid">
      <span>Split {{ group.of === group.name ? '' : `${group.of} ` }}by</span>
      <ElSelect
        size="small"
        multiple
        collapse-tags
        clearable
        :model-value="apart"
        placeholder="one group"
        :disabled="off"
        aria-label="Split by"
        @change="split($event)"
      >
        <ElOption v-for="s in group.splits" :key="s.by" :value="s.by" :label="s.by" />
      </ElSelect>
      <ElButton
        v-if="unsplit.length"
        class="wide"
        size="small"
        :disabled="off || study.runs"
        title="Each split is sized by itself, as a study of set-outs"
        @click="tell"
        >What would splitting save?</ElButton
      >
    </div>
    <ElCollapse class="folds">
      <ElCollapseItem :title="targets">
        <TargetsPart :group="group.name" :off="off" />
      </ElCollapseItem>
      <ElCollapseItem :title="plan.plates ? 'Welded of plates' : 'Welded of plates, none'">
        <PlatesPart :group="group.name" :off="off" />
      </ElCollapseItem>
    </ElCollapse>
    <p class="note">
      <ElButton v-if="group.own" size="small" :disabled="off" @click="scatter">Take this group apart</ElButton>
      <ElButton v-if="picked.length > 1" size="small" :disabled="off" @click="gather"
        >Group the {{ picked.length }} chosen members</ElButton
      >
    </p>
  </template>
</template>

<style scoped>
small {
  color: var(--ink-2);
}
.wide {
  grid-column: 1 / -1;
  justify-self: start;
}
</style>
