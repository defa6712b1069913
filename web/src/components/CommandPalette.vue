<script setup lang="ts">
import { ElDialog, ElInput } from 'element-plus'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { fitting, type Entry } from '../lib/palette'
import { LINKS } from '../lib/stages'
import { useWorkbench } from '../stores/workbench'
import { listsOf } from '../lib/lists'

const emit = defineEmits<{ shortcuts: []; tour: [] }>()
/** Go anywhere and do anything by its name. */
const open = defineModel<boolean>({ required: true })
const bench = useWorkbench()
const router = useRouter()
const query = ref('')
const at = ref(0)
const recent = ref<string[]>([])
const list = useTemplateRef<HTMLElement>('list')
const input = useTemplateRef<{ focus(): void }>('input')

const commands = computed<Entry[]>(() => {
  const found: [string, string, () => unknown][] = [
    ['Projects', 'All projects', () => router.push('/')],
    ['History of the project', 'Who changed what', () => router.push(`/projects/${bench.project?.id}/history`)],
    ['Keyboard shortcuts', '?', () => emit('shortcuts')],
    ['Show me around', 'What the parts of the workbench are for', () => emit('tour')],
  ]
  if (bench.mayChange) {
    if (bench.project?.can_undo) found.push(['Undo', 'Ctrl+Z', () => bench.step('undo')])
    if (bench.project?.can_redo) found.push(['Redo', 'Ctrl+Shift+Z', () => bench.step('redo')])
    found.push(
      bench.project?.paused
        ? ['Go live', 'Numbers refresh by themselves', () => bench.pause(false)]
        : ['Pause', 'Numbers refresh only when asked for', () => bench.pause(true)],
    )
  }
  return found.map(([label, detail, run]) => ({ key: `command ${label}`, label, kind: 'Command', detail, run }))
})
const entries = computed<Entry[]>(() => {
  if (!open.value) return []
  const chain = bench.chain
  return [
    ...commands.value,
    ...LINKS.map((l, i): Entry => ({
      key: `stage ${l.key}`,
      label: l.label,
      kind: 'Stage',
      detail: `Alt+${i + 1}`,
      run: () => (bench.stage = l.key),
    })),
    {
      key: 'view whole',
      label: 'Whole building',
      kind: 'View',
      detail: '3D · 0',
      run: () => bench.look('whole'),
    },
    ...bench.planes.map((p): Entry => ({
      key: `view ${p.key}`,
      label: p.label,
      kind: 'View',
      detail: '',
      run: () => bench.look(p.key),
    })),
    ...listsOf(chain).cases.map((c): Entry => ({
      key: `case ${c.symbol}`,
      label: c.symbol,
      kind: 'Case',
      detail: c.name,
      run: () => {
        bench.stage = 'actions'
        bench.show(c.symbol)
      },
    })),
    ...listsOf(chain).combinations.map((c): Entry => ({
      key: `combination ${c.name}`,
      label: c.name,
      kind: 'Combination',
      detail: c.formula,
      run: () => {
        if (!['response', 'verification', 'combinations'].includes(bench.stage)) bench.stage = 'combinations'
        bench.show(c.name)
      },
    })),
    ...listsOf(chain).members.map((m): Entry => ({
      key: `member ${m.name}`,
      label: m.label,
      kind: 'Member',
      detail: `${m.section}${m.utilisation == null ? '' : ` · ${m.utilisation.toFixed(2)}`}`,
      run: () => bench.select(m.name, true),
    })),
  ]
})
const found = computed(() => fitting(entries.value, query.value, recent.value))

/** Typing may begin at once, before the dialog has grown to its size. */
function begin() {
  requestAnimationFrame(() => input.value?.focus())
}
watch(open, async (shown) => {
  if (!shown) return
  query.value = ''
  at.value = 0
  await nextTick()
  await nextTick()
  begin()
})
watch(query, () => (at.value = 0))

async function move(by: number) {
  at.value = (at.value + by + found.value.length) % Math.max(found.value.length, 1)
  await nextTick()
  list.value?.querySelector('.on')?.scrollIntoView({ block: 'nearest' })
}

function take(entry: Entry | undefined) {
  if (!entry) return
  recent.value = [entry.key, ...recent.value.filter((key) => key !== entry.key)].slice(0, 6)
  open.value = false
  void entry.run()
}
</script>

<template>
  <ElDialog
    v-model="open"
    class="palette"
    title="Find"
    width="560"
    top="12vh"
    :show-close="false"
    @open-auto-focus="input?.focus()"
  >
    <ElInput
      ref="input"
      v-model="query"
      placeholder="A member, case, combination, view, stage or command"
      aria-label="Find"
      aria-controls="found"
      aria-autocomplete="list"
      :aria-activedescendant="found.length ? `found-${at}` : undefined"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="take(found[at])"
    />
    <ul v-show="found.length" id="found" ref="list" role="listbox" tabindex="0" aria-label="What fits">
      <li
        v-for="(entry, i) in found"
        :id="`found-${i}`"
        :key="entry.key"
        role="option"
        :aria-selected="i === at"
        :class="{ on: i === at }"
        @click="take(entry)"
        @pointermove="at = i"
      >
        <b>{{ entry.label }}</b> <span class="mono">{{ entry.detail }}</span> <small>{{ entry.kind }}</small>
      </li>
    </ul>
    <p v-if="!found.length" class="none">Nothing here has these words.</p>
  </ElDialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 48vh;
  overflow: auto;
}
li {
  display: flex;
  align-items: baseline;
  gap: 12px;
  padding: 5px 10px;
  cursor: pointer;
}
li.on {
  background: var(--chalk-soft);
}
b {
  font: 500 13.5px var(--condensed);
  white-space: nowrap;
}
span {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 11px;
  color: var(--ink-2);
}
small,
.none {
  color: var(--ink-2);
}
.none {
  padding: 8px 10px;
  margin: 0;
}
</style>
