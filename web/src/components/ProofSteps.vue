<script setup lang="ts">
import type { Schemas } from '../api/client'
import { minus } from '../lib/quantity'
import TexText from './TexText.vue'

/** The lines of a derivation, the last one its result. beside: another of the same kind, whose values stand beside those that differ
 * from it, under their names. */
defineProps<{
  steps: readonly Schemas['StepOut'][]
  /** Whether the last line is what the others lead to. */
  leads?: boolean
  fails?: boolean
  beside?: readonly Schemas['StepOut'][] | null
  names?: readonly [string, string]
}>()
/** The line of the other one that says the same value: by its symbol, and the how manieth of them. */
function other(steps: readonly Schemas['StepOut'][], own: readonly Schemas['StepOut'][], i: number): string {
  const symbol = own[i]!.symbol
  const before = own.slice(0, i).filter((s) => s.symbol === symbol).length
  return steps.filter((s) => s.symbol === symbol)[before]?.value ?? '–'
}
</script>

<template>
  <ol :class="{ two: beside }">
    <li v-if="beside" class="heads">
      <span /><b class="mono">{{ names?.[0] }}</b
      ><b class="mono">{{ names?.[1] }}</b
      ><span />
    </li>
    <li
      v-for="(step, i) in steps"
      :key="i"
      :class="{
        last: leads && i === steps.length - 1,
        fails: i === steps.length - 1 && fails,
        same: beside && other(beside, steps, i) === step.value,
      }"
    >
      <div class="formula">
        <TexText :tex="step.formula ? `${step.symbol} = ${step.formula}` : step.symbol" />
        <TexText v-if="step.numbers" class="numbers" :tex="`= ${step.numbers}`" />
      </div>
      <b class="mono">{{ minus(step.value) }}</b>
      <b v-if="beside" class="mono">{{ minus(other(beside, steps, i)) }}</b>
      <span class="clause">{{ step.clause }}<br v-if="step.clause && step.words" />{{ step.words }}</span>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px 150px;
  gap: 12px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line-soft);
  align-items: center;
}
.two li {
  grid-template-columns: minmax(0, 1fr) 100px 100px 150px;
}
.heads {
  position: sticky;
  top: 0;
  background: var(--sheet);
}
.two li > b {
  font-weight: 600;
}
.two li.same > b {
  color: var(--ink-2);
  font-weight: 400;
}
li.last {
  border-top: 2px solid var(--ink);
  font-weight: 600;
}
li.fails b {
  color: var(--oxide);
}
.formula {
  display: flex;
  flex-direction: column;
  gap: 3px;
  overflow-x: auto;
  overflow-y: hidden;
  padding: 2px 0;
}
.numbers {
  color: var(--ink-2);
  padding-left: 18px;
  font-size: 0.84em;
}
li > b {
  text-align: right;
  font-weight: 400;
}
.heads > b {
  font-weight: 600;
}
.clause {
  font: 400 11.5px/1.3 var(--condensed);
  color: var(--ink-2);
}
</style>
