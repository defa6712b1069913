<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed } from 'vue'
import { useSite } from '../stores/site'
import { siteView } from '../lib/placedView'
import { useWorkbench } from '../stores/workbench'
import InDossier from './InDossier.vue'
import SitePlan from './SitePlan.vue'
import SiteSection from './SiteSection.vue'

/** What the Site stage is about: the building in its surroundings. */
const bench = useWorkbench()
const { site, why } = storeToRefs(useSite())
const words = computed(() => {
  const { place, bearing } = bench.document?.site ?? {}
  return [place, bearing == null ? 'bearing not stated' : 'north is up'].filter(Boolean).join(' · ')
})
</script>

<template>
  <div class="site">
    <div class="plan"><SitePlan v-if="site" :site="site" /></div>
    <div class="section"><SiteSection v-if="site" :site="site" /></div>
    <p v-if="!site" class="waiting">{{ why || 'The numbers of the site are on their way.' }}</p>
    <div class="caption">
      Looking at<b>The building in its surroundings</b>
      <span v-if="site">{{ words }}</span>
      <span v-if="bench.stale" class="stale">numbers of revision {{ bench.chain?.revision }}</span>
      <InDossier v-if="site" :placed="siteView()" />
    </div>
  </div>
</template>

<style scoped>
.site {
  position: absolute;
  inset: 0;
  display: grid;
  grid-template-rows: minmax(0, 3fr) minmax(0, 2fr);
}
.section {
  border-top: 1px solid var(--line);
  background: var(--sheet);
}
.caption .el-button {
  align-self: flex-start;
  margin-top: 3px;
  padding: 4px 8px;
  pointer-events: auto;
}
.waiting {
  position: absolute;
  top: 70px;
  left: 50%;
  transform: translateX(-50%);
  max-width: 46ch;
}
.caption {
  position: absolute;
  left: 0;
  top: 0;
  padding: 8px 14px;
  font: 500 12px var(--condensed);
  color: var(--ink-2);
  display: flex;
  flex-direction: column;
  pointer-events: none;
  background: color-mix(in srgb, var(--sheet) 85%, transparent);
}
.caption b {
  color: var(--ink);
  font: 600 15px var(--condensed);
}
.stale {
  color: #7d5a12;
  border-left: 3px solid var(--behind);
  padding-left: 6px;
}
</style>
