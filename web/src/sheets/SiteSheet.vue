<script setup lang="ts">
import { computed } from 'vue'
import { useWorkbench } from '../stores/workbench'
import NationalPart from './actions/NationalPart.vue'
import SheetHead from './SheetHead.vue'
import IdlePart from './site/IdlePart.vue'
import PlacePart from './site/PlacePart.vue'
import SiteWind from './site/SiteWind.vue'
import SnowPart from './site/SnowPart.vue'

const bench = useWorkbench()
const site = computed(() => bench.document?.site)
const snow = computed(() => bench.document?.snow)
const wind = computed(() => bench.document?.wind)
</script>

<template>
  <SheetHead title="Site" :aside="site?.place" />
  <template v-if="site && snow && wind">
    <PlacePart :site="site" />
    <SnowPart :site="site" :snow="snow" />
    <SiteWind :site="site" :wind="wind" />
    <IdlePart />
    <NationalPart />
  </template>
</template>
