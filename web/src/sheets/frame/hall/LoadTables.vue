<script setup lang="ts">
/** What purlins and rails bear, by tables of their maker or of the office: taken in as CSV, shown, given out. */
import { ElButton, ElUpload, type UploadRawFile } from 'element-plus'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../../../api/client'
import OfficeKept from '../../../components/OfficeKept.vue'
import { named, unnamed } from '../../../lib/changes'
import { told } from '../../../people/roles'
import { useWorkbench } from '../../../stores/workbench'

type LoadTable = Schemas['LoadTable']

const bench = useWorkbench()
const tables = computed<LoadTable[]>(() => bench.stated.load_tables)
const open = ref('')
const wrong = ref('')

/** The file is read here; nothing is uploaded by the control itself. */
function chosen(file: UploadRawFile): false {
  void take(file)
  return false
}
async function take(file: File) {
  const { data, error } = await api.POST('/api/load-tables', { body: { text: await file.text() } })
  wrong.value = data ? '' : told(error)
  if (!data) return
  const words = data.length === 1 ? `Table ${data[0]!.name}` : `${data.length} tables`
  wrong.value = ''
  const done = await bench.edit(
    `${words} imported`,
    data.flatMap((table) => named('load_tables', tables.value, table)),
  )
  if (!done) wrong.value = bench.refusal?.message ?? ''
}
function drop(table: LoadTable) {
  void bench.edit(`Table ${table.name} deleted`, unnamed('load_tables', tables.value, table.name))
}
</script>

<template>
  <h5>Tables <span>what they bear, design values</span></h5>
  <p v-if="!tables.length" class="note">
    Import a CSV with the columns profile, span (m), spans (1, 2, 3 for more), down, up, service (kN/m), stiffness (E I,
    kNm²), moment (kNm, at a stay), source, held.
  </p>
  <template v-for="t in tables" :key="t.name">
    <p class="row">
      <ElButton
        link
        size="small"
        :aria-expanded="open === t.name"
        :title="t.held ? `Held: ${t.held}` : ''"
        @click="open = open === t.name ? '' : t.name"
        >{{ t.name }}</ElButton
      >
      <small>{{ t.source || 'source not stated' }}</small>
      <ElButton
        v-if="bench.mayChange"
        link
        type="primary"
        size="small"
        :aria-label="`Delete ${t.name}`"
        @click="drop(t)"
        >Delete</ElButton
      >
    </p>
    <p v-if="open === t.name && t.stiffness" class="note">
      E I = {{ t.stiffness.toFixed(0) }} kNm²<template v-if="t.moment">, M_Rd = {{ t.moment.toFixed(1) }} kNm</template
      >: what stays lead to
    </p>
    <table v-if="open === t.name" class="plain">
      <thead>
        <tr>
          <th>span m</th>
          <th>in line</th>
          <th>down</th>
          <th>up</th>
          <th>service kN/m</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in t.rows" :key="i">
          <td>{{ r.span }}</td>
          <td>{{ r.spans === 3 ? '3 +' : (r.spans ?? 1) }}</td>
          <td>{{ r.down.toFixed(2) }}</td>
          <td>{{ r.up.toFixed(2) }}</td>
          <td>{{ r.service ? r.service.toFixed(2) : '–' }}</td>
        </tr>
      </tbody>
    </table>
  </template>
  <p v-if="bench.mayChange" class="buttons">
    <ElUpload accept=".csv,text/csv" :show-file-list="false" :before-upload="chosen">
      <ElButton size="small">Import CSV…</ElButton>
    </ElUpload>
    <ElButton
      v-if="tables.length"
      size="small"
      tag="a"
      :href="`/api/projects/${bench.project?.id}/load-tables`"
      download
      >Export CSV</ElButton
    >
  </p>
  <OfficeKept kind="tables" />
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
</template>

<style scoped>
h5 {
  margin: 10px 12px 2px;
  font: 600 12.5px var(--condensed);
}
h5 span {
  font-weight: 400;
  color: var(--ink-2);
}
.row {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin: 0 12px;
}
.row small {
  flex: 1;
  color: var(--ink-2);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
td,
th {
  padding: 1px 8px;
  text-align: right;
  border-bottom: 1px solid var(--line);
}
</style>
