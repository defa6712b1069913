<script setup lang="ts">
/** What stands, drawn: the building in its surroundings, a frame, the whole, a panel; or why there is nothing to draw. */
import { computed, defineAsyncComponent, useTemplateRef } from 'vue'
import { progress } from '../lib/live'
import { SITE } from '../stores/looks'
import { useWorkbench } from '../stores/workbench'
import FrameView from './FrameView.vue'
import PanelView from './PanelView.vue'
import ViewTools from './ViewTools.vue'

const SiteView = defineAsyncComponent(() => import('./SiteView.vue'))
const SlabView = defineAsyncComponent(() => import('./SlabView.vue'))
const ModelView = defineAsyncComponent(() => import('./ModelView.vue'))
const bench = useWorkbench()
/** In Response a slab laid flat shows what goes on within it. */
const within = computed(
  () =>
    bench.stage === 'response' && bench.lists.panels.some((p) => p.name === bench.panel?.name && p.stiff === 'slab'),
)
const view = useTemplateRef<{ savePicture(): void }>('view')
</script>

<template>
  <div class="above" data-view>
    <p v-if="!bench.chain && bench.message" class="broken" role="alert">
      {{ bench.message }} <router-link to="/">Back to the projects</router-link>
    </p>
    <template v-else-if="bench.chain">
      <SlabView v-if="bench.panel && within" />
      <PanelView v-else-if="bench.panel" />
      <SiteView v-else-if="bench.plane === SITE && bench.chain.members?.length && !bench.chain.problem" />
      <div v-else-if="bench.looking" :class="{ pair: bench.paired }">
        <div><FrameView :key="`${bench.paired}`" ref="view" /></div>
        <div v-if="bench.paired"><FrameView turned /></div>
      </div>
      <div v-else-if="bench.chain.members?.length" class="whole" :class="{ pair: bench.paired }">
        <div><ModelView :key="`${bench.paired}`" ref="view" /></div>
        <div v-if="bench.paired"><ModelView turned /></div>
      </div>
      <p v-if="!bench.chain.members?.length && bench.chain.broken_stage !== 'structure'" class="waiting">
        Nothing stands yet. Set out a hall or another jig in the Frame sheet, or draw members by hand.
      </p>
      <p v-else-if="bench.chain.problem" class="broken" :class="{ below: bench.chain.members?.length }" role="alert">
        <b>{{ bench.chain.members?.length ? 'No forces yet.' : 'The chain is broken.' }}</b>
        {{ bench.chain.problem.message }}
      </p>
    </template>
    <p v-else class="waiting">{{ bench.running ? progress(bench.running) : 'Computing the chain…' }}</p>
    <ViewTools
      v-if="bench.chain?.members?.length && !bench.panel && bench.plane !== SITE"
      @picture="view?.savePicture()"
    />
  </div>
</template>

<style scoped>
.above {
  position: relative;
  overflow: hidden;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  height: 100%;
}
.pair > div {
  position: relative;
}
.whole > div {
  position: relative;
  height: 100%;
  overflow: hidden;
}
.whole {
  height: 100%;
}
.pair > div + div {
  border-left: 1px solid var(--line);
}
.waiting,
.broken {
  position: relative;
  margin: 70px auto 0;
  max-width: 46ch;
  padding: 12px 16px;
}
.broken.below {
  position: absolute;
  left: 50%;
  bottom: 34px;
  transform: translateX(-50%);
  width: 46ch;
  margin: 0;
}
.broken {
  background: var(--oxide-soft);
  border-left: 4px solid var(--oxide);
}
</style>
