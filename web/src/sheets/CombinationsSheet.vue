<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed, ref } from 'vue'
import ChoiceField from '../components/ChoiceField.vue'
import HowButton from '../components/HowButton.vue'
import NumberField from '../components/NumberField.vue'
import ToggleField from '../components/ToggleField.vue'
import { keyed } from '../lib/changes'
import { useWorkbench } from '../stores/workbench'
import FactorBars from './combinations/FactorBars.vue'
import OwnCombinations from './OwnCombinations.vue'
import SheetHead from './SheetHead.vue'
import CellInput from '../components/CellInput.vue'

const bench = useWorkbench()
const rules = computed(() => bench.document?.rules)
const all = computed(() => bench.lists.combinations)
const USES = [
  ['strength', 'Strength (STR)', 'EN 1990 6.4.3.2'],
  ['accidental', 'Accidental', '(6.11b)'],
  ['uplift', 'Overturning, uplift (EQU)', 'table A1.2(A)'],
  ['deflection', 'Deflection, characteristic', '(6.14b)'],
  ['variable', 'Deflection, variable alone', '(6.14b) without permanent actions'],
  ['frequent', 'Frequent', '(6.15b)'],
  ['quasi-permanent', 'Quasi-permanent', '(6.16b)'],
] as const
const count = (use: string) => all.value.filter((c) => c.use === use && !c.own).length
const RECOMMENDED: Record<string, number> = {
  gamma_G_unfavourable: 1.35,
  gamma_G_favourable: 1,
  gamma_Q: 1.5,
  gamma_G_equ_unfavourable: 1.1,
  gamma_G_equ_favourable: 0.9,
  xi: 0.85,
}
const FACTORS = [
  ['gamma_G_unfavourable', 'γG unfavourable', 'EN 1990 table A1.2(B)'],
  ['gamma_G_favourable', 'γG favourable', 'EN 1990 table A1.2(B)'],
  ['gamma_Q', 'γQ', 'EN 1990 table A1.2(B)'],
  ['gamma_G_equ_unfavourable', 'γG,sup of EQU', 'EN 1990 table A1.2(A)'],
  ['gamma_G_equ_favourable', 'γG,inf of EQU', 'EN 1990 table A1.2(A)'],
] as const
const changed = (key: string) => (rules.value as Record<string, unknown> | undefined)?.[key] !== RECOMMENDED[key]
const same = (a: readonly number[], b: readonly number[]) => a.every((v, i) => Math.abs(v - b[i]!) < 1e-9)
const wrongPsi = ref('')
/** A row of table A1.1 changed; ψ0 of wind and snow have fields of their own in the document. */
async function setPsi(row: string, i: number, text: string) {
  const value = Number(text.replace(',', '.'))
  if (!(value >= 0 && value <= 1)) {
    wrongPsi.value = 'ψ lies between 0 and 1.'
    return
  }
  wrongPsi.value = ''
  const now = bench.chain!.psi.find((p) => p.row === row)!
  const next = now.used.map((v, k) => (k === i ? value : v))
  await bench.edit(`ψ${i} of ${row} ${value}`, [keyed('rules.psi', row, next)])
}

/** The one that is shown: chosen, or governing what is selected. */
const shown = computed(() => all.value.find((c) => c.name === (bench.state || bench.diagram?.state)))
const mark = computed(() => bench.marks.get(shown.value?.name ?? ''))
const idle = computed(() => all.value.filter((c) => bench.marks.get(c.name)?.governs === 0).length)
</script>

