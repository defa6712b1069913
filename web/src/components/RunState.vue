<script setup lang="ts">
/** What is being computed and how far it is; how long it took; whether numbers refresh by themselves. */
import { useIntervalFn, useNow } from '@vueuse/core'
import { ElButton, ElProgress } from 'element-plus'
import { computed } from 'vue'
import { progress } from '../lib/live'
import { useWorkbench } from '../stores/workbench'

const bench = useWorkbench()
/** Time that passes while something is computed; the bar speaks up only when it takes a while. */
const now = useNow({ scheduler: (tick) => useIntervalFn(tick, 200) })
const elapsed = computed(() => (bench.running ? Math.max(0, (now.value.getTime() - bench.running.since) / 1000) : 0))
const taken = computed(() => Object.values(bench.chain?.seconds ?? {}).reduce((sum, s) => sum + s, 0))
const share = computed(() => (bench.running?.of ? bench.running.done / bench.running.of : undefined))
</script>

<template>
  <span class="run" aria-live="polite">
    <template v-if="bench.running && bench.refreshing">
      <template v-if="elapsed > 0.7 || bench.running.state === 'unreachable'">
        <ElProgress
          v-if="bench.running.state === 'running'"
          class="share"
          :percentage="(share ?? 0) * 100"
          :indeterminate="share === undefined"
          :stroke-width="6"
          :show-text="false"
          aria-label="Progress of the run"
        />
        <span class="told" :title="progress(bench.running)">{{ progress(bench.running) }}</span>
        <span class="mono">{{ elapsed.toFixed(1) }} s</span>
        <ElButton
          v-if="bench.running.state !== 'unreachable' && bench.mayChange"
          link
          type="primary"
          size="small"
          title="Stop computing"
          @click="bench.stop()"
        >
          Stop
        </ElButton>
      </template>
    </template>
    <template v-else-if="bench.running">
      <span class="told" :title="bench.running.message">{{
        bench.running.state === 'paused'
          ? 'Paused'
          : bench.running.state === 'cancelled'
            ? 'Stopped'
            : bench.running.message
      }}</span>
      <ElButton
        v-if="bench.mayChange"
        link
        type="primary"
        size="small"
        title="Compute the numbers of this revision"
        @click="bench.start()"
      >
        Refresh now
      </ElButton>
    </template>
    <span v-else-if="taken" class="mono took" :title="`The chain took ${taken.toFixed(2)} s to compute`"
      >{{ taken.toFixed(2) }} s</span
    >
    <ElButton
      v-if="bench.project && bench.mayChange"
      link
      type="primary"
      size="small"
      :aria-pressed="bench.project.paused"
      :title="
        bench.project.paused
          ? 'Numbers are refreshed only when asked for: refresh them by themselves again'
          : 'Pause: refresh numbers only when asked for'
      "
      @click="bench.pause(!bench.project.paused)"
    >
      {{ bench.project.paused ? 'Go live' : 'Pause' }}
    </ElButton>
  </span>
</template>

<style scoped>
.run {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
}
.share {
  width: 56px;
  --el-color-primary: var(--behind);
}
.told {
  max-width: 190px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.took {
  font-size: 11px;
}
</style>
