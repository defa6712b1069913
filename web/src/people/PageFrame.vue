<script setup lang="ts">
import PageHeader from './PageHeader.vue'

/** A page outside a project: its head, a title with what can be done beside it, and what it holds. */
</script>

<template>
  <div class="page">
    <PageHeader />
    <main>
      <div class="head">
        <h1><slot name="title" /></h1>
        <slot name="beside" />
      </div>
      <slot />
    </main>
  </div>
</template>

<style scoped>
main {
  max-width: 980px;
  margin: 36px auto;
  padding: 0 20px;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
h1 {
  font: 600 22px var(--condensed);
  margin: 0 0 14px;
}
h1 :deep(a) {
  color: var(--chalk);
}
</style>
