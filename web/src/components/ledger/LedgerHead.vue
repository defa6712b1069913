<script setup lang="ts">
/** Which table the ledger shows, what of it, and how it goes out. */
import { ElButton, ElCheckbox, ElInput, ElPopover, ElTabPane, ElTabs } from 'element-plus'
import { computed } from 'vue'
import type { Row, Table } from '../../lib/ledgerTypes'
import type { Tab } from '../../lib/ledger'
import { useOut } from '../../lib/ledgerOut'
import { usePlacedTable } from '../../lib/placedView'
import { useWorkbench } from '../../stores/workbench'

const props = defineProps<{ tabs: readonly Tab[]; table: Table; rows: Row[]; off: Set<string>; folded: boolean }>()
defineEmits<{ column: [name: string]; fold: [] }>()
const tab = defineModel<Tab>('tab', { required: true })
const query = defineModel<string>('query', { required: true })
const wrong = defineModel<string>('wrong', { required: true })
const bench = useWorkbench()
const {
  now: placed,
  there,
  toggle,
} = usePlacedTable(
  () => tab.value,
  () => query.value,
)
const { said, copied, copy, download, downloadSheet } = useOut(
  tab,
  computed(() => props.table),
  computed(() => props.rows),
)
</script>

<template>
  <div class="tabs">
    <ElTabs v-model="tab" class="names">
      <ElTabPane v-for="t in tabs" :key="t" :name="t" :label="t" />
    </ElTabs>
    <span v-if="wrong" class="refused" role="alert"
      >{{ wrong }} <ElButton link type="primary" size="small" @click="wrong = ''">×</ElButton></span
    >
    <span v-if="bench.stale" class="stale">of revision {{ bench.chain?.revision }}</span>
    <ElInput
      v-model="query"
      class="filter"
      size="small"
      clearable
      aria-label="Filter the ledger"
      placeholder="filter: util > 0.9"
      title="Words that must all be there; on one column: section: ipe, length > 10"
    />
    <ElPopover trigger="click" placement="bottom-end" :width="200">
      <template #reference>
        <ElButton link type="primary" size="small" title="Columns that are shown">columns</ElButton>
      </template>
      <ElCheckbox
        v-for="(h, j) in table.head"
        :key="j"
        size="small"
        :model-value="!off.has(h.text)"
        :disabled="!j"
        @change="$emit('column', h.text)"
        >{{ said[j] }}</ElCheckbox
      >
    </ElPopover>
    <span class="mono count">{{ rows.length }}</span>
    <ElButton link type="primary" size="small" @click="copy">{{ copied ? 'copied' : 'copy' }}</ElButton>
    <ElButton link type="primary" size="small" title="Save the table as a CSV file" @click="download">CSV</ElButton>
    <ElButton link type="primary" size="small" title="Save the table as a spreadsheet" @click="downloadSheet"
      >spreadsheet</ElButton
    >
    <ElButton
      v-if="bench.mayChange"
      link
      type="primary"
      size="small"
      class="placed"
      aria-label="in dossier: this table"
      :aria-pressed="there"
      :title="`${there ? 'Stands' : 'Put this table'} in the dossier, made anew in each revision: ${placed.placed.name}`"
      @click="toggle"
      >in dossier</ElButton
    >
    <ElButton link type="primary" size="small" :aria-expanded="!folded" @click="$emit('fold')">{{
      folded ? 'unfold' : 'fold'
    }}</ElButton>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 3px 12px 0;
  border-bottom: 1px solid var(--line);
  flex: none;
}
.filter {
  margin-left: auto;
  width: 158px;
}
.placed[aria-pressed='true'] {
  font-weight: 700;
  text-decoration: underline;
}
.count {
  font-size: 11px;
  color: var(--ink-2);
  min-width: 28px;
  text-align: right;
}
.stale {
  color: #7d5a12;
  font: 500 12px var(--condensed);
  padding-left: 10px;
}
.refused {
  color: var(--oxide);
  font: 400 12px var(--condensed);
}
.names {
  flex: 0 1 auto;
  min-width: 0;
  --el-tabs-header-height: 28px;
}
.names :deep(.el-tabs__header) {
  margin: 0;
}
.names :deep(.el-tabs__nav-wrap::after) {
  display: none;
}
.names :deep(.el-tabs__item) {
  font: 500 12.5px var(--condensed);
  height: 28px;
  padding: 0 12px;
}
.names :deep(.el-tabs__content) {
  display: none;
}
</style>
