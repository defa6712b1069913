<script setup lang="ts">
/** What of the actions of a site does not act on this building, and why: nobody should wonder whether it was forgotten. */
import { NATURE_COLOURS } from '../../lib/temper'
import { useSite } from '../../stores/site'

const store = useSite()
</script>

<template>
  <template v-if="store.site?.idle.length">
    <h4>What does not act <span>and why</span></h4>
    <ul>
      <li v-for="found in store.site.idle" :key="found.what" :class="{ open: !found.covered }">
        <i :style="{ borderColor: NATURE_COLOURS[found.nature] ?? 'var(--ink-3)' }" />
        <b>{{ found.what }}</b><span>{{ found.why }}</span>
      </li>
    </ul>
  </template>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0 12px 6px;
  font: 400 12.5px/1.35 var(--condensed);
}
li {
  display: grid;
  grid-template-columns: 14px 1fr;
  padding: 3px 0;
}
li i {
  width: 8px;
  height: 8px;
  margin-top: 4px;
  border: 1.5px solid;
}
li b {
  font-weight: 500;
}
li span {
  grid-column: 2;
  color: var(--ink-2);
}
li.open {
  margin: 3px -4px;
  padding: 3px;
  border: 1px dashed var(--behind);
}
</style>
