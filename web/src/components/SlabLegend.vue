<script setup lang="ts">
/** The bands of a slab's picture with their values, and which way is positive. */
defineProps<{ bands: readonly { colour: string; words: string; to: string }[]; title: string; sense: string }>()
</script>

<template>
  <ol>
    <li class="title">{{ title }}</li>
    <li v-for="(band, i) in bands" :key="i">
      <i :style="{ background: band.colour }" /><span class="mono">{{ band.words }} … {{ band.to }}</span>
    </li>
    <li v-if="sense" class="sense">{{ sense }}</li>
  </ol>
</template>

<style scoped>
ol {
  position: absolute;
  right: 14px;
  top: 92px;
  margin: 0;
  padding: 0;
  width: 128px;
  list-style: none;
  font: 400 11px var(--condensed);
  color: var(--ink-2);
}
li {
  display: flex;
  align-items: center;
  gap: 6px;
}
i {
  width: 16px;
  height: 15px;
}
.title {
  font-weight: 600;
  color: var(--ink);
  padding-bottom: 3px;
}
.sense {
  padding-top: 4px;
}
</style>
