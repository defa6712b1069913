<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { fixed } from '../../lib/quantity'
import { useWorkbench } from '../../stores/workbench'

/** Slabs and walls that bend: what is greatest and least in each, and the way into it. */
const bench = useWorkbench()
const names = computed(() => bench.lists.panels.filter((p) => p.stiff === 'slab').map((p) => p.name))
const rows = computed(() => new Map(bench.slabs.map((row) => [row.name, row])))
const range = (name: string, key: string) => {
  const row = rows.value.get(name)
  const [most, least] = [row?.most[key], row?.least[key]]
  return most && least ? `${fixed(least.value, 1)} … ${fixed(most.value, 1)}` : '…'
}
const title = (name: string, key: string) => {
  const row = rows.value.get(name)
  return row ? `least in ${row.least[key]?.combination}, greatest in ${row.most[key]?.combination}` : ''
}
const TOLD = [
  { key: 'w', words: 'w, mm' },
  { key: 'mx', words: 'm_x, kNm/m' },
  { key: 'my', words: 'm_y, kNm/m' },
]
</script>

<template>
  <template v-if="names.length">
    <h4>Slabs and walls <span class="note">told, not verified</span></h4>
    <div v-for="name in names" :key="name">
      <p class="buttons">
        <b>{{ name }}</b>
        <ElButton link type="primary" size="small" :title="`Look into ${name}`" @click="bench.openPanel(name)"
          >look into it</ElButton
        >
      </p>
      <div class="pairs">
        <template v-for="t in TOLD" :key="t.key">
          <span>{{ t.words }}</span><b :title="title(name, t.key)">{{ range(name, t.key) }}</b>
        </template>
      </div>
    </div>
  </template>
</template>
