<script setup lang="ts">
import { computed } from 'vue'
import NumberField from '../components/NumberField.vue'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const rules = computed(() => bench.document?.rules)
const count = (use: string) => (bench.chain?.combinations ?? []).filter((c) => c.use === use).length
</script>

<template>
  <SheetHead title="Combinations" :aside="`${bench.chain?.combinations?.length ?? 0}`" />
  <template v-if="rules">
    <div class="pairs">
      <span>Strength, EN 1990 (6.10)</span><b>{{ count('strength') }}</b> <span>Deflection, characteristic (6.14b)</span
      ><b>{{ count('deflection') }}</b>
    </div>
    <h4>Partial factors <span>recommended: 1.35, 1.00, 1.50</span></h4>
    <NumberField
      label="γG unfavourable"
      path="rules.gamma_G_unfavourable"
      kind="factor"
      :value="rules.gamma_G_unfavourable"
      hint="EN 1990 table A1.2(B)"
    />
    <NumberField
      label="γG favourable"
      path="rules.gamma_G_favourable"
      kind="factor"
      :value="rules.gamma_G_favourable"
      hint="EN 1990 table A1.2(B)"
    />
    <NumberField label="γQ" path="rules.gamma_Q" kind="factor" :value="rules.gamma_Q" hint="EN 1990 table A1.2(B)" />
    <h4>Combination factors <span>table A1.1</span></h4>
    <NumberField label="ψ0 wind" path="rules.psi0_wind" kind="factor" :value="rules.psi0_wind" hint="Recommended 0.6" />
    <NumberField
      label="ψ0 snow"
      path="rules.psi0_snow"
      kind="factor"
      :value="rules.psi0_snow"
      :optional="(bench.document?.site?.altitude ?? 0) > 1000 ? '0.7' : '0.5'"
      hint="Empty: 0.5 up to 1000 m of altitude, 0.7 above"
    />
    <p class="note">
      Permanent cases act together, all unfavourable or all favourable. Of the snow arrangements one acts at a time, of
      the wind cases too; each action leads once, the other accompanies it with ψ0. Choose a combination in the ledger
      to see the frame under it.
    </p>
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
</style>
