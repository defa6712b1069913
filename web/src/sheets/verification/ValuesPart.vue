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
    <template v-for="f in single.ribbon.figures" :key="f.symbol">
      <span :title="f.words"
        ><TexText :tex="f.symbol" /> <small>{{ f.brief }}</small></span
      >
      <b :title="f.words">{{ f.value }}</b>
    </template>
  </div>
</template>

<style scoped>
.pairs small {
  font-size: 11px;
}
</style>
