<script setup lang="ts">
import { ElTour, ElTourStep } from 'element-plus'
import { nextTick, ref, watch } from 'vue'
import { useWorkbench } from '../stores/workbench'

/** Shows what the parts of the workbench are for, one after another. */
const open = defineModel<boolean>({ required: true })
const bench = useWorkbench()
const STEPS = [
  {
    at: 'header nav',
    title: 'The chain',
    words:
      'From the site to the dossier. Each stage shows its own view and sheet. Green: its numbers are of what stands now; amber: they are being computed. Alt+1 to Alt+8.',
  },
  {
    at: 'aside.left',
    title: 'Key plan and roles',
    words:
      'Press a grid line or a level to look at that frame or floor. Below it every role with its section, its worst utilisation, and the tonnage.',
  },
  {
    at: 'main.view',
    title: 'The view',
    words:
      'Press a member to choose it; draw a window for several. What is drawn, and under which case or combination, is chosen above it.',
  },
  {
    at: 'aside.right',
    title: 'The sheet',
    words:
      'What can be changed at this stage, and what is known of the chosen member. Fields take units and sums: 6 m + 300 mm. Every change is a revision; Ctrl+Z takes it back.',
  },
  {
    at: 'footer.bottom, section.bottom, .bottom',
    title: 'The ledger',
    words:
      'The same in numbers: sorted by any column, filtered, copied, taken out as a spreadsheet. Cells with a pencil can be written.',
  },
  {
    at: 'header .find',
    title: 'Find',
    words: 'Ctrl+K goes to any member, case, combination, view or command by its name. ? lists all keys.',
  },
]
const step = ref(0)
watch(open, async (now) => {
  step.value = 0
  if (!now) return
  if (['dossier', 'sizing'].includes(bench.stage)) bench.stage = 'verification'
  await nextTick()
})
</script>

<template>
  <ElTour v-model="open" v-model:current="step">
    <ElTourStep
      v-for="s in STEPS"
      :key="s.title"
      :target="s.at"
      :title="s.title"
      :next-button-props="{ children: 'Next' }"
    >
      {{ s.words }}
    </ElTourStep>
  </ElTour>
</template>
