<script setup lang="ts">
import { ElButton, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import { named, unnamed, type Change } from '../lib/changes'
import { readFactors } from '../lib/combinations'
import { useWorkbench } from '../stores/workbench'

/** Combinations of one's own: written as a formula, copied from a generated one, changed in place; for one use or for several. */
defineProps<{ uses: readonly (readonly [string, string, string])[] }>()
const bench = useWorkbench()
const own = computed(() => bench.lists.combinations.filter((c) => c.own))
const shown = computed(() => bench.chain?.combinations?.find((c) => c.name === bench.state))
const stated = computed(() => bench.stated.combinations)
const name = ref('')
const use = ref<string[]>(['strength'])
const factors = ref('')
const wrong = ref('')
const there = computed(() => stated.value.some((c) => c.name === name.value.trim()))
async function put() {
  const found = readFactors(factors.value, bench.lists.cases)
  const words = name.value.trim()
  wrong.value =
    typeof found === 'string'
      ? found
      : !words
        ? 'The combination needs a name.'
        : !use.value.length
          ? 'Say what it is used for.'
          : ''
  if (wrong.value || typeof found === 'string') return
  const items = use.value.map((one, i) => ({ name: i ? `${words}, ${one}` : words, use: one, factors: found }))
  const changes: Change[] = items.flatMap((item) => named('combinations', stated.value, item as never))
  // what is written next must not be wiped when the answer comes; what was refused comes back
  const typed = factors.value
  name.value = factors.value = ''
  wrong.value = ''
  const done = await bench.edit(`Combination ${words}`, changes)
  if (!done) wrong.value = bench.refusal?.message ?? ''
  if (!done && !name.value) [name.value, factors.value] = [words, typed]
}
/** A combination as it is written here; sway imperfections are added by themselves. */
const plainly = (of: (typeof own.value)[number]) =>
  of.factors
    .map(([i, factor]) => ({ case: bench.lists.cases[i]!, factor }))
    .filter((term) => term.case.nature !== 'imperfection')
    .map((term) => `${term.factor === 1 ? '' : `${Number(term.factor.toPrecision(12))} `}${term.case.symbol}`)
    .join(' + ')
function copy() {
  const from = shown.value
  if (!from) return
  const taken = new Set(bench.lists.combinations.map((c) => c.name))
  let n = 1
  while (taken.has(`${from.name} changed ${n}`)) n++
  name.value = `${from.name} changed ${n}`
  use.value = [from.use]
  factors.value = plainly(from)
}
function change(key: string) {
  const found = own.value.find((c) => c.name === key)
  if (!found) return
  name.value = found.name
  use.value = [found.use]
  factors.value = plainly(found)
}
const drop = (gone: string) => bench.edit(`Combination ${gone} dropped`, unnamed('combinations', stated.value, gone))
</script>

<template>
  <h4>
    Own combination
    <ElButton v-if="shown && !shown.own" link size="small" @click="copy">copy {{ shown.name }} here</ElButton>
  </h4>
  <div class="load-grid">
    <span>Name</span>
    <ElInput v-model="name" size="small" aria-label="Name of the combination" placeholder="Crane stop" />
    <span>For</span>
    <ElSelect v-model="use" size="small" multiple collapse-tags aria-label="Uses of the combination">
      <ElOption v-for="[key, words] in uses" :key="key" :value="key" :label="words" />
    </ElSelect>
    <span title="Cases by their symbol or name: 1.35 G1 + 1.35 G2 + 1.2 S1">Factors</span>
    <ElInput
      v-model="factors"
      size="small"
      aria-label="Factors of the combination"
      placeholder="1.35 G1 + 1.2 S1"
      @keydown.enter="put"
    />
  </div>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <p class="note">
    <ElButton size="small" :disabled="!bench.mayChange" @click="put">{{
      there ? 'Change the combination' : 'Add the combination'
    }}</ElButton>
  </p>
  <ul class="load-list">
    <li v-for="c in own" :key="c.name" :class="{ fails: c.use === 'lost' }">
      <b>{{ c.name }}</b><span class="mono" :title="c.use">{{ c.formula }}</span>
      <ElButton v-if="c.use !== 'lost'" link size="small" :title="`Change ${c.name}`" @click="change(c.name)"
        >change</ElButton
      >
      <ElButton link size="small" :title="`Drop ${c.name}`" @click="drop(c.name)">×</ElButton>
    </li>
  </ul>
</template>
