<script setup lang="ts">
import { computed } from 'vue'
import NumberField from '../../components/NumberField.vue'
import { useWorkbench } from '../../stores/workbench'

/** What stays lead to, where it is stated in place of what the model or the hall says of it; what it must be stands beside each member. */
const bench = useWorkbench()
const USUAL = ['rafter', 'column']
const roles = computed(() =>
  bench.lists.limits_slenderness.filter((l) =>
    bench.member ? bench.member.role === l.role && bench.member.behaviour === 'beam' : USUAL.includes(l.role),
  ),
)
const stated = computed(() => bench.document?.rules?.stays ?? {})
</script>

<template>
  <template v-if="roles.length">
    <h4>What stays lead to <span>where both flanges are held</span></h4>
    <template v-for="l in roles" :key="l.role">
      <NumberField
        :label="`${l.label}, one stay: C_θ`"
        :path="`rules.stays.${l.role}.rotation`"
        kind="factor"
        unit="kNm/rad"
        :value="stated[l.role]?.rotation || undefined"
        optional="found"
        hint="How stiff what one stay leads to is against the member's twist. Empty: found from the purlins, rails and members that meet it there, 2 E I/L to each side."
      />
      <NumberField
        v-if="stated[l.role]?.rotation"
        :label="`${l.label}, one stay: M_Rd`"
        :path="`rules.stays.${l.role}.moment`"
        kind="factor"
        unit="kNm"
        :value="stated[l.role]?.moment || undefined"
        optional="not known"
        hint="The moment that it may bear of one stay: 2.5 % of the force in the flange (EN 1993-1-1 6.3.5.2), times the distance of the flanges."
      />
    </template>
  </template>
</template>
