<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import ChoiceField from '../components/ChoiceField.vue'
import NumberField from '../components/NumberField.vue'
import MemberChart from '../components/MemberChart.vue'
import ToggleField from '../components/ToggleField.vue'
import { minus } from '../lib/quantity'
import { caseWords } from '../lib/states'
import { useWorkbench } from '../stores/workbench'
import BowsPart from './response/BowsPart.vue'
import FrequenciesPart from './response/FrequenciesPart.vue'
import SlabsPart from './response/SlabsPart.vue'
import SheetHead from './SheetHead.vue'
import PickList from '../components/PickList.vue'

const bench = useWorkbench()
const analysis = computed(() => bench.document?.analysis)
const ORDERS = [
  { value: 'by alpha_cr', label: 'by α_cr' },
  { value: 'second', label: 'second' },
  { value: 'first', label: 'first' },
]
/** What is shown, or the combination of which a mode is. */
const name = computed(() => bench.diagram?.combination || bench.diagram?.state)
const combination = computed(() => bench.chain?.combinations?.find((c) => c.name === name.value))
const state = computed(() => bench.states.find((s) => s.name === name.value))
/** The member that buckles by itself in the mode that is drawn. */
const lone = computed(() => {
  const name = bench.buckling.modes.find((m) => m.state === bench.diagram?.state)?.by_itself
  return name ? (bench.chain?.members?.find((m) => m.name === name)?.label ?? name) : ''
})
const lowest = computed(() =>
  bench.states
    .filter((s) => s.alpha !== null)
    .reduce<(typeof bench.states)[number] | null>((best, s) => (!best || s.alpha! < best.alpha! ? s : best), null),
)
const below = (limit: number) => bench.states.filter((s) => s.alpha !== null && s.alpha < limit).length
const limit = computed(() => analysis.value?.second_order_below ?? 10)
const unsound = computed(() => bench.states.filter((s) => !s.stable || !s.settled))
const triple = (v: readonly number[]) => minus(v.map((x) => (Math.abs(x) < 0.05 ? 0 : x).toFixed(1)).join(' / '))

/** What can be drawn beside: the revision before, named versions, and every state. */
const besides = computed(() => {
  const now = bench.project?.revision.number ?? 1
  return [
    { value: '', label: 'nothing' },
    ...(now > 1 ? [{ value: `#${now - 1}`, label: `the same, revision ${now - 1}` }] : []),
    ...bench.versions
      .filter((v) => v.number < now - 1)
      .map((v) => ({ value: `#${v.number}`, label: `the same, ${v.name}` })),
    { value: 'envelope', label: 'envelope of strength' },
    ...bench.lists.cases.map((c) => ({ value: c.symbol, label: caseWords(c) })),
    ...bench.lists.combinations.map((c) => ({ value: c.name, label: `${c.name} · ${c.formula}` })),
  ]
})
function look(shape: string) {
  bench.overlays = new Set([...bench.overlays, 'sway'])
  bench.show(shape)
}
</script>

