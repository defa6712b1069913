<script setup lang="ts">
import { computed } from 'vue'
import { minus } from '../../lib/quantity'
import { useWorkbench } from '../../stores/workbench'

/** Pressures on purlins, rails and gable posts, over all directions, with c_pe of their own loaded area. */
const bench = useWorkbench()
const groups = computed(() => {
  const found = new Map<string, NonNullable<typeof bench.chain>['local']>()
  for (const row of bench.lists.local) {
    const key = `${row.role} · ${row.panel}`
    found.set(key, [...(found.get(key) ?? []), row])
  }
  return [...found]
})
const f = (x: number) => minus(x.toFixed(2))
</script>

<template>
  <p class="note">
    Net pressure on secondary members over all wind directions, with the coefficient of their own loaded area (figure
    7.2) and both internal pressures. Positive pushes inwards.
  </p>
  <template v-for="[title, rows] in groups" :key="title">
    <h4>
      {{ title }} <span>A = {{ rows![0]!.area.toFixed(1) }} m²</span>
    </h4>
    <table class="plain">
      <thead>
        <tr>
          <th>zone</th>
          <th colspan="2">kN/m²</th>
          <th colspan="2">kN/m of member</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.zone">
          <th>{{ r.zone }}</th>
          <td>{{ f(r.least) }}</td>
          <td>{{ f(r.most) }}</td>
          <td>{{ f(r.least_line) }}</td>
          <td>{{ f(r.most_line) }}</td>
        </tr>
      </tbody>
    </table>
  </template>
  <p v-if="!groups.length" class="note">There is no hall whose walls and roof the wind could press.</p>
</template>

<style scoped>
h4 span {
  font-weight: 400;
}
td,
th {
  padding: 1px 12px 1px 0;
}
td {
  text-align: right;
}
</style>
