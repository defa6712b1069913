<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useList } from '../../api/queries'
import ChoiceField from '../../components/ChoiceField.vue'
import FoldPart from '../../components/FoldPart.vue'
import NumberField from '../../components/NumberField.vue'
import OfficeKept from '../../components/OfficeKept.vue'
import TextField from '../../components/TextField.vue'
import ToggleField from '../../components/ToggleField.vue'
import { shown } from '../../lib/quantity'
import { useWorkbench } from '../../stores/workbench'

type Item = Schemas['NationalValue']

const bench = useWorkbench()
const every = useList('/api/national', () => ({}))
const groups = computed(() => [...new Set(every.value.map((v) => v.group))])
const of = (group: string) => every.value.filter((v) => v.group === group)
/** The value at a path of the document, the recommended one where nothing is stated. */
function value(item: Item): unknown {
  const found = item.path
    .split('.')
    .reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], bench.document)
  return found === undefined ? item.recommended : found
}
const key = (item: Item) => item.path.replaceAll('.', '/')
const number = (item: Item) => value(item) as number | null
const changed = (item: Item) => value(item) !== item.recommended
const total = computed(() => every.value.filter(changed).length)
const differ = (group: string) => of(group).filter(changed).length
const written = (v: unknown) => (v === null ? 'not stated' : typeof v === 'number' ? shown(v) : String(v))
const hint = (item: Item) => `${item.words}; ${item.clause}; recommended: ${written(item.recommended)}`
const back = (item: Item) => bench.edit(`${item.symbol} as recommended`, [{ path: item.path, value: item.recommended }])
</script>

<template>
  <h4>National values</h4>
  <p class="note">
    {{
      total
        ? `${total} ${total === 1 ? 'differs' : 'differ'} from the recommended ones.`
        : 'All as the standards recommend.'
    }}
  </p>
  <OfficeKept kind="national" />
  <TextField
    label="They are from"
    path="national.source"
    :written="bench.document?.national?.source ?? ''"
    hint="National annex, memo, client: where values that differ come from"
  />
  <FoldPart v-for="group in groups" :key="group" class="nation"
    ><template #title
      >{{ of(group)[0]?.heading }}<b v-if="differ(group)">{{ differ(group) }} changed</b></template
    >
    <div v-for="item in of(group)" :key="item.path" :class="{ changed: changed(item) }">
      <ToggleField
        v-if="typeof item.recommended === 'boolean'"
        :label="`${item.symbol}: ${item.words}`"
        :path="item.path"
        :value="value(item)"
        :hint="hint(item)"
      />
      <ChoiceField
        v-else-if="item.choices.length"
        :label="item.symbol"
        :path="item.path"
        :value="String(value(item))"
        :options="item.choices.map((c) => ({ value: c, label: c }))"
        :hint="hint(item)"
      />
      <NumberField
        v-else
        :label="item.symbol"
        :path="item.path"
        kind="factor"
        :value="number(item)"
        :optional="item.recommended === null ? 'by rule' : ''"
        :hint="hint(item)"
      />
      <p class="what">
        {{ item.words }} · {{ item.clause
        }}<ElButton v-if="changed(item)" link type="primary" size="small" @click="back(item)">
          recommended {{ written(item.recommended) }}
        </ElButton>
      </p>
      <TextField
        v-if="changed(item)"
        label="Its source"
        :path="`national.sources.${key(item)}`"
        :written="bench.document?.national?.sources?.[key(item)] ?? ''"
        hint="Where this value comes from, if not from what is stated above for all"
      />
    </div>
  </FoldPart>
</template>

<style scoped>
.nation {
  border-top: 1px solid var(--line);
}
.nation b {
  margin-left: 8px;
  font-weight: 500;
  color: var(--ink-2);
}
.what {
  margin: 0 12px 5px;
  font: 400 11px var(--condensed);
  color: var(--ink-2);
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.what button {
  white-space: nowrap;
}
.changed :deep(.el-input__wrapper),
.changed :deep(.el-select__wrapper) {
  border-color: var(--behind);
  background: #fbf3e2;
}
</style>
