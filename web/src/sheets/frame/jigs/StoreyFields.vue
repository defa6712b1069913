<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../../api/client'
import ChoiceField from '../../../components/ChoiceField.vue'
import FoldPart from '../../../components/FoldPart.vue'
import NumberField from '../../../components/NumberField.vue'
import SectionField from '../../../components/SectionField.vue'
import TypedField from '../../../components/TypedField.vue'
import { added } from '../../../lib/changes'
import { readStoreys, storeyChanges, writeStoreys } from '../../../lib/storeys'
import { useWorkbench } from '../../../stores/workbench'

/** The storeys above a floor: their heights in one entry, and what each says for itself. */
const props = defineProps<{ jig: Schemas['FloorJig']; path: string }>()
const bench = useWorkbench()
const storeys = computed(() => props.jig.storeys)
const list = computed(() => `${props.path}.storeys`)
async function post(text: string): Promise<string> {
  const found = readStoreys(text, props.jig.level)
  if (typeof found === 'string') return found
  const changes = storeyChanges(list.value, storeys.value, found.value)
  if (!changes.length) return ''
  const done = await bench.edit(`Storeys above ${props.jig.name}: ${text}`, changes)
  return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
}
const more = () => {
  const { height } = storeys.value.at(-1) ?? { height: props.jig.level }
  void bench.edit(`One more storey on ${props.jig.name}`, added(list.value, { height: height ?? 3.5 }))
}
const tops = computed(() => {
  let at = props.jig.level
  return storeys.value.map((s) => (at += s.height ?? 3.5))
})
const CATEGORIES = [
  { value: '', label: 'as the first' },
  ...['A', 'B', 'C', 'D', 'E', 'F', 'G'].map((value) => ({ value, label: value })),
]
const SECTIONS = ['columns', 'main_beams', 'joists'] as const
</script>

<template>
  <TypedField
    label="Storeys above"
    :written="writeStoreys(storeys)"
    :post="post"
    hint="Heights above the floor below: 3*3.5 + 4; or so many up to a level: 3 to 14.5"
  />
  <p class="note">
    <ElButton size="small" :disabled="!bench.mayChange" @click="more">One more storey</ElButton>
    <span v-if="tops.length">{{ tops.length + 1 }} levels, up to {{ tops.at(-1)!.toFixed(2) }} m</span>
  </p>
  <FoldPart v-if="storeys.length" class="each" title="Storeys one by one">
    <template v-for="(s, k) in storeys" :key="k">
      <h5>
        {{ jig.name }}/{{ k + 2 }} <span>{{ tops[k]!.toFixed(2) }} m</span>
      </h5>
      <NumberField label="Height" :path="`${list}.${k}.height`" kind="length" :value="s.height" />
      <NumberField
        label="Permanent"
        :path="`${list}.${k}.permanent`"
        kind="pressure"
        :value="s.permanent"
        optional="as first"
      />
      <NumberField
        label="Imposed"
        :path="`${list}.${k}.imposed`"
        kind="pressure"
        :value="s.imposed"
        optional="as first"
      />
      <ChoiceField label="Category" :path="`${list}.${k}.category`" :value="s.category ?? ''" :options="CATEGORIES" />
      <SectionField
        v-for="key in SECTIONS"
        :key="key"
        :label="key.replace('_', ' ')"
        :path="`${list}.${k}.${key}`"
        :value="s[key] ?? ''"
      />
    </template>
  </FoldPart>
</template>

<style scoped>
.field :deep(.el-input__inner) {
  font-family: var(--mono);
}
.note span {
  margin-left: 8px;
}
.each {
  margin: 0 0 6px;
}
h5 {
  margin: 6px 12px 2px;
  font: 500 12px var(--condensed);
}
h5 span {
  font-weight: 400;
  color: var(--ink-2);
}
</style>
