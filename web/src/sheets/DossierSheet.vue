<script setup lang="ts">
import { computed } from 'vue'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const at = computed(() => `/api/projects/${bench.project?.id}`)
</script>

<template>
  <SheetHead title="Dossier" aside="not built yet" />
  <p class="note">The document that is handed over is not built yet. What can be handed over today:</p>
  <p class="note">
    <a :href="`${at}/document`">The document</a>, as stated, in Lorica's JSON format (docs/format.md). It can be taken
    in again, here or by anyone.
  </p>
  <p class="note">
    <a :href="`${at}/result`">The result</a>: reactions, displacements, forces and utilisations of the present revision,
    in JSON.
  </p>
  <p class="note">Every table of the ledger can be copied into a spreadsheet or saved as CSV.</p>
</template>

<style scoped>
a {
  color: var(--chalk);
}
</style>
