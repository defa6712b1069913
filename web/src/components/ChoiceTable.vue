<script setup lang="ts">
/** One of many, chosen from a list in sight: by a click, by the arrow keys, taken by a double click or Enter. */
import { ElTable, ElTableColumn, type TableInstance } from 'element-plus'
import { nextTick, ref, watch } from 'vue'

interface Choice {
  key: string
  cells: [string, string]
}
const props = defineProps<{ rows: Choice[]; label: string; height: number }>()
const emit = defineEmits<{ take: [] }>()
const chosen = defineModel<string>({ required: true })
const table = ref<TableInstance>()

watch(
  () => [chosen.value, props.rows] as const,
  async ([key, rows]) => {
    await nextTick()
    const at = rows.findIndex((row) => row.key === key)
    table.value?.setCurrentRow(rows[at])
    await nextTick()
    const body = table.value?.$el as HTMLElement | undefined
    body?.querySelectorAll('tbody tr')[at]?.scrollIntoView({ block: 'nearest' })
  },
  { immediate: true },
)
function step(by: number) {
  const next = props.rows[props.rows.findIndex((row) => row.key === chosen.value) + by]
  if (next) chosen.value = next.key
}
</script>

<template>
  <div
    class="choices"
    role="group"
    tabindex="0"
    :aria-label="`${label}: ${chosen}`"
    @keydown.down.prevent="step(1)"
    @keydown.up.prevent="step(-1)"
    @keydown.enter.prevent="emit('take')"
  >
    <ElTable
      ref="table"
      :data="rows"
      row-key="key"
      :height="height"
      size="small"
      :show-header="false"
      highlight-current-row
      empty-text=" "
      @row-click="(row: Choice) => (chosen = row.key)"
      @row-dblclick="emit('take')"
    >
      <ElTableColumn v-slot="{ row }"
        ><b>{{ row.cells[0] }}</b> {{ row.cells[1] }}</ElTableColumn
      >
    </ElTable>
  </div>
</template>

<style scoped>
.choices {
  border: 1px solid var(--line);
}
b {
  font-weight: 500;
}
</style>
