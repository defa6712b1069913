<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import ChoiceField from '../../components/ChoiceField.vue'
import NumberField from '../../components/NumberField.vue'
import PickList from '../../components/PickList.vue'
import TextField from '../../components/TextField.vue'
import { added, removed, replaced } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'

/** A slab or wall that bends, at `path`; corners: how many it has, none of a floor jig, whose slabs lie on its beams. */
const props = defineProps<{ path: string; slab: Schemas['Slab'] | undefined; corners: number }>()
const bench = useWorkbench()
const JOINTS = [
  { value: 'rigid', label: 'turns with it' },
  { value: 'hinged', label: 'hinged' },
]
const WAYS: { value: string; label: string; fixed: Schemas['HeldEdge']['fixed'] }[] = [
  { value: 'free', label: 'free', fixed: [] },
  { value: 'height', label: 'held in height', fixed: ['z'] },
  { value: 'held', label: 'held, may turn', fixed: ['x', 'y', 'z'] },
  { value: 'clamped', label: 'clamped', fixed: ['x', 'y', 'z', 'rx', 'ry', 'rz'] },
]
const edges = computed(() =>
  Array.from({ length: props.corners }, (_, i) => {
    const own = props.slab?.held?.find((h) => h.edge === i + 1)
    const words = [...(own?.fixed ?? [])].sort().join()
    const way = WAYS.find((w) => [...(w.fixed ?? [])].sort().join() === words)
    return { edge: i + 1, own, way: way?.value ?? 'free' }
  }),
)
async function hold(edge: number, value: string): Promise<void> {
  const own = props.slab?.held?.find((h) => h.edge === edge)
  const fixed = WAYS.find((w) => w.value === value)?.fixed ?? []
  const made = { edge, fixed }
  const path = `${props.path}.held`
  const changes = !fixed.length ? (own ? removed(path, own) : []) : own ? replaced(path, own, made) : added(path, made)
  if (changes.length) await bench.edit(`Edge ${edge} ${value}`, changes)
}
</script>

<template>
  <NumberField label="Thickness" :path="`${path}.thickness`" kind="length" :value="slab?.thickness ?? 0.2" />
  <TextField label="Material" :path="`${path}.material`" :written="slab?.material ?? 'C25/30'" />
  <NumberField
    label="Cells at most"
    :path="`${path}.size`"
    kind="length"
    :value="slab?.size ?? 0.5"
    hint="Width of the cells that it is divided into. Half of it, and values that change little: they are fine enough"
  />
  <NumberField
    label="Its middle above the plane"
    :path="`${path}.rise`"
    kind="length"
    :value="slab?.rise ?? 0"
    hint="Above beams it acts with them as one: half the beam's depth and half its own thickness above the axes of the beams"
  />
  <ChoiceField
    label="What it meets"
    :path="`${path}.joint`"
    :value="slab?.joint ?? 'rigid'"
    :options="JOINTS"
    hint="Whether members and other slabs take moments from it"
  />
  <NumberField
    label="Bending stiffness left"
    :path="`${path}.cracked`"
    kind="factor"
    :value="slab?.cracked ?? 1"
    hint="Share of that of the whole section: less where concrete cracks"
  />
  <label v-for="e in edges" :key="e.edge" class="field">
    <span>Edge {{ e.edge }}, corner {{ e.edge }} to {{ (e.edge % corners) + 1 }}</span>
    <PickList
      :model-value="e.way"
      :options="WAYS"
      :label="`Edge ${e.edge}, corner ${e.edge} to ${(e.edge % corners) + 1}`"
      :disabled="!bench.mayChange"
      @update:model-value="(way) => hold(e.edge, way)"
    />
  </label>
</template>
