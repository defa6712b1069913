<script setup lang="ts">
import { ElButton } from 'element-plus'
import ChoiceField from '../components/ChoiceField.vue'
import NumberField from '../components/NumberField.vue'
import { figures } from '../lib/temper'
import { useWorkbench } from '../stores/workbench'
import SheetHead from './SheetHead.vue'
import CraneRailsPart from './verification/CraneRailsPart.vue'
import CriteriaPart from './verification/CriteriaPart.vue'
import HolesPart from './verification/HolesPart.vue'
import LengthsPart from './verification/LengthsPart.vue'
import LimitsPart from './verification/LimitsPart.vue'
import OwnPart from './verification/OwnPart.vue'
import RemarkPart from './verification/RemarkPart.vue'
import SheetingPart from './verification/SheetingPart.vue'
import StaysPart from './verification/StaysPart.vue'
import WholePart from './verification/WholePart.vue'
import WebPart from './verification/WebPart.vue'
import ValuesPart from './verification/ValuesPart.vue'
import WhyPart from './verification/WhyPart.vue'

defineEmits<{ proof: [criterion: string, combination?: string] }>()
const bench = useWorkbench()
</script>

<template>
  <template v-if="bench.member">
    <SheetHead :title="bench.member.label" :aside="`${bench.member.section} · ${bench.member.material}`" />
    <div v-if="bench.member.checks?.[0]" class="verdict" :class="bench.member.status.replace(' ', '-')">
      <b class="mono">{{ figures(bench.member.utilisation ?? null) }}</b>
      <strong>{{ bench.member.status }} · {{ bench.member.governs }}</strong>
      <span
        >{{ bench.member.combination }} · at {{ bench.member.checks[0].position.toFixed(2) }} m ·
        {{ bench.member.checks[0].clause }}</span
      >
      <span class="mono formula">{{ bench.member.checks[0].formula }}</span>
      <ElButton size="small" @click="$emit('proof', bench.member.checks[0].criterion)">Proof</ElButton>
    </div>
    <p v-for="reason in bench.member.not_covered" :key="reason" class="uncovered" role="note">
      <b>Not covered:</b> {{ reason }}.
    </p>
    <p v-for="words in bench.member.left_out" :key="words" class="uncovered" role="note">
      <b>Left out:</b> {{ words }}.
    </p>
    <CriteriaPart @proof="(criterion, combination) => $emit('proof', criterion, combination)" />
    <WhyPart />
    <LengthsPart />
    <ValuesPart />
    <OwnPart />
    <WebPart v-if="bench.member.behaviour === 'beam'" />
    <HolesPart />
    <RemarkPart />
  </template>
  <template v-else>
    <SheetHead title="Verification" aside="EN 1993-1-1" />
    <WholePart />
  </template>
  <template v-if="bench.document?.rules">
    <h4 v-if="bench.lists.lengths.length">Effective lengths by role <span>× own length</span></h4>
    <template v-for="l in bench.lists.lengths" :key="l.role">
      <template v-if="!bench.member || bench.member.role === l.role">
        <NumberField
          :label="`${l.label}: about y`"
          :path="`rules.effective_lengths.${l.role}.y`"
          kind="factor"
          unit="×"
          :value="l.set_y"
          :optional="(l.y / l.length).toFixed(3)"
          :hint="`L_cr,y = ${l.y.toFixed(2)} m: ${l.why_y}. Empty: by rule.`"
        />
        <NumberField
          :label="`${l.label}: about z`"
          :path="`rules.effective_lengths.${l.role}.z`"
          kind="factor"
          unit="×"
          :value="l.set_z"
          :optional="(l.z / l.length).toFixed(3)"
          :hint="`L_cr,z = ${l.z.toFixed(2)} m: ${l.why_z}. Empty: by rule.`"
        />
      </template>
    </template>
    <SheetingPart />
    <StaysPart />
    <LimitsPart />
    <CraneRailsPart />
    <h4 v-if="bench.lists.limits_frequency.length">Natural frequency <span>Hz at least, beam by beam</span></h4>
    <template v-for="l in bench.lists.limits_frequency" :key="l.role">
      <NumberField
        v-if="!bench.member || bench.member.role === l.role"
        :label="l.label"
        :path="`rules.frequencies.${l.role}`"
        kind="factor"
        :value="l.stated ?? undefined"
        optional="none"
        hint="17.75/√w with what the quasi-permanent combinations bend it by, w in mm. Empty or 0: no limit."
      />
    </template>
    <NumberField
      v-if="bench.lists.limits_frequency.some((l) => ['main beam', 'joist'].includes(l.role))"
      label="Floors, with what they rest on"
      path="rules.floor_frequency"
      kind="factor"
      unit="Hz"
      :value="bench.document.rules.floor_frequency ?? undefined"
      optional="none"
      hint="Main beams and joists together with the beams and columns under them: 1/f² = w₁/17.75² + w₂/15.76², w in mm. Empty or 0: no limit."
    />
    <h4 v-if="bench.lists.limits_slenderness.length">Slenderness <span>L_cr/i at most, where you want one</span></h4>
    <template v-for="l in bench.lists.limits_slenderness" :key="l.role">
      <NumberField
        v-if="!bench.member || bench.member.role === l.role"
        :label="l.label"
        :path="`rules.slenderness.${l.role}`"
        kind="factor"
        :value="l.stated ?? undefined"
        optional="none"
        hint="The larger of L_cr,y/i_y and L_cr,z/i_z, whether pressed or pulled. Empty or 0: no limit."
      />
    </template>
    <ChoiceField
      label="Loads act at"
      path="rules.loads_at"
      :value="bench.document.rules.loads_at ?? 'upper flange'"
      :options="['upper flange', 'shear centre'].map((value) => ({ value, label: `the ${value}` }))"
      hint="Of members that nothing holds between the ends of a segment, for lateral-torsional buckling"
    />
  </template>
</template>

<style scoped>
.verdict {
  margin: 6px 12px;
  border: 1px solid var(--line);
  border-left: 4px solid var(--current);
  background: #fff;
  padding: 8px 10px;
  font: 400 12.5px var(--condensed);
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 8px;
}
.verdict > b {
  grid-column: 2;
  grid-row: 1 / 3;
  font-size: 22px;
  line-height: 1;
}
.verdict strong {
  grid-column: 1;
  font-weight: 600;
}
.verdict span {
  grid-column: 1;
  color: var(--ink-2);
}
.verdict .formula {
  font-size: 11px;
}
.verdict .el-button {
  grid-column: 2;
  grid-row: 3 / 5;
  align-self: end;
}
.verdict.fails {
  border-left: 0;
  position: relative;
  padding-left: 16px;
}
.verdict.fails::before {
  content: '';
  position: absolute;
  inset: 0 auto 0 0;
  width: 7px;
  background: var(--hatch);
}
.verdict.fails > b,
.verdict.fails strong {
  color: var(--oxide);
}
.verdict.not-covered {
  border-left-color: var(--behind);
}
h4 span {
  font-weight: 400;
}
</style>
