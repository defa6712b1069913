<script setup lang="ts">
import { ElButton, ElDialog, ElInput, ElSegmented, ElTabPane, ElTable, ElTableColumn, ElTabs } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useDossier } from '../stores/dossier'
import { useWorkbench } from '../stores/workbench'
import ComparedResults from './ComparedResults.vue'

/** Questions, ticks and issues of the dossier. */
defineProps<{ folded: boolean }>()
defineEmits<{ fold: [] }>()
const bench = useWorkbench()
const dossier = useDossier()
const tab = ref<'questions' | 'seen' | 'since' | 'issues'>('questions')
type Question = Schemas['QuestionOut']
const questions = computed(() => dossier.state?.questions ?? [])
const issues = computed(() => dossier.state?.issues ?? [])
/** Which of them: those that somebody ticked, or those that nobody has as they stand. */
const which = ref<'ticked' | 'not yet'>('ticked')
const seen = computed(() =>
  dossier.sections.filter((s) => (which.value === 'ticked' ? s.seen.length || s.fallen.length : !s.seen.length)),
)
/** What differs from the last issue, section by section. */
const differ = computed(() => [
  ...dossier.sections
    .filter((s) => s.since)
    .map((s) => ({ anchor: s.anchor, title: `${s.number} ${s.title}`, page: `${s.page}`, since: s.since })),
  ...(dossier.state?.file?.gone ?? []).map((title) => ({ anchor: '', title, page: '', since: 'gone' })),
])
const ticked = computed(() => dossier.sections.filter((s) => s.seen.length).length)
const answering = ref<Question | null>(null)
const words = ref('')
type Issue = Schemas['IssueOut']
const beside = ref<Issue | null>(null)
const day = (at: string) =>
  new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
const at = computed(() => `/api/projects/${bench.project?.id}`)
const mayCheck = computed(() => !!bench.project && bench.project.role !== 'viewer')
function begin(q: Question) {
  answering.value = q
  words.value = q.answer
}
async function send() {
  const q = answering.value
  if (q && words.value.trim() && (await dossier.answer(q.number, { answer: words.value.trim() })))
    answering.value = null
}
</script>

