<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import HowButton from '../../components/HowButton.vue'
import { useWorkbench } from '../../stores/workbench'
import { figures } from '../../lib/temper'
import SecondarySections from './SecondarySections.vue'

/** Purlins and rails that are no members of the model: what asks most of them, each way, beside what their table says or what they are computed to bear. */
const bench = useWorkbench()
const WAYS = { down: 'pressed', up: 'lifted', service: 'deflection' } as const
const WAY = ['down', 'up', 'service'] as const
const every = ref('')
const others = ref('')
const found = computed(() =>
  bench.lists.secondary.map((s) => ({
    ...s,
    worst: WAY.flatMap((way) => s.uses.find((u) => u.way === way) ?? []),
  })),
)
</script>

<template>
  <template v-for="s in found" :key="s.role">
    <h4>
      {{ s.label }} <span>{{ s.uses.length ? `${s.table} over ${s.span} m` : 'no members of the model' }}</span>
    </h4>
    <table v-if="s.uses.length" class="plain">
      <thead>
        <tr>
          <th>zone</th>
          <th></th>
          <th>acts</th>
          <th>bears kN/m</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="u in every === s.role ? s.uses : s.worst"
          :key="`${u.panel} ${u.zone} ${u.way}`"
          :title="`${u.panel}, zone ${u.zone}: ${u.formula}`"
        >
          <th>{{ u.zone }}</th>
          <th>{{ WAYS[u.way] }}</th>
          <td>{{ u.load.toFixed(2) }}</td>
          <td>{{ u.resistance.toFixed(2) }}</td>
          <td :class="{ fails: u.utilisation > 1 }">{{ figures(u.utilisation) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-for="words in s.reasons" :key="words" class="uncovered" role="note"><b>Not verified:</b> {{ words }}.</p>
    <p v-if="s.uses.length" class="note">
      {{ s.source ? `${s.computed ? 'By' : 'Source:'} ${s.source}. ` : 'The source of its table is not stated. ' }}
      <template v-for="words in s.left_out" :key="words">Left out: {{ words }}. </template>
      <ElButton link type="primary" size="small" :aria-expanded="every === s.role" @click="every = every ? '' : s.role">
        {{ every === s.role ? 'The worst alone' : 'Every zone' }}
      </ElButton>
      <HowButton
        v-if="s.computed"
        :of="`What ${s.label.toLowerCase()} bear`"
        words="What they bear, step by step"
        :asked="{ secondary: s.role }"
      />
      <ElButton
        v-if="s.computed"
        link
        type="primary"
        size="small"
        :aria-expanded="others === s.role"
        @click="others = others === s.role ? '' : s.role"
      >
        Other sections
      </ElButton>
    </p>
    <SecondarySections v-if="s.computed && others === s.role" :role="s.role" />
  </template>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
thead th {
  color: var(--ink-2);
}
td,
th {
  padding: 1px 8px 1px 0;
  border-bottom: 1px solid var(--line);
}
td,
thead th:nth-child(n + 3) {
  text-align: right;
}
td.fails {
  color: var(--oxide);
  font-weight: 600;
}
</style>
