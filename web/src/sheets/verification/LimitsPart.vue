<script setup lang="ts">
import { computed } from 'vue'
import FoldPart from '../../components/FoldPart.vue'
import LimitField from '../../components/LimitField.vue'
import NumberField from '../../components/NumberField.vue'
import OfficeKept from '../../components/OfficeKept.vue'
import { changesOf, type Changed } from '../../lib/limitChanges'
import type { Limit } from '../../lib/limit'
import type { Schemas } from '../../api/client'
import { useWorkbench } from '../../stores/workbench'
import LimitPresets from './LimitPresets.vue'

/** Limits of movement by role. */
const bench = useWorkbench()
const rules = computed(() => bench.document!.rules!)
const NONE: Schemas['RoleLimits'] = {
  total_mm: null,
  variable_mm: null,
  imposed: null,
  imposed_mm: null,
  lasting: null,
  lasting_mm: null,
}
const more = (role: string) => rules.value.limits?.[role as 'column'] ?? NONE
/** Of the roles that are there; of a chosen member its own alone. */
const roles = computed(() => bench.lists.limits_variable.filter((l) => !bench.member || bench.member.role === l.role))
const ROOF = ['rafter', 'top chord', 'bottom chord']
const MORE = [
  {
    title: 'Under imposed loads alone',
    ratio: 'imposed',
    mm: 'imposed_mm',
    hint: 'Characteristic combinations in which nothing acts but imposed loads. Empty: not looked at.',
  },
  {
    title: 'Under quasi-permanent actions',
    ratio: 'lasting',
    mm: 'lasting_mm',
    hint: 'What lasts, less the camber (expression 6.16b). Empty: not looked at.',
  },
] as const
const stated = (role: string, { ratio, mm }: (typeof MORE)[number]) => !!(more(role)[ratio] ?? more(role)[mm])

function saved(...fields: readonly Changed[]) {
  return async (limit: Limit, words: string) => {
    const done = await bench.edit(words, changesOf(rules.value, limit, fields))
    return done ? '' : (bench.refusal?.reason ?? 'Nothing was changed.')
  }
}
</script>

<template>
  <h4>Limits <span>length over deflection, or mm</span></h4>
  <LimitPresets />
  <OfficeKept kind="limits" />
  <LimitField
    label="Rafters, chords"
    path="rules.rafter_deflection_ratio"
    :ratio="rules.rafter_deflection_ratio"
    :mm="more('rafter').total_mm"
    hint="Vertical, off the line between the supports, characteristic combinations."
    :save="saved({ ratio: 'rafter_deflection_ratio', mm: 'total_mm', roles: ROOF })"
  />
  <LimitField
    label="Columns, sway"
    path="rules.eaves_sway_ratio"
    :ratio="rules.eaves_sway_ratio"
    :mm="more('column').total_mm"
    hint="Horizontal movement of the head beside the foot, characteristic combinations."
    :save="saved({ ratio: 'eaves_sway_ratio', mm: 'total_mm', roles: ['column'] })"
  />
  <NumberField
    v-if="bench.hall"
    label="Neighbouring frames"
    path="rules.apart_ratio"
    kind="factor"
    :value="rules.apart_ratio || undefined"
    optional="none"
    hint="Distance of two frames over what their eaves move apart, across: sheeting between them is strained by it. Empty or 0: no limit"
  />
  <LimitField
    v-for="l in bench.lists.limits"
    :key="l.role"
    :label="l.label"
    :path="`rules.deflections.${l.role}`"
    :ratio="l.stated"
    :mm="more(l.role).total_mm"
    :optional="l.usual.toFixed(0)"
    hint="Off the line between the supports, characteristic combinations. Empty: the usual value; 0: not checked."
    :save="saved({ ratio: `deflections.${l.role}`, mm: 'total_mm', roles: [l.role] })"
  />
  <h4 v-if="roles.length">Under variable actions alone <span>besides</span></h4>
  <LimitField
    v-for="l in roles"
    :key="l.role"
    :label="l.label"
    :path="`rules.deflections_variable.${l.role}`"
    :ratio="l.stated"
    :mm="more(l.role).variable_mm"
    optional="none"
    hint="Characteristic combinations without the permanent actions. Empty: not looked at."
    :save="saved({ ratio: `deflections_variable.${l.role}`, mm: 'variable_mm', roles: [l.role] })"
  />
  <FoldPart
    v-for="kind in roles.length ? MORE : []"
    :key="kind.ratio"
    :title="kind.title"
    :open="roles.some((l) => stated(l.role, kind))"
  >
    <LimitField
      v-for="l in roles"
      :key="l.role"
      :label="l.label"
      :path="`rules.limits.${l.role}.${kind.ratio}`"
      :ratio="more(l.role)[kind.ratio]"
      :mm="more(l.role)[kind.mm]"
      optional="none"
      :hint="kind.hint"
      :save="saved({ ratio: `limits.${l.role}.${kind.ratio}`, mm: kind.mm, roles: [l.role] })"
    />
  </FoldPart>
</template>
