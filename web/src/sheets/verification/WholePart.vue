<script setup lang="ts">
/** What may be said of the building as a whole: verdicts, equilibrium, what bracing stabilises, what is left out. */
import { computed, ref } from 'vue'
import { ElButton } from 'element-plus'
import { figures } from '../../lib/temper'
import { useWorkbench } from '../../stores/workbench'
import SecondaryPart from './SecondaryPart.vue'

const bench = useWorkbench()
/** What is left out is said in full when asked for, so that it does not push the numbers out of sight. */
const FEW = 2
const all = ref(false)
const leftOut = computed(() => bench.chain?.whole?.left_out ?? [])
const said = computed(() => (all.value ? leftOut.value : leftOut.value.slice(0, FEW)))
</script>

<template>
  <p v-if="bench.chain?.whole" class="note whole" role="status">
    <b>{{ bench.chain.whole.passing }}</b> members pass,
    <b :class="{ fails: bench.chain.whole.failing }">{{ bench.chain.whole.failing }}</b> fail,
    <b>{{ bench.chain.whole.not_covered }}</b> are not covered.
  </p>
  <p v-for="l in said" :key="l.words" class="uncovered" role="note">
    <b>Left out{{ l.members ? `, ${l.members} members` : '' }}:</b> {{ l.words }}.
  </p>
  <p v-if="leftOut.length > FEW" class="buttons">
    <ElButton link type="primary" size="small" :aria-expanded="all" @click="all = !all">
      {{ all ? 'Fewer' : `${leftOut.length - FEW} more are left out` }}
    </ElButton>
  </p>
  <p class="note">Point at a member in the view or in the ledger to see what governs it, and the proof.</p>
  <template v-if="bench.chain?.equilibrium?.length">
    <h4>Static equilibrium <span>EQU, EN 1990 6.4.2</span></h4>
    <div class="checks">
      <ElButton
        v-for="t in bench.chain.equilibrium"
        :key="t.words"
        class="bare"
        :title="`${t.combination}: ${t.formula}; acting ${t.acting.toFixed(0)}, resisting ${t.resisting.toFixed(0)} ${t.moment ? 'kNm' : 'kN'}: show the combination`"
        @click="bench.show(t.combination)"
      >
        <span>{{ t.words }}</span><em class="mono">{{ t.combination }}</em
        ><b class="mono" :class="{ fails: (t.utilisation ?? 9) > 1 }">{{
          t.utilisation === null ? '∞' : figures(t.utilisation)
        }}</b>
      </ElButton>
    </div>
    <p v-if="bench.chain.lifted?.length" class="note">
      {{ bench.chain.lifted.length }} supports are pulled upwards, most {{ bench.chain.lifted[0]!.node }} with
      {{ bench.chain.lifted[0]!.tension.toFixed(1) }} kN in {{ bench.chain.lifted[0]!.combination }}. Where the weight
      alone does not resist, anchors and foundations must: their forces stand under Reactions in the ledger.
    </p>
  </template>
  <SecondaryPart />
  <template v-if="bench.chain?.stabilised?.length">
    <h4>What bracing stabilises <span>q_d, EN 1993-1-1 5.3.3</span></h4>
    <div class="checks">
      <ElButton
        v-for="(s, i) in bench.chain.stabilised"
        :key="i"
        class="bare"
        :title="`ΣN_Ed ${s.compression.toFixed(0)} kN, α_m ${s.alpha_m.toFixed(2)}, e_0 ${s.bow.toFixed(1)} mm, δ_q ${s.movement.toFixed(1)} mm: show ${s.combination}, ${s.formula}`"
        @click="bench.show(s.combination)"
      >
        <span>{{ s.lines }} lines over {{ s.span.toFixed(1) }} m</span><em class="mono">{{ s.combination }}</em
        ><b class="mono wide" :class="{ fails: !s.firm }">{{ s.force.toFixed(2) }} kN/m</b>
      </ElButton>
    </div>
    <p class="note">
      Bows of what is held sideways press on the bracing; diagonals, struts and purlins carry this with everything else.
      {{ bench.chain.stabilised.every((s) => s.firm) ? '' : 'One of them is too soft for what leans on it.' }}
    </p>
  </template>
</template>

<style scoped>
.checks {
  padding: 0 8px;
}
.checks button {
  display: grid;
  grid-template-columns: 1fr auto 44px;
  gap: 8px;
  width: 100%;
  text-align: left;
  border: 0;
  background: none;
  padding: 2px 4px;
  font: 400 12.5px var(--condensed);
  cursor: pointer;
}
.checks button:has(.wide) {
  grid-template-columns: 1fr auto auto;
}
.checks button:hover {
  background: var(--chalk-soft);
}
.checks em {
  font-style: normal;
  font-size: 11px;
  color: var(--ink-2);
}
.checks b {
  text-align: right;
  font-weight: 400;
  font-size: 12px;
}
.checks b.fails {
  font-weight: 600;
}
</style>
