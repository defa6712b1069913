<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
const target = ref<Record<string, string>>({})
/** What the analysis found wrong with what stands: a mechanism, say. */
const found = computed(() => (bench.chain?.broken_stage === 'response' ? (bench.chain.problem ?? null) : null))
/** Whether what stands has been analysed, so that “nothing to report” speaks for that too. */
const analysed = computed(() => !!bench.chain && bench.chain.status !== 'bare' && !bench.chain.problem && !bench.stale)
function showMovement() {
  bench.overlays = new Set([...bench.overlays, 'sway'])
  bench.look('whole')
}
const WORDS: Record<string, string> = {
  merge: 'Make them one node',
  cut: 'Join them there',
  drop: 'Drop the second',
  join: 'Make them one member',
}
function go(snag: Schemas['SnagOut']) {
  const known = new Set(bench.lists.members.map((m) => m.name))
  const nodes = new Set(snag.nodes.map((n) => bench.chain!.node_names.indexOf(n)))
  const at = bench.lists.members.filter((m) => m.line.some((n) => nodes.has(n))).map((m) => m.name)
  bench.choose([...snag.members.filter((m) => known.has(m)), ...at])
  bench.look('whole')
  bench.aim = [...snag.at]
}
function mend(snag: Schemas['SnagOut']) {
  if (snag.mend === 'merge') void bench.operate('Nodes merged', { do: 'merge', nodes: snag.nodes })
  else if (snag.mend === 'cut') void bench.operate('Joined at a crossing', { do: 'cross', members: snag.members })
  else if (snag.mend === 'join') void bench.operate('Pieces joined', { do: 'join', members: snag.members })
  else void bench.operate('Duplicate dropped', { do: 'remove', members: snag.members.slice(0, 1) })
}
</script>

<template>
  <p v-if="!found && !bench.chain?.snags?.length && !bench.chain?.orphans?.length" class="note clear">
    <template v-if="!bench.chain?.members?.length">Nothing is set out yet.</template>
    <template v-else-if="analysed"
      >Nothing to report: every member is joined, supported and braced, and every edit has its place.</template
    >
    <template v-else>Nothing to report so far; whether it all stands is known when it has been analysed.</template>
  </p>
  <ul>
    <li v-if="found" class="fault">
      <b>It does not stand</b>
      <span>{{ found.message }}</span>
      <span class="mono">fault · found by the analysis</span>
      <p><ElButton size="small" @click="showMovement">Show how it moves</ElButton></p>
    </li>
    <li v-for="(snag, i) in bench.lists.snags" :key="i" :class="snag.weight">
      <b>{{ snag.what }}</b>
      <span>{{ snag.why }}</span>
      <span class="mono">{{ snag.weight }} · at {{ snag.at.map((x) => x.toFixed(2)).join(' / ') }} m</span>
      <p>
        <ElButton v-if="snag.members.length || snag.nodes.length" size="small" @click="go(snag)">Show it</ElButton>
        <ElButton v-if="snag.mend" size="small" @click="mend(snag)">{{ WORDS[snag.mend] }}</ElButton>
      </p>
    </li>
  </ul>
  <template v-if="bench.chain?.orphans?.length">
    <h4>Edits without a place</h4>
    <p class="note">
      What they were made for is no longer set out. They come back by themselves when it is; or give them another place.
    </p>
    <ul>
      <li v-for="o in bench.chain.orphans" :key="o.place + o.said" class="doubt">
        <b>{{ o.target }}</b>
        <span>{{ o.said }}</span>
        <p>
          <ElInput
            v-model="target[o.place]"
            size="small"
            placeholder="another member or node"
            :aria-label="`Another place for ${o.target}`"
          />
          <ElButton
            size="small"
            :disabled="!target[o.place]"
            @click="bench.operate('Edit re-placed', { do: 'replace', place: o.place, target: target[o.place] })"
          >
            Re-place
          </ElButton>
          <ElButton size="small" @click="bench.operate('Edit dropped', { do: 'replace', place: o.place })"
            >Drop</ElButton
          >
        </p>
      </li>
    </ul>
  </template>
</template>

<style scoped>
.clear {
  padding-top: 12px;
}
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0 10px;
}
li {
  border-left: 4px solid var(--line);
  background: #fff;
  padding: 6px 9px;
  margin-bottom: 7px;
  font: 400 12.5px/1.4 var(--condensed);
  display: grid;
  gap: 2px;
}
li.fault {
  border-color: var(--oxide);
}
li.doubt {
  border-color: var(--behind);
}
b {
  font-weight: 600;
}
span {
  color: var(--ink-2);
}
span.mono {
  font-size: 11px;
}
p {
  display: flex;
  gap: 6px;
  margin: 3px 0 0;
}
.el-input {
  flex: 1;
}
</style>
