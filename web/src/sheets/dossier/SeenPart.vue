<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { useDossier } from '../../stores/dossier'
import { usePeople } from '../../stores/people'
import { useWorkbench } from '../../stores/workbench'

/** What checkers do with the chosen chapter or section: tick it, ask about it. */
const bench = useWorkbench()
const dossier = useDossier()
const people = usePeople()
if (!people.me) void people.whoAmI()
const text = ref('')
watch(
  () => dossier.chosen,
  () => (text.value = ''),
)
const mayCheck = computed(() => !!bench.project && bench.project.role !== 'viewer')
const mine = computed(() => dossier.section?.seen.includes(people.me?.name ?? '') ?? false)
const questions = computed(() => (dossier.state?.questions ?? []).filter((q) => q.anchor === dossier.chosen))
async function ask() {
  if (text.value.trim() && (await dossier.ask(dossier.chosen, text.value.trim()))) text.value = ''
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
        :model-value="mine"
        :disabled="!mayCheck"
        @change="dossier.tick(dossier.chosen, !!$event)"
        >Seen as it stands</ElCheckbox
      >
      <p v-if="dossier.section.seen.length" class="who">Seen by {{ dossier.section.seen.join(', ') }}.</p>
      <p v-if="dossier.section.fallen.length" class="fallen">
        {{ dossier.section.fallen.join(', ') }} had seen it before it changed.
      </p>
      <p v-for="q in questions" :key="q.number" class="who">?{{ q.number }} {{ q.state }}: {{ q.text }}</p>
      <ElInput
        v-model="text"
        type="textarea"
        :autosize="{ minRows: 1, maxRows: 6 }"
        maxlength="2000"
        :readonly="!mayCheck"
        aria-label="A question about this section"
        placeholder="A question about it"
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
.ask {
  margin-top: 5px;
}
</style>
