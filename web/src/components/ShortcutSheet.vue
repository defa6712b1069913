<script setup lang="ts">
import { ElDialog } from 'element-plus'

/** Every key that does something. */
const open = defineModel<boolean>({ required: true })
const GROUPS = [
  {
    title: 'Anywhere',
    keys: [
      ['Ctrl+K', 'Find a member, case, combination, view or command'],
      ['Alt+1 … Alt+8', 'The stages, from Site to Dossier'],
      ['Ctrl+Z', 'Undo'],
      ['Ctrl+Shift+Z, Ctrl+Y', 'Redo'],
      ['?', 'This sheet'],
    ],
  },
  {
    title: 'The view',
    keys: [
      ['0', 'The whole building'],
      ['[ and ]', 'The frame before and the next one'],
      [', and .', 'The combination before and the next one'],
      ['Esc', 'Close the panel, end drawing, choose nothing'],
      ['Enter', 'End drawing: what is drawn becomes members'],
      ['Shift+click', 'Choose a member, or a load, beside the others'],
      ['Drag', 'Choose what lies in a window; to the left, what it touches too'],
    ],
  },
  {
    title: 'Fields and tables',
    keys: [
      ['Enter', 'Take the value: 24+1.5, 3*6 and 250 cm are taken too'],
      ['Esc', 'Back to the value that stands'],
      ['Ctrl+V', 'Paste rows into a table that is written in'],
    ],
  },
] as const
</script>

<template>
  <ElDialog v-model="open" title="Keyboard shortcuts" width="560">
    <section v-for="group in GROUPS" :key="group.title">
      <h3>{{ group.title }}</h3>
      <dl>
        <template v-for="[key, words] in group.keys" :key="key">
          <dt>
            <kbd>{{ key }}</kbd>
          </dt>
          <dd>{{ words }}</dd>
        </template>
      </dl>
    </section>
  </ElDialog>
</template>

<style scoped>
h3 {
  font: 600 13px var(--condensed);
  color: var(--ink-2);
  margin: 12px 0 4px;
}
dl {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: 4px 12px;
  margin: 0;
}
dd {
  margin: 0;
}
kbd {
  font: 400 12px var(--mono);
}
</style>
