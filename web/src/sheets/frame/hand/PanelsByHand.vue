<script setup lang="ts">
import { ElButton } from 'element-plus'
import NumberField from '../../../components/NumberField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { removed, unnamed } from '../../../lib/changes'
import { useWorkbench } from '../../../stores/workbench'
import DeckPart from '../DeckPart.vue'

/** Panels drawn by hand: what they bring along, and how they carry. */
const bench = useWorkbench()
const dropPanel = (name: string) =>
  bench.edit(`${name} removed`, [
    ...unnamed('panels', bench.document?.panels, name),
    ...removed('panel_loads', ...bench.stated.panel_loads.filter((load) => load.panel === name)),
  ])
</script>

<template>
  <template v-if="bench.document?.panels?.length">
    <h4>Panels by hand</h4>
    <template v-for="(p, i) in bench.document.panels" :key="p.name">
      <p class="buttons">
        <b>{{ p.name }}</b>
        <ElButton link type="primary" size="small" @click="bench.openPanel(p.name)">lay flat</ElButton>
        <ElButton link type="primary" size="small" :title="`Remove ${p.name}`" @click="dropPanel(p.name)">×</ElButton>
      </p>
      <NumberField label="Deck and finishes" :path="`panels.${i}.permanent`" kind="pressure" :value="p.permanent" />
      <NumberField label="Imposed" :path="`panels.${i}.imposed`" kind="pressure" :value="p.imposed" />
      <ToggleField
        v-if="p.diaphragm !== 'slab'"
        label="Spans two ways"
        :path="`panels.${i}.two_way`"
        :value="p.two_way"
      />
      <DeckPart
        :path="`panels.${i}`"
        :diaphragm="p.diaphragm ?? 'none'"
        :membrane="p.membrane"
        :slab="p.slab"
        :corners="p.corners.length"
      />
      <ToggleField
        v-if="p.diaphragm !== 'slab'"
        label="Imposed reduced by area, α_A"
        :path="`panels.${i}.reduced`"
        :value="p.reduced"
        hint="EN 1991-1-1 6.3.1.2(10), categories A to D"
      />
      <NumberField
        label="Snow, μ"
        :path="`panels.${i}.snow`"
        kind="factor"
        :value="p.snow"
        optional="none"
        hint="Shape coefficient with which it takes part in the generated snow"
      />
      <NumberField
        v-for="d in ['left', 'right', 'front', 'back'] as const"
        :key="d"
        :label="`Wind from the ${d}, net c_p`"
        :path="`panels.${i}.wind.${d}`"
        kind="factor"
        :value="p.wind?.[d]"
        optional="none"
        hint="Net pressure coefficient, pressing from outside, with q_p at its top"
      />
    </template>
  </template>
</template>
