<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref, type Component } from 'vue'
import { useWorkbench } from '../stores/workbench'
import ChoosePart from './frame/ChoosePart.vue'
import HallPart from './frame/HallPart.vue'
import HandPart from './frame/HandPart.vue'
import JigsPart from './frame/JigsPart.vue'
import ReturnedPart from './frame/ReturnedPart.vue'
import SnagsPart from './frame/SnagsPart.vue'
import SteelPart from './frame/SteelPart.vue'
import VersionsPart from './frame/VersionsPart.vue'
import SheetHead from './SheetHead.vue'

const bench = useWorkbench()
const PARTS: Record<string, Component> = {
  Hall: HallPart,
  Jigs: JigsPart,
  'By hand': HandPart,
  Choose: ChoosePart,
  Steel: SteelPart,
  Snags: SnagsPart,
  Versions: VersionsPart,
  Returned: ReturnedPart,
}
const part = ref(bench.hall || !bench.document?.members?.length ? 'Hall' : 'By hand')
/** What the analysis finds is a snag like those that the structure shows. */
const moves = computed(() => bench.chain?.broken_stage === 'response')
const count = computed(
  () => (bench.chain?.snags?.length ?? 0) + (bench.chain?.orphans?.length ?? 0) + (moves.value ? 1 : 0),
)
const fault = computed(() => moves.value || bench.chain?.snags?.some((s) => s.weight === 'fault'))
</script>

<template>
  <SheetHead
    title="Frame"
    :aside="`${bench.chain?.members?.length ?? 0} members · ${(bench.chain?.tonnage ?? 0).toFixed(2)} t`"
  />
  <nav class="parts" aria-label="Parts of the frame sheet">
    <ElButton
      v-for="(_, name) in PARTS"
      :key="name"
      class="bare"
      :class="{ on: part === name }"
      :aria-pressed="part === name"
      @click="part = String(name)"
    >
      {{ name }}<i v-if="name === 'Snags' && count" :class="{ fault }">{{ count }}</i>
    </ElButton>
  </nav>
  <component :is="PARTS[part]" />
  <datalist id="sections">
    <option v-for="s in bench.stated.built_sections" :key="s.name" :value="s.name" />
    <template v-for="f in bench.catalogue" :key="f.name">
      <option v-for="s in f.sections" :key="s.name" :value="s.name" />
    </template>
  </datalist>
</template>

<style scoped>
i {
  font: 500 10.5px var(--mono);
  margin-left: 3px;
  padding: 0 4px;
  border-radius: 7px;
  background: var(--line);
  color: var(--ink);
}
i.fault {
  background: var(--oxide);
  color: #fff;
}
</style>
