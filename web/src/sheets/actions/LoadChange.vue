<script setup lang="ts">
import { computed } from 'vue'
import NumberField from '../../components/NumberField.vue'
import { useWorkbench } from '../../stores/workbench'

/** The load that is chosen, with its components and its place to type. */
const props = defineProps<{ number: number }>()
const bench = useWorkbench()
const load = computed(() => bench.document?.member_loads?.[props.number])
type Change = { value?: [number, number, number]; value_end?: [number, number, number]; start?: number; end?: number }
const UNITS = { line: 'kN/m', force: 'kN', moment: 'kNm', temperature: 'K' }
const unit = computed(() => UNITS[load.value?.kind ?? 'line'])
const NAMES = computed(() =>
  load.value?.kind === 'temperature'
    ? ['of its middle', 'of +y over −y', 'of +z over −z']
    : (load.value?.axes === 'local' ? ['x', 'y', 'z'] : ['X', 'Y', 'Z']).map((axis) => `along ${axis}`),
)
async function change(words: string, change: Change): Promise<string> {
  const done = await bench.operate(`Load on ${load.value?.member}: ${words}`, {
    do: 'load',
    number: props.number,
    ...change,
  })
  return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
}
/** One component at the start, or at the end where that differs. */
function component(key: 'value' | 'value_end', axis: number) {
  return async (typed: number | null) => {
    const value = [...(load.value?.[key] ?? load.value?.value ?? [0, 0, 0])] as [number, number, number]
    value[axis] = typed ?? 0
    return change(`${NAMES.value[axis]} ${value[axis]} ${unit.value}`, { [key]: value })
  }
}
const measure = computed(() => (load.value?.ratio ? '× length' : 'm'))
function place(key: 'start' | 'end') {
  return async (typed: number | null) => {
    // emptied: from one end of its member to the other
    const length = bench.lists.members.find((m) => m.name === load.value?.member)?.length
    const far = key === 'start' ? 0 : load.value?.ratio ? 1 : load.value?.run?.length ? undefined : length
    const at = typed ?? far
    if (at === undefined || at < 0) return 'A distance from the start, nought or more.'
    const [start, end] = [key === 'start' ? at : load.value!.start, key === 'end' ? at : load.value!.end]
    if (load.value?.kind === 'line' && end != null && end <= start) return 'It ends before it begins.'
    return change(`${key} ${at} ${measure.value}`, { [key]: at })
  }
}
</script>

<template>
  <div v-if="load" class="load-change">
    <NumberField
      v-for="(name, axis) in NAMES"
      :key="name"
      :label="name"
      :path="`member_loads.${number}.value.${axis}`"
      kind="factor"
      :unit="unit"
      :value="load.value[axis]"
      :save="component('value', axis)"
    />
    <template v-if="load.value_end">
      <NumberField
        v-for="(name, axis) in NAMES"
        :key="`end ${name}`"
        :label="`${name}, at its end`"
        :path="`member_loads.${number}.value_end.${axis}`"
        kind="factor"
        :unit="unit"
        :value="load.value_end[axis]"
        :save="component('value_end', axis)"
      />
    </template>
    <template v-if="load.kind !== 'temperature'">
      <NumberField
        label="from"
        :path="`member_loads.${number}.start`"
        kind="factor"
        :unit="measure"
        :value="load.start"
        optional="0"
        :save="place('start')"
      />
      <NumberField
        v-if="load.kind === 'line'"
        label="to"
        :path="`member_loads.${number}.end`"
        kind="factor"
        :unit="measure"
        :value="load.end ?? undefined"
        optional="end"
        :save="place('end')"
      />
    </template>
  </div>
</template>
