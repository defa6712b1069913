<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import FoldPart from '../../components/FoldPart.vue'
import NumberField from '../../components/NumberField.vue'
import { added, removed, replaced } from '../../lib/changes'
import { useWorkbench } from '../../stores/workbench'

type Rails = Schemas['CraneRails']

/** Pairs of crane rails on brackets or heads of columns, and how far they may move. */
const bench = useWorkbench()
const wrong = ref('')
const stated = computed<Rails[]>(() => bench.document?.crane_rails ?? [])
const cranes = computed(() => bench.lists.cases.some((c) => c.nature === 'crane'))
const laid = (name: string) => bench.lists.crane_rails.find((r) => r.name === name)
const FIELDS: {
  key: 'sway_ratio' | 'beside_ratio' | 'spread_mm' | 'level_ratio'
  label: string
  unit: string
  hint: string
}[] = [
  {
    key: 'sway_ratio',
    label: 'Across, height over',
    unit: '',
    hint: 'Height of the rail over how far it moves across, beside the foot · table 7.1(b): 400',
  },
  {
    key: 'beside_ratio',
    label: 'Beside the next frame, distance over',
    unit: '',
    hint: 'Distance of the frames over what one rail moves more across at one than at the next · table 7.1(c): 600',
  },
  {
    key: 'spread_mm',
    label: 'Apart or together',
    unit: 'mm',
    hint: 'Change of the distance of both rails · table 7.1(e): 10 mm',
  },
  {
    key: 'level_ratio',
    label: 'Level, gauge over',
    unit: '',
    hint: 'Distance of the rails over what one moves below the other · table 7.2(b): 600',
  },
]

async function add() {
  const names = new Set(stated.value.map((r) => r.name))
  let count = 1
  while (names.has(`Crane ${count}`)) count++
  const members = bench.picked.map((m) => m.name)
  const done = await bench.edit(
    `Crane rails on ${members.length} members`,
    added('crane_rails', { name: `Crane ${count}`, members }),
  )
  wrong.value = done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
}
function save(rails: Rails, key: (typeof FIELDS)[number]['key'], label: string) {
  return async (value: number | null) => {
    const done = await bench.edit(
      `${rails.name}: ${label} ${value ?? 0}`,
      replaced('crane_rails', rails, { ...rails, [key]: value ?? 0 }),
    )
    return done ? '' : (bench.refusal?.reason ?? 'Nothing was changed.')
  }
}
</script>

<template>
  <FoldPart v-if="bench.mayChange || stated.length" title="Crane rails" :open="cranes || !!stated.length">
    <p class="note">
      What cranes, and temperature beside them, move rails by: EN 1993-6 tables 7.1 and 7.2. A rail lies on the free
      ends of brackets, or on the heads of columns. Wind on runways outdoors, 7.1(d), is not looked at.
    </p>
    <section v-for="rails in stated" :key="rails.name">
      <header>
        <b>{{ rails.name }}</b>
        <ElButton link size="small" @click="bench.choose(rails.members)">
          {{ rails.members.length }} {{ rails.members.length === 1 ? 'member' : 'members' }}
        </ElButton>
        <ElButton
          v-if="bench.mayChange"
          link
          size="small"
          :aria-label="`Delete the rails of ${rails.name}`"
          @click="bench.edit(`Rails of ${rails.name} deleted`, removed('crane_rails', rails))"
          >Delete</ElButton
        >
      </header>
      <p v-for="words in laid(rails.name)?.said ?? []" :key="words" class="uncovered" role="note">
        <b>Left out:</b> {{ words }}.
      </p>
      <NumberField
        v-for="f in FIELDS"
        :key="f.key"
        :label="f.label"
        :path="`crane_rails.${rails.name}.${f.key}`"
        kind="factor"
        :unit="f.unit"
        :value="rails[f.key] || undefined"
        optional="none"
        :hint="`${f.hint}. Empty or 0: no limit.`"
        :save="save(rails, f.key, f.label)"
      />
    </section>
    <ElButton v-if="bench.mayChange" class="add" size="small" :disabled="bench.picked.length < 2" @click="add">
      {{
        bench.picked.length < 2
          ? 'Choose the brackets of both rails first'
          : `Rails on the ${bench.picked.length} chosen members`
      }}
    </ElButton>
    <p v-if="wrong" class="refused" role="alert">{{ wrong }}</p>
  </FoldPart>
</template>

<style scoped>
header {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 6px 12px 2px;
}
header b {
  flex: 1;
}
.add {
  margin: 8px 12px;
}
</style>
