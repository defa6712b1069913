<script setup lang="ts">
import { ElSwitch } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import NumberField from '../../components/NumberField.vue'
import PickList from '../../components/PickList.vue'
import TypedField from '../../components/TypedField.vue'
import { platesText, readPlates } from '../../lib/stiffeners'
import { useWorkbench } from '../../stores/workbench'

type Own = Schemas['OwnChecks']

/** What helps the webs of the chosen members where something presses on a flange. */
const bench = useWorkbench()
const own = computed<Own>(() => bench.member?.own ?? {})

const KNEES = [
  { value: 'none', label: 'nothing' },
  { value: 'plates', label: 'a supplementary web plate' },
  { value: 'diagonals', label: 'diagonal stiffeners' },
] as const
type Knees = (typeof KNEES)[number]['value']
const joined = computed(() => own.value.knees || bench.member?.checks.some((c) => c.criterion === 'knee'))
const saveKnees = (value: Knees) =>
  save({ knees: value === 'none' ? null : value }, `${KNEES.find((k) => k.value === value)?.label} at rigid joints`)

async function save(checks: Own, words: string): Promise<string> {
  const members = bench.picked.length ? bench.picked : bench.member ? [bench.member] : []
  const done = await bench.operate(
    `${members.length > 1 ? `${members.length} members` : bench.member?.label}: ${words}`,
    ...members.map((m) => ({ do: 'change' as const, members: [m.name], change: { checks } })),
  )
  return done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
}
const saveBearing = (value: number | null) =>
  value !== null && (value < 0 || value > 5000)
    ? Promise.resolve('Between 0 and 5000 mm.')
    : save({ bearing: value }, value === null ? 'no bearing length' : `bearing length ${value} mm`)
const stands = computed(() => own.value.panel || own.value.rigid_ends || own.value.stiffened || own.value.plates)
function savePlates(text: string): Promise<string> | string {
  const plates = readPlates(text)
  if (typeof plates === 'string') return plates
  return save({ plates }, plates ? `stiffeners of plates ${platesText(plates)}` : 'stiffeners without stated plates')
}
const savePanel = (value: number | null) =>
  value !== null && (value < 0 || value > 30)
    ? Promise.resolve('Between 0 and 30 m.')
    : save({ panel: value }, value === null ? 'stiffeners at its supports alone' : `stiffeners every ${value} m`)
</script>

<template>
  <h4>Its web <span>EN 1993-1-5 5, 6, 9</span></h4>
  <NumberField
    label="Stiff bearing length"
    :path="`${bench.member?.name}.bearing`"
    kind="factor"
    unit="mm"
    :value="own.bearing"
    optional="none"
    hint="s_s of loads, supports and members that press on a flange. Empty: 0 between the ends; bearing at the ends is not checked, and said so"
    :save="saveBearing"
  />
  <NumberField
    label="Transverse stiffeners every"
    :path="`${bench.member?.name}.panel`"
    kind="length"
    :value="own.panel"
    optional="supports"
    hint="Distance a along the member, for the buckling of its web in shear (EN 1993-1-5 5). Empty: at its supports alone"
    :save="savePanel"
  />
  <label class="field" title="Of two double-sided stiffeners at each end (EN 1993-1-5 9.3.1)">
    <span>Rigid end posts</span>
    <ElSwitch
      :model-value="own.rigid_ends ?? false"
      size="small"
      aria-label="Rigid end posts"
      @change="(on) => save({ rigid_ends: on ? true : null }, on ? 'rigid end posts' : 'end posts that are not rigid')"
    />
  </label>
  <label
    class="field"
    title="Then its web is not checked there, nor does its shear buckling leave them out; they are checked themselves where their plates are stated"
  >
    <span>Stiffeners where something presses</span>
    <ElSwitch
      :model-value="own.stiffened ?? false"
      size="small"
      aria-label="Stiffeners where something presses"
      @change="(on) => save({ stiffened: on ? true : null }, on ? 'stiffeners' : 'no stiffeners')"
    />
  </label>
  <TypedField
    v-if="stands"
    label="Plates of the stiffeners, mm"
    :path="`${bench.member?.name}.plates`"
    :written="platesText(own.plates)"
    :post="savePlates"
    :hint="`Width × thickness of the plate on each side of the web${own.rigid_ends ? '; behind a comma the distance of the two pairs in an end post: 80 × 8, 200' : ': 80 × 8'} (EN 1993-1-5 9). Empty: the stiffeners themselves are not checked, and said so`"
    :optional="own.rigid_ends ? '80 × 8, 200' : '80 × 8'"
    figures
  />
  <label
    v-if="joined"
    class="field"
    title="Panels of the web where beams are joined rigidly (EN 1993-1-8 6.2.6.1): a plate as thick as the web adds to what bears shear; diagonal stiffeners take it, and are not verified"
  >
    <span>At rigid joints, besides its web</span>
    <PickList
      :model-value="own.knees ?? 'none'"
      :options="KNEES"
      label="At rigid joints, besides its web"
      :disabled="!bench.mayChange"
      @update:model-value="saveKnees"
    />
  </label>
</template>
