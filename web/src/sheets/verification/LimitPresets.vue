<script setup lang="ts">
import { useList } from '../../api/queries'
import { keyed, type Change } from '../../lib/changes'
import PickList from '../../components/PickList.vue'
import { useWorkbench } from '../../stores/workbench'

/** Limits by what hangs on the steel: all of a set at once, each changeable afterwards. */
const bench = useWorkbench()
const presets = useList('/api/limits', () => ({}))
function take(name: string) {
  const preset = presets.value.find((p) => p.name === name)
  if (!preset) return
  void bench.edit(`Limits for ${name.toLowerCase()}`, [
    { path: 'rules.rafter_deflection_ratio', value: preset.rafters },
    { path: 'rules.eaves_sway_ratio', value: preset.sway },
    ...roles('rules.deflections', preset.roles, bench.document?.rules?.deflections),
    ...roles('rules.deflections_variable', preset.variable, bench.document?.rules?.deflections_variable),
  ])
}
/** Each role by itself: what a set says, and nothing of what another set may have said. */
function roles(path: string, wanted: Record<string, number>, stated: Record<string, unknown> = {}): Change[] {
  const known = new Set(presets.value.flatMap((p) => [...Object.keys(p.roles ?? {}), ...Object.keys(p.variable ?? {})]))
  return [...known].filter((role) => role in wanted || role in stated).map((role) => keyed(path, role, wanted[role]))
}
</script>

<template>
  <label
    v-if="bench.mayChange && presets.length"
    class="field"
    title="Usual values: EN 1990 A1.4 leaves them to the client"
  >
    <span>By what hangs on the steel</span>
    <PickList
      model-value=""
      :options="presets.map((p) => ({ value: p.name, label: `${p.name}: ${p.words}` }))"
      label="Limits by what hangs on the steel"
      placeholder="Take a set…"
      @update:model-value="take"
    />
  </label>
</template>
