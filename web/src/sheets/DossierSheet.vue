<script setup lang="ts">
import { useDossier } from '../stores/dossier'
import ChapterPart from './dossier/ChapterPart.vue'
import IssuePart from './dossier/IssuePart.vue'
import NotePart from './dossier/NotePart.vue'
import SeenPart from './dossier/SeenPart.vue'
import SheetHead from './SheetHead.vue'

const dossier = useDossier()
</script>

<template>
  <SheetHead
    :title="dossier.section?.title ?? 'Dossier'"
    :aside="dossier.section ? `p. ${dossier.section.page}` : `${dossier.state?.file?.pages ?? '–'} pages`"
  />
  <ChapterPart />
  <NotePart v-if="dossier.section && dossier.section.depth > 1" :key="dossier.section.anchor" :of="dossier.section" />
  <SeenPart />
  <IssuePart />
</template>
