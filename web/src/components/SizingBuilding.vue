<script setup lang="ts">
/** The building by what the sizing makes of it: lighter, heavier, another section, as it is. */
import { computed } from 'vue'
import { changesOf, seen, type Change } from '../lib/changed'
import { path } from '../lib/drawing'
import { useSizing } from '../stores/sizing'
import { useWorkbench } from '../stores/workbench'
import { seenFrom } from '../view/stand'

const bench = useWorkbench()
const sizing = useSizing()
const BOX: [number, number] = [216, 176]
const KINDS: { kind: Change; words: string }[] = [
  { kind: 'lighter', words: 'lighter' },
  { kind: 'heavier', words: 'heavier' },
  { kind: 'other', words: 'another' },
  { kind: 'kept', words: 'as it is' },
]
const lines = computed(() => {
  const changes = changesOf(sizing.groups, sizing.found?.groups ?? [], new Set(sizing.changes.map((c) => c.group.name)))
  const { bearing, tilt } = seenFrom()
  const spots = seen(bench.lists.nodes, bearing, tilt, BOX, 8)
  return bench.lists.members.map((m) => ({
    name: m.name,
    d: path(m.line.map((n) => spots[n]!)),
    ...(changes.get(m.name) ?? { group: '', change: 'kept' as Change }),
  }))
})
const counts = computed(() => {
  const found = new Map<Change, number>()
  for (const l of lines.value) found.set(l.change, (found.get(l.change) ?? 0) + 1)
  return found
})
</script>

<template>
  <figure aria-label="The building by what the sizing makes of it">
    <svg :viewBox="`0 0 ${BOX[0]} ${BOX[1]}`" aria-hidden="true">
      <path
        v-for="l in lines"
        :key="l.name"
        :d="l.d"
        :class="[l.change, { on: l.group === sizing.chosen }]"
        @click="sizing.chosen = l.group"
      >
        <title>{{ l.group }}</title>
      </path>
    </svg>
    <figcaption>
      <template v-for="k in KINDS" :key="k.kind">
        <span v-if="counts.get(k.kind)" :class="k.kind"><i />{{ k.words }} {{ counts.get(k.kind) }}</span>
      </template>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  padding: 6px 4px;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  border-left: 1px solid var(--line);
}
svg {
  width: 100%;
  height: 100%;
}
path {
  fill: none;
  stroke: var(--kind);
  stroke-width: 1.4;
  cursor: pointer;
}
path.on {
  stroke-width: 3;
}
path.kept {
  stroke-dasharray: 2.5 2;
}
.lighter {
  --kind: var(--moss);
}
.heavier {
  --kind: var(--oxide);
}
.other {
  --kind: var(--chalk);
}
.kept {
  --kind: #9aa3aa;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 2px 10px;
  font: 400 11.5px var(--condensed);
  color: var(--ink-2);
}
figcaption i {
  display: inline-block;
  width: 14px;
  margin-right: 4px;
  vertical-align: 3px;
  border-top: 3px solid var(--kind);
}
figcaption .kept i {
  border-top-style: dashed;
}
</style>
