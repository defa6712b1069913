<script setup lang="ts">
/** Differences that are alike: chosen in the view, taken or refused together or one by one. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../../api/client'
import { useReturned, type Alike } from '../../../stores/returned'
import { useWorkbench } from '../../../stores/workbench'
import ReturnedEffect from './ReturnedEffect.vue'

const props = defineProps<{ group: Alike; stands: Schemas['EffectOut'] | null }>()
const bench = useWorkbench()
const back = useReturned()
const WORDS: Record<Alike['kind'], string> = {
  section: 'Section',
  grade: 'Grade',
  turned: 'Turned',
  moved: 'Moved',
  placed: 'Elsewhere',
  added: 'Added',
  removed: 'Not there',
  split: 'In pieces',
  joined: 'One piece',
  'set off': 'Set off',
  haunch: 'Haunch',
}
const first = computed(() => props.group.items[0]!)
const many = computed(() => props.group.items.length > 1)
const on = computed(() => back.chosen === props.group.key)
const title = computed(() =>
  many.value ? `${props.group.items.length} ${props.group.kind === 'moved' ? 'nodes' : 'members'}` : first.value.what,
)
const one = (k: number) => [{ ...props.group, items: [props.group.items[k]!] }]
</script>

<template>
  <section class="group" :class="{ on }">
    <ElButton class="bare head" :aria-expanded="on" @click="back.choose(group.key)">
      <i :class="group.kind">{{ WORDS[group.kind] }}</i>
      <b>{{ title }}</b>
      <span>{{ group.words }}</span>
    </ElButton>
    <p v-if="group.meanwhile" class="note wrong">Changed here since it was sent: it was {{ group.meanwhile }} then.</p>
    <ReturnedEffect v-if="group.effect && !group.refused" :now="stands" :then="group.effect" words="If taken" />
    <ul v-if="on && many">
      <li v-for="(d, k) in group.items" :key="d.key">
        <ElButton class="bare" :title="`${d.was} → ${d.now}`" @click="bench.choose(d.members)">{{ d.what }}</ElButton>
        <template v-if="bench.mayChange && group.takes && !group.refused">
          <ElButton link type="primary" size="small" :aria-label="`Take ${d.what}`" @click="back.take(one(k))"
            >Take</ElButton
          >
          <ElButton link size="small" :aria-label="`Refuse ${d.what}`" @click="back.refuse(one(k), true)"
            >Refuse</ElButton
          >
        </template>
      </li>
    </ul>
    <p v-if="bench.mayChange && group.takes" class="deed">
      <template v-if="!group.refused">
        <ElButton size="small" @click="back.take([group])">Take{{ many ? ` ${group.items.length}` : '' }}</ElButton>
        <ElButton size="small" text @click="back.refuse([group], true)">Refuse</ElButton>
      </template>
      <ElButton v-else size="small" text @click="back.refuse([group], false)">Consider again</ElButton>
    </p>
  </section>
</template>

<style scoped>
.group {
  border-top: 1px solid var(--line-soft);
  padding: 6px 0 2px;
}
.group.on {
  background: var(--chalk-soft);
}
.head {
  display: flex;
  width: 100%;
  height: auto;
  padding: 0 12px 2px;
  text-align: left;
  white-space: normal;
}
.head :deep(> span) {
  display: grid;
  grid-template-columns: 68px 1fr;
  gap: 1px 8px;
  width: 100%;
  line-height: 1.35;
}
.head i {
  grid-row: span 2;
  font: 500 11.5px var(--condensed);
  color: var(--ink-2);
  padding-top: 1px;
}
.head b {
  font-weight: 500;
}
.head span span {
  grid-column: 2;
  color: var(--ink-2);
  font-size: 12.5px;
}
i.removed,
i.moved,
i.placed {
  color: var(--oxide);
}
ul {
  margin: 2px 12px 4px 88px;
  padding: 0;
  list-style: none;
  max-height: 168px;
  overflow-y: auto;
}
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 12.5px;
}
li .el-button + .el-button {
  margin-left: 0;
}
li > :first-child {
  flex: 1;
  justify-content: start;
  height: auto;
  text-align: left;
  white-space: normal;
}
.deed {
  display: flex;
  gap: 4px;
  margin: 2px 12px 4px 88px;
}
.deed .el-button + .el-button {
  margin-left: 0;
}
.note.wrong {
  color: var(--oxide);
}
</style>
