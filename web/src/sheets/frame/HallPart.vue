<script setup lang="ts">
import { ElButton } from 'element-plus'
import { useWorkbench } from '../../stores/workbench'
import HallBracing from './hall/HallBracing.vue'
import HallEnds from './hall/HallEnds.vue'
import HallHaunches from './hall/HallHaunches.vue'
import HallHeights from './hall/HallHeights.vue'
import HallPurlins from './hall/HallPurlins.vue'
import HallRoof from './hall/HallRoof.vue'
import HallSections from './hall/HallSections.vue'
import HallSides from './hall/HallSides.vue'
import HallTruss from './hall/HallTruss.vue'

const bench = useWorkbench()
async function start() {
  await bench.edit('Hall set out', [{ path: 'hall', value: {} }])
}
function release() {
  void bench.operate('Hall released into free members', { do: 'release', jig: 'hall' })
}
</script>

<template>
  <template v-if="bench.hall">
    <HallRoof />
    <HallHeights />
    <HallHaunches />
    <HallTruss />
    <HallEnds />
    <HallPurlins />
    <HallBracing />
    <HallSides />
    <HallSections />
    <p class="note">
      <ElButton
        link
        type="primary"
        size="small"
        title="Its members become free members by hand; wind and snow are no longer generated from it"
        @click="release"
      >
        Release the hall into free members
      </ElButton>
    </p>
  </template>
  <template v-else>
    <p class="note">There is no hall in this project. Set one out, use another jig, or draw by hand.</p>
    <p class="note"><ElButton size="small" @click="start">Set out a hall</ElButton></p>
  </template>
</template>
