<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'

/** Values along a cut through a slab, with their extremes and what they come to together. */
const props = defineProps<{
  section: { length: number; values: (number | null)[]; most: number; least: number; total: number; adds: boolean }
  sign: string
  unit: string
  line: string
  said: (value: number) => string
}>()
defineEmits<{ close: [] }>()
const [WIDE, HIGH] = [560, 92]
const scaled = computed(() => {
  const top = Math.max(props.section.most, 0)
  const low = Math.min(props.section.least, 0)
  const y = (v: number) => 8 + ((top - v) / Math.max(top - low, 1e-12)) * (HIGH - 16)
  const steps = props.section.values.length - 1
  let d = ''
  let open = false
  props.section.values.forEach((v, i) => {
    if (v === null) {
      open = false
      return
    }
    d += `${open ? 'L' : 'M'}${((WIDE * i) / steps).toFixed(1)} ${y(v).toFixed(1)}`
    open = true
  })
  return { d, zero: y(0) }
})
</script>

<template>
  <section aria-label="Cut through the slab">
    <svg :viewBox="`0 0 ${WIDE} ${HIGH}`" preserveAspectRatio="none" role="img" :aria-label="`${sign} along the cut`">
      <path :d="`M0 ${scaled.zero}H${WIDE}`" class="zero" />
      <path :d="scaled.d" class="values" vector-effect="non-scaling-stroke" />
    </svg>
    <dl>
      <dt>length</dt>
      <dd>{{ section.length.toFixed(2) }} m</dd>
      <dt>greatest</dt>
      <dd>{{ said(section.most) }} {{ unit }}</dd>
      <dt>least</dt>
      <dd>{{ said(section.least) }} {{ unit }}</dd>
      <template v-if="section.adds">
        <dt title="What acts on the face of the cut, added up along it">along it</dt>
        <dd>{{ said(section.total) }} {{ line }}</dd>
      </template>
    </dl>
    <ElButton size="small" link type="primary" @click="$emit('close')">Close the cut</ElButton>
  </section>
</template>

<style scoped>
section {
  position: absolute;
  left: 60px;
  right: 150px;
  bottom: 30px;
  height: 118px;
  display: grid;
  grid-template-columns: 1fr 150px;
  gap: 2px 12px;
  background: rgb(252 251 248 / 94%);
  border-top: 1px solid var(--line);
  padding: 6px 0 0;
}
svg {
  width: 100%;
  height: 108px;
  grid-row: span 2;
}
.zero {
  fill: none;
  stroke: var(--ink-3);
  stroke-width: 1;
}
.values {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 2;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px 8px;
  margin: 0;
  font: 400 12px var(--condensed);
}
dt {
  color: var(--ink-2);
}
dd {
  margin: 0;
  font-family: var(--mono);
  text-align: right;
}
</style>
