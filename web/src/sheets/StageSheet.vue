<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, type Component } from 'vue'
import { useWorkbench } from '../stores/workbench'
import ActionsSheet from './ActionsSheet.vue'
import ChosenHead from './ChosenHead.vue'
import CombinationsSheet from './CombinationsSheet.vue'
import DossierSheet from './DossierSheet.vue'
import FrameSheet from './FrameSheet.vue'
import ResponseSheet from './ResponseSheet.vue'
import SiteSheet from './SiteSheet.vue'
import SizingSheet from './SizingSheet.vue'
import VerificationSheet from './VerificationSheet.vue'

defineEmits<{ proof: [criterion: string, combination?: string] }>()
const bench = useWorkbench()
const SHEETS: Record<string, Component> = {
  site: SiteSheet,
  frame: FrameSheet,
  actions: ActionsSheet,
  combinations: CombinationsSheet,
  response: ResponseSheet,
  verification: VerificationSheet,
  sizing: SizingSheet,
  dossier: DossierSheet,
}
/** Stages whose sheets show computed numbers. */
const NUMBERS = ['actions', 'combinations', 'response', 'verification', 'dossier']
/** Stages whose sheets are headed by the chosen members; the others have it, or a combination, a group, a chapter, as their subject. */
const HEADED = ['frame', 'actions']
const sheet = computed(() => SHEETS[bench.stage])
</script>

<template>
  <p v-if="bench.refusal" class="refused" role="alert">
    {{ bench.refusal.message }} Nothing was changed.
    <ElButton link type="primary" size="small" @click="bench.refusal = null">Close</ElButton>
  </p>
  <p v-if="bench.stale && NUMBERS.includes(bench.stage)" class="older" role="status">
    Numbers of revision {{ bench.chain?.revision }}. The project stands at revision {{ bench.project?.revision.number
    }}{{ bench.refreshing ? ', whose numbers are being computed.' : ', whose numbers are not computed.' }}
  </p>
  <ChosenHead v-if="HEADED.includes(bench.stage)" />
  <component :is="sheet" @proof="(criterion: string, combination?: string) => $emit('proof', criterion, combination)" />
</template>

<style scoped>
.older {
  margin: 10px 12px 0 22px;
  padding: 6px 10px;
  border-left: 4px solid var(--behind);
  background: var(--paper);
  font: 400 12.5px var(--condensed);
}
.refused {
  margin: 10px 12px 0 22px;
  padding: 7px 10px;
  border-left: 4px solid var(--oxide);
  background: var(--oxide-soft);
  font: 400 12.5px var(--condensed);
}
</style>