<template>
  <SheetHead
    :title="bench.member?.label ?? 'Response'"
    :aside="bench.member ? `${bench.member.section} · ${bench.member.material}` : ''"
  />
  <template v-if="bench.chain?.problem">
    <p class="note fails">{{ bench.chain.problem.message }}</p>
    <p v-if="bench.diagram?.state === 'mechanism'" class="note">
      Drawn as “Movement”: the shape in which the structure can move without resistance.
    </p>
  </template>
  <template v-else>
    <h4>
      Shown <span class="mono">{{ bench.diagram?.state }}</span>
    </h4>
    <p class="note mono">{{ bench.diagram?.formula }}</p>
    <p class="buttons">
      <ElButton size="small" title="Previous combination (key ,)" @click="bench.stepState(-1)">‹ previous</ElButton>
      <ElButton size="small" title="Next combination (key .)" @click="bench.stepState(1)">next ›</ElButton>
    </p>
    <label class="field" title="Drawn on the same scale, in the view and in the chart">
      <span>Beside it</span>
      <PickList
        :model-value="bench.beside"
        :options="besides"
        label="What is drawn beside"
        placeholder="nothing"
        @update:model-value="bench.putBeside"
      />
    </label>
    <p v-if="bench.beside" class="buttons">
      <ElButton size="small" :aria-pressed="bench.split" @click="bench.split = !bench.split">
        {{ bench.split ? 'One view, dashed' : 'Side by side' }}
      </ElButton>
    </p>
    <MemberChart v-if="bench.member && bench.diagram?.kind !== 'mode'" />
    <div v-if="bench.lateral?.covered" class="pairs">
      <span
        title="Factor on the forces of this state at which the member buckles sideways and twists, between the restraints of its flanges, loads at the shear centre; eigenvalue of the thin-walled beam with warping"
        >Buckles sideways at α_LT</span
      ><b :class="{ fails: (bench.lateral.factor ?? 9) < 1 }">{{
        bench.lateral.factor === null ? 'never' : bench.lateral.factor.toFixed(2)
      }}</b>
    </div>
    <p v-if="!bench.member" class="note">Point at a member to see all its diagrams.</p>
    <template v-if="state">
      <h4>Check of {{ state.name }}</h4>
      <div class="pairs">
        <span title="Sum of all loads, X / Y / Z">Applied, kN</span><b>{{ triple(state.applied) }}</b>
        <template v-if="!state.free">
          <span title="What the supports take, X / Y / Z">Reacted, kN</span><b>{{ triple(state.reacted) }}</b>
          <span :title="state.node">Largest movement</span><b>{{ state.moved.toFixed(1) }} mm</b>
          <span title="Largest force out of balance beside the largest load">Residual</span
          ><b>{{ state.residual.toExponential(1) }}</b> <span>Order of the analysis</span
          ><b>{{ state.order === 2 ? 'second' : 'first' }}</b>
          <template v-if="state.alpha !== null">
            <span title="Critical factor, EN 1993-1-1 5.2.1(3)">α_cr</span
            ><b :class="{ fails: state.alpha < 1 }">{{ state.alpha.toFixed(2) }}</b>
          </template>
          <template v-if="state.together !== null && state.together !== state.alpha">
            <span
              title="The lowest factor at which no member buckles by itself, between its own ends: it chooses the order of the analysis"
              >α_cr of the frame together</span
            ><b>{{ state.together.toFixed(2) }}</b>
          </template>
          <template v-if="state.buckles">
            <span>First buckles</span><b class="words">{{ state.buckles }}</b>
          </template>
        </template>
        <template v-if="state.slack.length">
          <span :title="state.slack.join(', ')">Members that do not act</span><b>{{ state.slack.length }}</b>
        </template>
      </div>
      <p v-if="state.free" class="note fails">
        What does not act here ({{ state.slack.slice(0, 3).join(', ')
        }}{{ state.slack.length > 3 ? ` and ${state.slack.length - 3} more` : '' }}) leaves a mechanism: there are no
        forces to show.
        <ElButton link type="primary" size="small" @click="look(`free:${state.name}`)">Draw how it moves</ElButton>
      </p>
      <p v-else-if="!state.stable" class="note fails">
        This combination lies beyond its critical load: it has no equilibrium. First-order values are shown.
      </p>
      <p v-if="!state.settled" class="note fails">
        Members or supports that act one way alternate and find no state here; the last one is shown.
      </p>
      <p v-if="combination && !state.free && ['strength', 'accidental'].includes(combination.use)" class="buttons">
        <ElButton size="small" @click="bench.loadModes(state.name)">Buckling modes</ElButton>
        <template v-if="bench.buckling.of === state.name">
          <ElButton
            v-for="m in bench.buckling.modes"
            :key="m.state"
            size="small"
            class="mono"
            :title="m.by_itself ? `${m.by_itself} buckles by itself` : 'Parts of the frame buckle together'"
            @click="look(m.state)"
          >
            {{ m.value.toFixed(2) }}
          </ElButton>
          <span v-if="!bench.buckling.modes.length" class="note">Nothing is pressed: nothing buckles.</span>
        </template>
      </p>
    </template>
    <p v-if="lone" class="note">
      In this mode {{ lone }} buckles by itself: that is its own check as a member, not sway of the frame.
    </p>
    <h4>Analysis</h4>
    <ChoiceField
      v-if="analysis"
      label="Order"
      path="analysis.order"
      :value="analysis.order ?? 'by alpha_cr'"
      :options="ORDERS"
      hint="EN 1993-1-1 5.2: second order with sway imperfections takes members between their ends (5.2.2(7)b); first order below the limit counts as not verified"
    />
    <NumberField
      v-if="analysis && analysis.order === 'by alpha_cr'"
      label="Second order below α_cr"
      path="analysis.second_order_below"
      kind="factor"
      :value="limit"
      hint="EN 1993-1-1 5.2.1(3): 10 in elastic analysis; nationally 3 for some frames"
    />
    <ToggleField
      v-if="analysis"
      label="Shear deformation"
      path="analysis.shear_deformation"
      :value="analysis.shear_deformation"
    />
    <NumberField
      v-if="analysis"
      label="Hinged beams bear before the face of columns"
      path="analysis.bears_at"
      kind="length"
      :value="analysis.bears_at"
      optional="in the axis"
      hint="Beams that are hinged to columns hand over their reactions this far in front of the column's face, and bend it. Empty: in its axis, and verdicts say what moments that leaves out. A member may say otherwise."
    />
    <div class="pairs">
      <template v-if="lowest">
        <span :title="`${lowest.name}; ${below(limit)} combinations lie below ${limit}`"
          >Lowest α_cr, {{ lowest.name }}</span
        ><b :class="{ fails: lowest.alpha! < 1 }">{{ lowest.alpha!.toFixed(2) }}</b>
      </template>
      <span>Time of the chain</span
      ><b>{{ (1000 * Object.values(bench.chain?.seconds ?? {}).reduce((a, b) => a + b, 0)).toFixed(0) }} ms</b>
    </div>
    <p v-if="lowest?.buckles" class="note">In {{ lowest.name }} {{ lowest.buckles }}.</p>
    <p v-if="analysis?.order === 'first' && below(limit)" class="note uncovered">
      {{ below(limit) }} combinations have α_cr below {{ limit }}: in first order they count as not verified.
    </p>
    <p v-if="unsound.length" class="note fails">
      {{ unsound.length }} combinations find no equilibrium:
      {{
        unsound
          .map((s) => s.name)
          .slice(0, 6)
          .join(', ')
      }}.
    </p>
    <SlabsPart />
    <BowsPart v-if="analysis" />
    <FrequenciesPart />
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
b.fails {
  color: var(--oxide);
}
</style>
