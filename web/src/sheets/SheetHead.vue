<script setup lang="ts">
defineProps<{ title: string; aside?: string }>()
</script>

<template>
  <div class="head">
    <b>{{ title }}</b><em class="mono">{{ aside }}</em>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 10px 12px 2px 22px;
}
b {
  font: 600 19px var(--condensed);
}
em {
  font-style: normal;
  font-size: 12px;
  color: var(--ink-2);
}
</style>
