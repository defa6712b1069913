<script setup lang="ts">
import TexText from '../../components/TexText.vue'
import { useSingle } from '../../stores/single'
import { useWorkbench } from '../../stores/workbench'

/** The lengths and factors of sideways buckling that are in force for the selected member. */
const bench = useWorkbench()
const single = useSingle()
</script>

<template>
  <div v-if="single.ribbon?.member === bench.selected" class="pairs">
    <template v-for="[symbol, value, why] in single.ribbon.values" :key="symbol">
      <span :title="why"
        ><TexText :tex="symbol" /> <small>{{ why.split(':')[1]?.split('(')[0]?.trim() }}</small></span
      >
      <b :title="why">{{ value }}</b>
    </template>
  </div>
</template>

<style scoped>
.pairs small {
  font-size: 11px;
}
</style>
