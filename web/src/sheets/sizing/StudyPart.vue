<script setup lang="ts">
import { ElButton, ElCheckbox, ElCheckboxGroup, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, reactive, watch } from 'vue'
import { numbers } from '../../lib/numbers'
import { useStudy, type Quantity } from '../../stores/study'
import { useWorkbench } from '../../stores/workbench'

/** What a study varies: numbers as a list or from, to, step; kinds by choosing them. */
const bench = useWorkbench()
const study = useStudy()
const quantities = computed(() => study.state?.quantities ?? [])
/** More options than these are a list. */
const MANY = 5
const texts = reactive<Record<string, string>>({})
const kinds = reactive<Record<string, string[]>>({})
watch(
  () => bench.project?.id,
  () => {
    for (const of of [texts, kinds]) for (const key of Object.keys(of)) delete of[key]
  },
)
const ranges = computed(() => {
  const found: Record<string, (number | string)[]> = {}
  for (const q of quantities.value) {
    const values = q.options.length ? kinds[q.key] : texts[q.key]?.trim() ? numbers(texts[q.key]!) : []
    if (values?.length) found[q.key] = values
  }
  return found
})
const wrong = (q: Quantity) => !!texts[q.key]?.trim() && !numbers(texts[q.key]!)
const count = computed(() => Object.values(ranges.value).reduce((n, v) => n * v.length, 1))
const bad = computed(() => quantities.value.some(wrong))
const leftOut = computed(() => study.base?.left_out ?? '')
const off = computed(() => !bench.mayChange || !!bench.chain?.problem)
/** Values about what it is now. */
function example(q: Quantity): string {
  const v = typeof q.now === 'number' ? q.now : 0
  if (!v) return 'none yet'
  const step = Number.isInteger(v) ? Math.max(1, Math.round(v / 8)) : +(v / 8).toPrecision(1)
  return [v - step, v, v + step].map((x) => +x.toFixed(2)).join(', ')
}
const now = (q: Quantity) => (q.now === null || q.now === undefined ? '' : `${q.now}`)
</script>

<template>
  <p class="note">
    Each set-out is generated, loaded, analysed and sized by itself, as the groups may be sized now. Nothing changes
    until one is taken. Masses and costs are of the steel with its cold-formed purlins and rails; what held bases ask of
    footings is not in them{{ leftOut ? `, nor ${leftOut}, whose weight is not known` : '' }}.
  </p>
  <p class="note buttons">
    <ElButton v-if="study.runs" @click="study.stop()"
      >Stop · {{ study.state?.done }} of {{ study.points.length }}</ElButton
    >
    <template v-else>
      <ElButton
        type="primary"
        :disabled="off || bad || !Object.keys(ranges).length || count > 200"
        @click="study.start(ranges)"
        >Size {{ Object.keys(ranges).length ? count : '' }} set-outs</ElButton
      >
      <ElButton :disabled="off || !quantities.length" title="One thing changed at a time" @click="study.start()"
        >Try what may help</ElButton
      >
    </template>
  </p>
  <p v-if="count > 200" class="note wrong" role="alert">{{ count }} set-outs are more than 200: take fewer values.</p>
  <h4>
    Vary <span>{{ quantities.length ? 'every combination is sized' : '' }}</span>
  </h4>
  <div class="field-grid">
    <template v-for="q in quantities" :key="q.key">
      <label :for="`vary-${q.key}`"
        >{{ q.words }}<small>{{ q.unit }} now {{ now(q) || 'none' }}</small></label
      >
      <ElSelect
        v-if="q.options.length > MANY"
        :model-value="kinds[q.key] ?? []"
        size="small"
        multiple
        collapse-tags
        clearable
        filterable
        :disabled="off"
        :aria-label="q.words"
        placeholder="choose"
        @update:model-value="kinds[q.key] = $event"
      >
        <ElOption v-for="o in q.options" :key="o" :value="o" :label="o" />
      </ElSelect>
      <ElCheckboxGroup
        v-else-if="q.options.length"
        :model-value="kinds[q.key] ?? []"
        size="small"
        :disabled="off"
        :aria-label="q.words"
        @update:model-value="kinds[q.key] = $event as string[]"
      >
        <ElCheckbox v-for="o in q.options" :key="o" :value="o" :label="o" />
      </ElCheckboxGroup>
      <span v-else>
        <ElInput
          :id="`vary-${q.key}`"
          size="small"
          :model-value="texts[q.key] ?? ''"
          :disabled="off"
          :placeholder="example(q)"
          :aria-invalid="wrong(q)"
          @update:model-value="texts[q.key] = $event"
        />
        <small v-if="wrong(q)" class="wrong" role="alert">A list, or “4 to 8 by 1”.</small>
      </span>
    </template>
  </div>
  <p v-if="study.points.length && !study.state?.stands" class="note wrong">
    Found for revision {{ study.state?.revision }}; the model has changed since, or Lorica was renewed. Size the
    set-outs again to take one.
  </p>
</template>

<style scoped>
small {
  display: block;
  font-size: 11px;
  color: var(--ink-2);
}
.field-grid :deep(.el-checkbox) {
  margin-right: 8px;
  height: 22px;
}
.wrong,
small.wrong {
  color: var(--oxide);
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.buttons :deep(.el-button) {
  margin: 0;
}
</style>
