<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { useDossier, type Section } from '../../stores/dossier'
import { usePeople } from '../../stores/people'
import { useWorkbench } from '../../stores/workbench'

/** What checkers do with the chosen chapter or section: tick it, ask about it. */
const bench = useWorkbench()
const dossier = useDossier()
const people = usePeople()
if (!people.me) void people.whoAmI()
const text = ref('')
/** The input that is asked about, in place of the section. */
const about = ref('')
watch(
  () => dossier.chosen,
  () => (text.value = about.value = ''),
)
const mayCheck = computed(() => !!bench.project && bench.project.role !== 'viewer')
const isMine = (s: Section | null) => !!s && s.seen.includes(people.me?.name ?? '')
const asked = computed(() => new Set([dossier.chosen, ...dossier.rows.map((row) => row.anchor)]))
const questions = computed(() => (dossier.state?.questions ?? []).filter((q) => asked.value.has(q.anchor)))
const subject = computed(() => dossier.rows.find((row) => row.anchor === about.value)?.title ?? 'it')
async function ask() {
  if (text.value.trim() && (await dossier.ask(about.value || dossier.chosen, text.value.trim())))
    text.value = about.value = ''
}
</script>

<template>
  <template v-if="dossier.section">
    <h4>
      Checking <span class="mono">{{ dossier.section.number }}, p. {{ dossier.section.page }}</span>
    </h4>
    <div class="part">
      <ElCheckbox
        size="small"
        :model-value="isMine(dossier.section)"
        :disabled="!mayCheck"
        @change="dossier.tick(dossier.chosen, !!$event)"
        >Seen as it stands{{ dossier.rows.length ? `, with its ${dossier.rows.length} inputs` : '' }}</ElCheckbox
      >
      <p v-if="dossier.section.seen.length" class="who">Seen by {{ dossier.section.seen.join(', ') }}.</p>
      <p v-if="dossier.section.fallen.length" class="fallen">
        {{ dossier.section.fallen.join(', ') }} had seen it before it changed.
      </p>
      <ul v-if="dossier.rows.length" aria-label="Inputs of this section">
        <li v-for="row in dossier.rows" :key="row.anchor" :class="{ on: about === row.anchor }">
          <ElCheckbox
            size="small"
            :model-value="isMine(row)"
            :disabled="!mayCheck"
            :title="row.seen.length ? `Seen by ${row.seen.join(', ')}` : undefined"
            @change="dossier.tick(row.anchor, !!$event)"
            >{{ row.title }}</ElCheckbox
          >
          <em v-if="row.fallen.length" :title="`${row.fallen.join(', ')} had seen it before it changed`">changed</em>
          <ElButton
            v-if="mayCheck"
            size="small"
            text
            :aria-pressed="about === row.anchor"
            :aria-label="`Ask about ${row.title}`"
            @click="about = about === row.anchor ? '' : row.anchor"
            >?</ElButton
          >
        </li>
      </ul>
      <p v-for="q in questions" :key="q.number" class="who">
        ?{{ q.number }} {{ q.anchor === dossier.chosen ? '' : `on ${q.title}, ` }}{{ q.state }}: {{ q.text }}
      </p>
      <ElInput
        v-model="text"
        type="textarea"
        :autosize="{ minRows: 1, maxRows: 6 }"
        maxlength="2000"
        :readonly="!mayCheck"
        aria-label="A question about this section"
        :placeholder="`A question about ${subject}`"
      />
      <ElButton v-if="text.trim()" size="small" class="ask" @click="ask">Ask</ElButton>
    </div>
  </template>
</template>

<style scoped>
.part {
  padding: 0 12px 8px;
}
.who,
.fallen {
  margin: 2px 0;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
}
.fallen {
  color: #6f4d0c;
}
ul {
  list-style: none;
  margin: 4px 0 6px;
  padding: 0;
  max-height: 260px;
  overflow-y: auto;
}
li {
  display: flex;
  align-items: center;
  border-bottom: 1px solid var(--line-soft);
}
li.on {
  background: var(--paper);
}
li .el-checkbox {
  flex: 1;
  min-width: 0;
  height: 22px;
}
li em {
  font: 400 11.5px var(--condensed);
  color: #6f4d0c;
}
.ask {
  margin-top: 5px;
}
</style>
