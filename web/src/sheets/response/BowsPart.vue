<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { added, removed, replaced, type Change } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'
import PickList from '../../components/PickList.vue'
import CellInput from '../../components/CellInput.vue'

/** Bow imperfections of members, asked for one by one. */
const bench = useWorkbench()
type Bow = Schemas['BowInput']
const bows = computed<readonly Bow[]>(() => bench.document?.analysis.bows ?? [])
const order = computed(() => bench.document?.analysis.order ?? 'first')
const wrong = ref('')
const SENSES: { value: Bow['sense']; label: string }[] = [
  { value: 'as it bends', label: 'as it bends' },
  { value: '+', label: '+' },
  { value: '-', label: '−' },
]
const names = computed(() => new Map(bench.chain?.members?.map((m) => [m.name, m.label])))

async function put(words: string, changes: Change[]) {
  wrong.value = ''
  if (!(await bench.edit(words, changes))) wrong.value = bench.refusal?.message ?? ''
}
async function add(about: 'y' | 'z') {
  const there = new Set(bows.value.filter((b) => b.about === about).map((b) => b.member))
  const fresh = bench.picked.map((m) => m.name).filter((name) => !there.has(name))
  if (fresh.length)
    await put(
      `Bow about ${about}, ${fresh.length === 1 ? fresh[0] : `${fresh.length} members`}`,
      added('analysis.bows', ...fresh.map((member): Bow => ({ member, about, ratio: null, sense: 'as it bends' }))),
    )
}
async function change(i: number, values: Partial<Bow>) {
  await put(
    `Bow of ${bows.value[i]!.member}`,
    replaced('analysis.bows', bows.value[i], { ...bows.value[i], ...values }),
  )
}
async function ratio(i: number, typed: string) {
  const text = typed.replace(/^L\s*\//, '')
  const value = text ? Number(text.replace(',', '.')) : null
  if (value !== null && !Number.isFinite(value)) wrong.value = `“${text}” is not a number: L/e0, 250 for instance.`
  else await change(i, { ratio: value })
}
</script>

<template>
  <h4>
    Bow imperfections <span>{{ bows.length || 'none' }}</span>
  </h4>
  <p v-if="bows.length && order === 'first'" class="note">
    They act in second order only; the analysis is of first order.
  </p>
  <ul v-if="bows.length" class="bows">
    <li v-for="(b, i) in bows" :key="`${b.member} ${b.about}`">
      <ElButton link type="primary" size="small" class="name" :title="b.member" @click="bench.select(b.member, true)">
        {{ names.get(b.member) ?? `${b.member}, not there now` }}
      </ElButton>
      <span>about {{ b.about }}</span>
      <label title="L/e0; empty: by the buckling curve, EN 1993-1-1 table 5.1, elastic analysis"
        >L/<CellInput
          :value="b.ratio ?? ''"
          placeholder="curve"
          :label="`L/e0 of ${b.member}`"
          @commit="(text) => ratio(i, text)"
      /></label>
      <PickList
        :model-value="b.sense"
        :options="SENSES"
        :label="`Sense of the bow of ${b.member}`"
        title="Along + or − of its local axis, or in the sense in which each combination bends it"
        @update:model-value="(sense) => change(i, { sense })"
      />
      <ElButton
        link
        type="primary"
        size="small"
        :aria-label="`No bow of ${b.member}`"
        @click="put(`No bow of ${b.member}`, removed('analysis.bows', b))"
      >
        ×
      </ElButton>
    </li>
  </ul>
  <p class="buttons">
    <ElButton
      size="small"
      :disabled="!bench.picked.length"
      title="EN 1993-1-1 5.3.2(6): slender members under compression with moment-resisting ends"
      @click="add('y')"
    >
      Chosen, about y
    </ElButton>
    <ElButton size="small" :disabled="!bench.picked.length" @click="add('z')">about z</ElButton>
  </p>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
.bows {
  list-style: none;
  margin: 2px 12px;
  padding: 0;
  font: 500 12px var(--condensed);
}
.bows li {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 2px 0;
}
.name {
  flex: 1;
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bows .el-input {
  width: 62px;
}
.bows .el-select {
  width: 104px;
}
</style>
