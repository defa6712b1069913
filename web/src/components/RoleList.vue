<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { figures, temper } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'

const bench = useWorkbench()
/** Purlins and rails that are no members of the model, where something says what they bear. */
const beside = computed(() => bench.lists.secondary.filter((s) => s.uses.length))
function showBeside() {
  bench.choose([])
  bench.stage = 'verification'
}
function toggle(role: string) {
  const next = new Set(bench.hidden)
  if (!next.delete(role)) next.add(role)
  bench.hidden = next
}
function worst(role: string) {
  const first = bench.worstFirst(role)[0]
  if (first) bench.select(first.name, true)
}
</script>

<template>
  <h4>Roles <span class="hint">worst use</span></h4>
  <ul>
    <li
      v-for="role in bench.lists.roles"
      :key="role.role"
      :class="{ on: bench.member?.role === role.role, off: bench.hidden.has(role.role) }"
    >
      <ElButton
        class="bare swatch"
        :class="{ hatched: role.status === 'fails', open: role.status === 'not covered' }"
        :style="role.status === 'passes' ? { background: temper(role.worst ?? null) } : {}"
        :title="bench.hidden.has(role.role) ? `Show ${role.label}` : `Hide ${role.label}`"
        :aria-label="`Show or hide ${role.label}`"
        :aria-pressed="!bench.hidden.has(role.role)"
        @click="toggle(role.role)"
      />
      <ElButton class="bare name" :title="`Select the worst of ${role.count}`" @click="worst(role.role)">
        <b>{{ role.label }}</b><span class="mono section">{{ role.section }}</span>
        <span class="count mono">{{ role.count }}×</span>
        <span class="mono use" :class="{ fails: role.status === 'fails' }">{{ figures(role.worst ?? null) }}</span>
      </ElButton>
    </li>
    <li v-for="s in beside" :key="s.role">
      <i
        class="swatch"
        :class="{ hatched: s.status === 'fails' }"
        :style="s.status === 'passes' ? { background: temper(s.worst) } : {}"
      />
      <ElButton class="bare name" title="No members of the model: what asks most of them" @click="showBeside">
        <b>{{ s.label }}</b><span class="mono section">{{ s.table }}</span>
        <span class="count mono" />
        <span class="mono use" :class="{ fails: s.status === 'fails' }">{{ figures(s.worst) }}</span>
      </ElButton>
    </li>
  </ul>
  <p v-for="(tonnes, what) in bench.chain?.masses ?? {}" :key="what" class="note total">
    <span>{{ what === 'steel' ? 'Steel' : what }}</span><b class="mono">{{ tonnes.toFixed(2) }} t</b>
  </p>
</template>

<style scoped>
.hint {
  font-weight: 400;
  letter-spacing: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 6px;
}
li {
  display: flex;
  align-items: center;
  border-radius: 3px;
}
li.on {
  background: var(--chalk-soft);
}
li.off .name {
  opacity: 0.5;
  text-decoration: line-through;
}
.swatch {
  width: 13px;
  height: 13px;
  flex: none;
  margin: 0 4px 0 6px;
  border: 1px solid var(--ink-3);
  border-radius: 2px;
  padding: 0;
  cursor: pointer;
}
.swatch.hatched {
  background: var(--hatch);
}
.swatch.open {
  background: #fff;
  border-style: dashed;
}
.name {
  flex: 1;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 8px;
  border: 0;
  background: none;
  text-align: left;
  padding: 1px 4px;
  font: 400 12.5px var(--condensed);
  cursor: pointer;
}
.name b {
  font-weight: 500;
}
.section,
.count {
  font-size: 11px;
  color: var(--ink-2);
}
.section {
  grid-row: 2;
}
.use {
  grid-row: 1;
  grid-column: 2;
  font-size: 12px;
  text-align: right;
}
.count {
  grid-row: 2;
  grid-column: 2;
  text-align: right;
}
.total {
  display: flex;
  justify-content: space-between;
  border-top: 1px solid var(--line-soft);
  margin: 6px 10px 0;
  padding: 6px 2px;
}
</style>
