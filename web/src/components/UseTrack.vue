<script setup lang="ts">
/** A utilisation as a bar up to a mark at 1, or at the most that it may be, with what it was before as a dotted line. */
import { computed } from 'vue'
import { temper } from '../lib/temper'

const props = withDefaults(
  defineProps<{ use: number | null; before?: number | null; limit: number; most?: number }>(),
  {
    before: null,
    most: 1,
  },
)
const over = computed(() => (props.use ?? 0) > props.most + 1e-9)
/** Share of the track that a utilisation takes. */
const wide = (use: number | null) => `${(Math.min(use ?? 0, props.limit) / props.limit) * 100}%`
</script>

<template>
  <span class="track" :style="{ '--one': `${(100 * most) / limit}%` }"
    ><i :class="{ hatched: over }" :style="{ width: wide(use), ...(over ? {} : { background: temper(use) }) }" /><u
      v-if="before != null && before <= limit"
      :style="{ left: wide(before) }"
    />
  </span>
</template>

<style scoped>
.track {
  position: relative;
  display: block;
  height: 9px;
  background: #eeeae0;
}
.track i {
  position: absolute;
  inset: 0 auto 0 0;
}
.track i.hatched {
  background: var(--hatch);
}
.track u {
  position: absolute;
  top: -2px;
  bottom: -2px;
  border-left: 2px dotted var(--ink);
}
.track::after {
  content: '';
  position: absolute;
  left: var(--one);
  top: -2px;
  bottom: -2px;
  width: 1px;
  background: var(--ink);
}
</style>
