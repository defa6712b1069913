<script setup lang="ts">
import type { Schemas } from '../../api/client'
import FoldPart from '../../components/FoldPart.vue'
import NumberField from '../../components/NumberField.vue'
import { useWorkbench } from '../../stores/workbench'

/** Lengths for lateral-torsional buckling, segment by segment between the restraints of a flange; one of one's own is typed in its place. */
defineProps<{ segments: readonly Schemas['SegmentOut'][] }>()
const bench = useWorkbench()
type Segment = Schemas['SegmentOut']
const place = (s: Segment) => `${s.flange} ${s.start.toFixed(2)} to ${s.end.toFixed(2)} m`
const distance = (s: Segment) => s.end - s.start
function save(s: Segment): (value: number | null) => Promise<string> {
  return async (value) => {
    const factor = value === null ? null : value / distance(s)
    if (factor !== null && (factor < 0.1 || factor > 10)) return 'Between a tenth and ten times its segment.'
    const words = value === null ? 'between its restraints' : `${value} m`
    const done = await bench.operate(`${bench.member?.label}: L_LT ${place(s)} ${words}`, {
      do: 'lateral',
      members: [bench.selected],
      flange: s.flange,
      at: (s.start + s.end) / 2,
      factor,
    })
    return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
  }
}
</script>

<template>
  <FoldPart v-if="segments.length" :open="segments.some((s) => s.stated !== null)">
    <template #title>
      Lateral buckling, by segment <span class="count">{{ segments.length }}</span>
    </template>
    <NumberField
      v-for="s in segments"
      :key="place(s)"
      :label="place(s)"
      :path="`${bench.selected}.lateral.${s.flange}.${s.start}`"
      kind="length"
      :value="s.stated === null ? undefined : s.length"
      :optional="s.length.toFixed(2)"
      hint="L_LT of this segment. Empty: the distance of what holds its flange, twice that to a free end."
      :save="save(s)"
    />
  </FoldPart>
</template>

<style scoped>
.count {
  margin-left: 6px;
  color: var(--ink-2);
}
</style>