<template>
  <section class="ledger" aria-label="Questions, ticks and issues">
    <ElButton class="bare fold" :aria-expanded="!folded" title="Fold the ledger" @click="$emit('fold')">
      {{ folded ? '▴' : '▾' }}
    </ElButton>
    <ElTabs v-model="tab">
      <ElTabPane :label="`Questions${dossier.open ? ` · ${dossier.open} open` : ''}`" name="questions">
        <ElTable v-if="!folded" :data="questions" size="small" height="100%" @row-click="(q) => dossier.go(q.anchor)">
          <ElTableColumn label="No." width="56"
            ><template #default="{ row }"
              ><b class="number">?{{ row.number }}</b></template
            ></ElTableColumn
          >
          <ElTableColumn label="Page" width="56"
            ><template #default="{ row }">{{ row.page || 'gone' }}</template></ElTableColumn
          >
          <ElTableColumn prop="title" label="On" min-width="150" show-overflow-tooltip />
          <ElTableColumn prop="text" label="Question" min-width="240" show-overflow-tooltip />
          <ElTableColumn label="Asked" width="150"
            ><template #default="{ row }">{{ row.author }} {{ day(row.created) }}</template></ElTableColumn
          >
          <ElTableColumn prop="answer" label="Answer" min-width="200" show-overflow-tooltip />
          <ElTableColumn label="State" width="190">
            <template #default="{ row }">
              <span :class="row.state">{{ row.state }}</span>
              <ElButton
                v-if="bench.mayChange && row.state !== 'closed'"
                size="small"
                text
                @click.stop="begin(row as Question)"
                >Answer</ElButton
              >
              <ElButton
                v-if="mayCheck && row.state !== 'closed'"
                size="small"
                text
                @click.stop="dossier.answer(row.number, { close: true })"
                >Close</ElButton
              >
            </template>
          </ElTableColumn>
          <template #empty>No questions. Choose a section and ask in its sheet.</template>
        </ElTable>
      </ElTabPane>
      <ElTabPane :label="`Seen ${ticked} of ${dossier.sections.length}`" name="seen">
        <ElSegmented
          v-if="!folded"
          v-model="which"
          class="which"
          size="small"
          aria-label="Which sections"
          :options="['ticked', 'not yet']"
        />
        <ElTable
          v-if="!folded"
          :data="seen"
          size="small"
          height="calc(100% - 30px)"
          @row-click="(s) => dossier.go(s.anchor)"
        >
          <ElTableColumn prop="number" label="No." width="80" />
          <ElTableColumn prop="page" label="Page" width="60" />
          <ElTableColumn prop="title" label="Section" min-width="240" />
          <ElTableColumn label="Seen as it stands" min-width="160"
            ><template #default="{ row }">{{ row.seen.join(', ') }}</template></ElTableColumn
          >
          <ElTableColumn label="Seen before it changed" min-width="160"
            ><template #default="{ row }">{{ row.fallen.join(', ') }}</template></ElTableColumn
          >
          <template #empty>{{
            which === 'ticked' ? 'Nothing is ticked yet.' : 'Everything is ticked as it stands.'
          }}</template>
        </ElTable>
      </ElTabPane>
      <ElTabPane v-if="issues.length" :label="`Since issue ${issues[0]!.number}: ${differ.length}`" name="since">
        <ElTable
          v-if="!folded"
          :data="differ"
          size="small"
          height="100%"
          @row-click="(s) => s.anchor && dossier.go(s.anchor)"
        >
          <ElTableColumn prop="title" label="Section" min-width="300" />
          <ElTableColumn prop="page" label="Page" width="80" />
          <ElTableColumn prop="since" label="Beside the issue" min-width="140" />
          <template #empty>The dossier says what issue {{ issues[0]!.number }} says.</template>
        </ElTable>
      </ElTabPane>
      <ElTabPane :label="`Issues ${issues.length}`" name="issues">
        <ElTable v-if="!folded" :data="issues" size="small" height="100%">
          <ElTableColumn prop="number" label="No." width="60" />
          <ElTableColumn prop="purpose" label="Purpose" min-width="120" />
          <ElTableColumn prop="revision" label="Revision" width="90" />
          <ElTableColumn prop="pages" label="Pages" width="80" />
          <ElTableColumn label="Issued" min-width="160"
            ><template #default="{ row }">{{ row.author }}, {{ day(row.created) }}</template></ElTableColumn
          >
          <ElTableColumn label="Files" min-width="160"
            ><template #default="{ row }"
              ><a :href="`${at}/issues/${row.number}/pdf`" download>PDF</a>
              <a :href="`${at}/issues/${row.number}/document`">Model (JSON)</a></template
            ></ElTableColumn
          >
          <ElTableColumn label="Beside what stands" width="150"
            ><template #default="{ row }"
              ><ElButton size="small" text @click="beside = row as Issue">Compare</ElButton></template
            ></ElTableColumn
          >
          <template #empty>Nothing was issued yet.</template>
        </ElTable>
      </ElTabPane>
    </ElTabs>
    <ElDialog
      :model-value="!!beside"
      :title="`Issue ${beside?.number}, revision ${beside?.revision}, beside revision ${bench.project?.revision.number}`"
      width="620"
      @close="beside = null"
    >
      <div class="beside"><ComparedResults v-if="beside" :before="beside.revision" /></div>
    </ElDialog>
    <ElDialog
      :model-value="!!answering"
      :title="`Answer to ?${answering?.number}`"
      width="480"
      @close="answering = null"
    >
      <p>{{ answering?.text }}</p>
      <ElInput v-model="words" type="textarea" :autosize="{ minRows: 3 }" maxlength="2000" aria-label="Answer" />
      <template #footer>
        <ElButton @click="answering = null">Cancel</ElButton>
        <ElButton type="primary" :disabled="!words.trim()" @click="send">Answer</ElButton>
      </template>
    </ElDialog>
  </section>
</template>

<style scoped>
.beside {
  max-height: 60vh;
  overflow-y: auto;
}
.ledger {
  position: relative;
  border-top: 1px solid var(--line);
  background: var(--sheet);
  overflow: hidden;
}
.fold {
  position: absolute;
  right: 8px;
  top: 7px;
  z-index: 2;
  border: 0;
  background: none;
  cursor: pointer;
}
.ledger :deep(.el-tabs) {
  height: 100%;
}
.ledger :deep(.el-tabs__header) {
  margin: 0;
  padding: 0 12px;
}
.ledger :deep(.el-tabs__item) {
  height: 30px;
  font: 500 12.5px var(--condensed);
}
.ledger :deep(.el-tabs__content),
.ledger :deep(.el-tab-pane) {
  height: 100%;
}
.which {
  margin: 3px 12px;
}
.number {
  color: #8a5f12;
}
.open {
  color: #8a5f12;
  font-weight: 600;
}
.closed {
  color: var(--current);
}
a {
  color: var(--chalk);
  margin-right: 12px;
}
</style>
