<script setup lang="ts">
/** What purlins or rails that are no members are verified by: a table of what they bear, or as cold-formed ones with the sheeting on them. */
import { computed } from 'vue'
import ChoiceField from '../../../components/ChoiceField.vue'
import NumberField from '../../../components/NumberField.vue'
import PickList from '../../../components/PickList.vue'
import SectionField from '../../../components/SectionField.vue'
import ToggleField from '../../../components/ToggleField.vue'
import { options } from '../../../lib/options'
import { useWorkbench } from '../../../stores/workbench'

const props = defineProps<{ which: 'purlins' | 'rails' }>()
const bench = useWorkbench()
const COLD = 'cold'
const role = computed(() => (props.which === 'purlins' ? 'purlin' : 'side rail'))
const words = computed(() => (props.which === 'purlins' ? 'Purlins' : 'Rails'))
const kind = computed(() => bench.hall?.[props.which])
const sheeting = computed(() => bench.document?.rules?.sheeting?.[role.value])
const ways = computed(() => [
  { value: '', label: 'none: not verified' },
  { value: COLD, label: 'cold-formed, computed' },
  ...bench.stated.load_tables.map((t) => ({ value: `table ${t.name}`, label: `table: ${t.name}` })),
])
const present = computed(() => (kind.value?.cold ? COLD : kind.value?.table ? `table ${kind.value.table}` : ''))
const GRADES = options('S220GD', 'S250GD', 'S280GD', 'S320GD', 'S350GD', 'S235', 'S275', 'S355', 'S420')
/** One takes the other's place. */
function take(value: string) {
  const path = `hall.${props.which}`
  const cold = value === COLD ? {} : null
  const table = value.startsWith('table ') ? value.slice('table '.length) : ''
  void bench.edit(`${words.value}: ${ways.value.find((w) => w.value === value)?.label ?? value}`, [
    { path: `${path}.${cold ? 'table' : 'cold'}`, value: cold ? '' : null },
    cold ? { path: `${path}.cold`, value: cold } : { path: `${path}.table`, value: table },
  ])
}
</script>

<template>
  <label class="field" title="What they are verified by, where they are no members">
    <span>{{ words }} are verified by</span>
    <PickList
      :model-value="present"
      :options="ways"
      :label="`${words} are verified by`"
      :disabled="!bench.mayChange"
      @update:model-value="take"
    />
  </label>
  <template v-if="kind?.cold">
    <SectionField :label="`${words}, section`" :path="`hall.${which}.cold.section`" :value="kind.cold.section" />
    <ChoiceField
      :label="`${words}, grade`"
      :path="`hall.${which}.cold.grade`"
      :value="kind.cold.grade"
      :options="GRADES"
      hint="Nominal values of EN 10346; the core counts, 0.04 mm of coating do not"
    />
    <NumberField
      :label="`${words}, anti-sag bars`"
      :path="`hall.${which}.cold.bars`"
      kind="count"
      unit="n"
      :value="kind.cold.bars"
      hint="In each span: they hold the free flange sideways, at equal distances: 0 to 3"
    />
    <NumberField
      :label="`${words}, web to fasteners`"
      :path="`hall.${which}.cold.fastener`"
      kind="length"
      :value="kind.cold.fastener"
      optional="b / 2"
      hint="Where suction pulls at the flange; half its width unless stated"
    />
    <NumberField
      :label="`${words}, sheeting: S`"
      :path="`rules.sheeting.${role}.shear`"
      kind="factor"
      unit="kN"
      :value="sheeting?.shear || undefined"
      optional="not stated"
      hint="Shear stiffness of the sheeting that falls to one of them. It must hold the outer flange sideways (EN 1993-1-3 10.1.1(6)); how much that takes stands with the verdict."
    />
    <NumberField
      :label="`${words}, sheeting: C_D`"
      :path="`rules.sheeting.${role}.rotation`"
      kind="factor"
      unit="kNm/m"
      :value="sheeting?.rotation || undefined"
      optional="none"
      hint="Rotational stiffness per radian of sheeting and fasteners, by 10.1.5.2 or by tests: it keeps the free flange from moving sideways. Without it the flange is free between supports and bars."
    />
    <ToggleField
      v-if="sheeting?.shear"
      :label="`${words}, sheeting fixed at every rib`"
      :path="`rules.sheeting.${role}.every_rib`"
      :value="sheeting.every_rib ?? true"
      hint="At every second rib a fifth of S counts"
    />
  </template>
</template>
