<script setup lang="ts">
import { computed } from 'vue'
import NumberField from '../../components/NumberField.vue'
import ToggleField from '../../components/ToggleField.vue'
import { useWorkbench } from '../../stores/workbench'

/** Sheeting that may hold members of a role all along: what it has; what it needs stands beside each member. */
const bench = useWorkbench()
const USUAL = ['purlin', 'side rail']
const roles = computed(() =>
  bench.lists.limits_slenderness.filter((l) =>
    bench.member ? bench.member.role === l.role && bench.member.behaviour === 'beam' : USUAL.includes(l.role),
  ),
)
const stated = computed(() => bench.document?.rules?.sheeting ?? {})
</script>

<template>
  <template v-if="roles.length">
    <h4>Sheeting on them <span>EN 1993-1-1 BB.2</span></h4>
    <template v-for="l in roles" :key="l.role">
      <NumberField
        :label="`${l.label}: S`"
        :path="`rules.sheeting.${l.role}.shear`"
        kind="factor"
        unit="kN"
        :value="stated[l.role]?.shear || undefined"
        optional="none"
        hint="Shear stiffness of the sheeting that falls to one member. Where it is as stiff as BB.2.1 asks for, the outer flange counts as held all along."
      />
      <template v-if="stated[l.role]">
        <NumberField
          :label="`${l.label}: C_θ`"
          :path="`rules.sheeting.${l.role}.rotation`"
          kind="factor"
          unit="kNm/m"
          :value="stated[l.role]?.rotation || undefined"
          optional="none"
          hint="Rotational stiffness per radian of sheeting and fixings. Where it is as stiff as BB.2.2 asks for, and S too, the inner flange counts as held as well."
        />
        <ToggleField
          :label="`${l.label}: fixed at every rib`"
          :path="`rules.sheeting.${l.role}.every_rib`"
          :value="stated[l.role]?.every_rib ?? true"
          hint="At every second rib a fifth of S counts"
        />
      </template>
    </template>
  </template>
</template>
