<script setup lang="ts">
import { ElTable, ElTableColumn } from 'element-plus'
import type { Schemas } from '../api/client'
import { moment } from './roles'

/** What was done, by whom and when. */
defineProps<{ rows: Schemas['HappenedOut'][]; revisions?: boolean; empty: string }>()
</script>

<template>
  <ElTable :data="rows" size="small" :empty-text="empty" stripe>
    <ElTableColumn label="When" width="160">
      <template #default="{ row }">{{ moment(row.at) }}</template>
    </ElTableColumn>
    <ElTableColumn label="Who" prop="person" width="150" />
    <ElTableColumn v-if="revisions" label="Revision" width="90" align="right">
      <template #default="{ row }"
        ><span class="mono">{{ row.revision ?? '' }}</span></template
      >
    </ElTableColumn>
    <ElTableColumn label="What" prop="words" />
  </ElTable>
</template>
