<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { added, removed } from '../../lib/changes'
import { craneCases, type Wheels } from '../../lib/craneCases'
import { parseQuantity } from '../../lib/quantity'
import { useWorkbench } from '../../stores/workbench'

/** Cases of a crane where its brackets are chosen, from what it presses and pushes with. */
const bench = useWorkbench()
const wrong = ref('')
const typed = reactive<Record<keyof Wheels, string>>({ most: '', least: '', across: '' })
const FIELDS: { key: keyof Wheels; label: string; hint: string; optional: string }[] = [
  {
    key: 'most',
    label: 'Most on one rail',
    hint: 'With the crab nearest, dynamic factors within · EN 1991-3 2.6',
    optional: '90',
  },
  {
    key: 'least',
    label: 'At once on the other',
    hint: 'With the crab nearest to the first, dynamic factors within',
    optional: '30',
  },
  {
    key: 'across',
    label: 'Across, both rails',
    hint: 'Acceleration, braking or skew, half on each rail. Empty: none',
    optional: 'none',
  },
]
/** Frames of each pair of rails whose nodes a chosen member has. */
const places = computed(() => {
  const chosen = new Set(bench.picked.flatMap((m) => m.line))
  return bench.lists.crane_rails
    .map((rails) => ({
      rails,
      at: rails.pairs.flatMap((pair, k) => (pair.some((n) => chosen.has(n)) ? [k] : [])),
    }))
    .filter((p) => p.at.length)
})
const frames = computed(() => places.value.reduce((sum, p) => sum + p.at.length, 0))

async function make() {
  const wheels: Wheels = { most: 0, least: 0, across: 0 }
  for (const { key, label } of FIELDS) {
    const value = typed[key].trim() ? parseQuantity(typed[key], 'factor') : 0
    wrong.value =
      typeof value === 'string' ? `${label}: ${value}` : value < 0 ? `${label}: it acts both ways by itself.` : ''
    if (wrong.value) return
    wheels[key] = value as number
  }
  if (!wheels.most) {
    wrong.value = 'State what the crane presses on one rail with.'
    return
  }
  const force = bench.document?.units === 'N, m' ? 1000 : 1
  const found = places.value.map(({ rails, at }) => craneCases(rails, at, wheels, bench.lists.node_names, force))
  const cases = found.flatMap((f) => f.cases)
  // made once more they bear other loads
  const names = new Set(cases.map((c) => c.name))
  const known = new Set(bench.document?.cases?.map((c) => c.name))
  const done = await bench.edit(`${cases.length} cases of cranes`, [
    ...removed('node_loads', ...(bench.document?.node_loads ?? []).filter((l) => names.has(l.case))),
    ...added('cases', ...cases.filter((c) => !known.has(c.name))),
    ...added('node_loads', ...found.flatMap((f) => f.loads)),
  ])
  wrong.value = done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
}
</script>

<template>
  <template v-if="bench.mayChange && bench.lists.crane_rails.length">
    <h4>Crane on its rails <span>kN at one frame</span></h4>
    <div class="load-grid">
      <template v-for="f in FIELDS" :key="f.key">
        <span :title="f.hint">{{ f.label }}</span>
        <ElInput v-model="typed[f.key]" size="small" :aria-label="f.label" :placeholder="f.optional" autocomplete="off">
          <template #suffix>kN</template>
        </ElInput>
      </template>
    </div>
    <p class="note">
      <ElButton size="small" :disabled="!frames" @click="make">
        {{ frames ? `Cases at ${frames} ${frames === 1 ? 'frame' : 'frames'}` : 'Choose brackets where it stands' }}
      </ElButton>
    </p>
    <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  </template>
</template>