<template>
  <SheetHead title="Combinations" :aside="`${all.length}`" />
  <template v-if="rules">
    <template v-if="shown">
      <h4>
        {{ shown.name }} <span>{{ shown.use }}, {{ shown.rule }}</span>
      </h4>
      <p class="note mono">{{ shown.formula }}</p>
      <FactorBars :combination="shown" />
      <p class="buttons"><HowButton :of="`Factors of ${shown.name}`" :asked="{ combination: shown.name }" /></p>
      <p v-if="mark" class="note">
        {{
          mark.governs
            ? `Governs ${mark.governs} of what combinations of its use are proven for.`
            : `Governs nothing: it reaches at most ${Math.floor(mark.share * 100)} % of what governs, at ${mark.at}.`
        }}
      </p>
    </template>
    <div class="pairs">
      <template v-for="[key, words, clause] in USES" :key="key">
        <span :title="clause">{{ words }}</span><b>{{ count(key) }}</b>
      </template>
    </div>
    <p class="idle" title="The others reach less than another one of their use for every member, edge and support">
      <ElCheckbox v-model="bench.onlyGoverning" size="small">Hide those that govern nothing</ElCheckbox>
      <b class="mono">{{ bench.marks.size ? idle : '…' }}</b>
    </p>
    <ChoiceField
      label="Strength by"
      path="rules.strength_rule"
      :value="rules.strength_rule ?? '6.10'"
      :options="[
        { value: '6.10', label: '(6.10)' },
        { value: '6.10a/b', label: '(6.10a) and (6.10b)' },
      ]"
      hint="EN 1990 6.4.3.2(3); which one is a national choice"
    />
    <NumberField
      v-if="rules.strength_rule === '6.10a/b'"
      label="ξ"
      path="rules.xi"
      kind="factor"
      :value="rules.xi"
      hint="(6.10b), recommended 0.85"
    />
    <ToggleField
      label="Sway imperfections in strength"
      path="rules.imperfections"
      :value="rules.imperfections"
      hint="EN 1993-1-1 5.3.2(3), where H_Ed < 0.15 V_Ed; written Φ in the formulas"
    />
    <h4>Partial factors</h4>
    <div v-for="[key, words, clause] in FACTORS" :key="key" :class="{ changed: changed(key) }">
      <NumberField
        :label="words"
        :path="`rules.${key}`"
        kind="factor"
        :value="rules[key]"
        :hint="`${clause}; recommended ${RECOMMENDED[key]}`"
      />
    </div>
    <h4>Combination factors <span>table A1.1</span></h4>
    <table v-if="bench.chain?.psi?.length">
      <thead>
        <tr>
          <th />
          <th>ψ0</th>
          <th>ψ1</th>
          <th>ψ2</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in bench.chain.psi" :key="p.row" :title="p.cases.join(', ')">
          <th>{{ p.row.length === 1 ? `category ${p.row}` : p.row }}</th>
          <td v-for="i in [0, 1, 2] as const" :key="i" :class="{ changed: p.used[i] !== p.recommended[i] }">
            <CellInput
              :value="p.used[i]!"
              :label="`ψ${i} of ${p.row}`"
              :title="`Recommended ${p.recommended[i]}`"
              @commit="(text) => setPsi(p.row, i, text)"
            />
          </td>
          <td class="mark">{{ same(p.used, p.recommended) ? '' : 'changed' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="wrongPsi" class="note fails" role="alert">{{ wrongPsi }}</p>
    <OwnCombinations :uses="USES" />
    <p class="note">
      {{
        bench.document?.national?.basis?.permanents === 'separate'
          ? 'Permanent cases come from separate sources, each unfavourable or favourable by itself.'
          : 'Permanent cases act together, all unfavourable or all favourable.'
      }}
      Of the snow arrangements one acts at a time, of the wind cases too; each action leads once, the others accompany
      it with ψ0. Choose a combination in the ledger to see the frame under it.
    </p>
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
.changed :deep(.el-input__wrapper) {
  box-shadow: 0 0 0 1px var(--behind) inset;
  background: #fbf3e2;
}
table {
  margin: 0 12px;
  border-collapse: collapse;
  font: 400 12px var(--condensed);
}
th {
  text-align: left;
  font-weight: 400;
  color: var(--ink-2);
  padding-right: 10px;
}
td .el-input {
  width: 52px;
}
td :deep(.el-input__inner) {
  font: 400 12px var(--mono);
  text-align: right;
}
.idle {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 0;
  padding: 3px 12px;
  font: 400 12.5px var(--condensed);
}
.mark {
  color: var(--ink-2);
  padding-left: 4px;
}
</style>
