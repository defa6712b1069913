<script setup lang="ts">
import { ElButton, ElSegmented } from 'element-plus'
import { computed, defineAsyncComponent } from 'vue'
import { useSizing } from '../stores/sizing'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'
import GroupPart from './sizing/GroupPart.vue'
import SearchPart from './sizing/SearchPart.vue'
import StudyPart from './sizing/StudyPart.vue'

const SizingRounds = defineAsyncComponent(() => import('../components/SizingRounds.vue'))
const bench = useWorkbench()
const sizing = useSizing()
const aside = computed(() => {
  const found = sizing.found
  return found ? `${found.before.tonnage.toFixed(2)} → ${found.after.tonnage.toFixed(2)} t` : ''
})
const told = computed(() => {
  const found = sizing.found
  if (found) return `${found.full} analyses in full, ${found.few} under what governs`
  return sizing.runs ? 'working…' : ''
})
</script>

<template>
  <SheetHead title="Sizing" :aside="aside" />
  <p class="note">
    <ElSegmented
      v-model="sizing.shows"
      size="small"
      block
      aria-label="What is looked at"
      :options="[
        { label: 'Groups', value: 'groups' },
        { label: 'Set-outs', value: 'set-outs' },
      ]"
    />
  </p>
  <StudyPart v-if="sizing.shows === 'set-outs'" />
  <template v-else>
    <p class="note">
      Every group to the section that makes the whole least and passes with the forces of its own analysis.
    </p>
    <p class="note">
      <ElButton
        v-if="!sizing.runs"
        type="primary"
        :disabled="!bench.mayChange || !sizing.groups.length || !!bench.chain?.problem"
        @click="sizing.size()"
        >{{ sizing.rounds.length ? 'Size again' : 'Size every group' }}</ElButton
      >
      <ElButton v-else @click="sizing.stop()">Stop · analysis {{ sizing.rounds.length + 1 }}</ElButton>
    </p>
    <template v-if="sizing.rounds.length">
      <h4>
        Analyses <span>{{ told }}</span>
      </h4>
      <SizingRounds />
    </template>
    <GroupPart v-if="sizing.chosen" />
  </template>
  <SearchPart />
</template>
