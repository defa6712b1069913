<script setup lang="ts">
import { ElButton, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import NumberField from '../../../components/NumberField.vue'
import TextField from '../../../components/TextField.vue'
import { added, removed, unnamed } from '../../../lib/changes'
import { readSpacings } from '../../../lib/spacings'
import { useWorkbench } from '../../../stores/workbench'

/** Grid lines and levels by hand: added, renamed, moved, removed. A level may stand above another one, and follows it. */
const bench = useWorkbench()
const wrong = ref('')
const axis = ref<'X' | 'Y'>('X')
const from = ref('0')
const list = ref('3*6')
const number = (text: string) => {
  const value = Number(text.replace(',', '.').replace('−', '-'))
  return text.trim() && Number.isFinite(value) ? { value } : 'A number of metres is needed.'
}
function addGrid() {
  const [found, start] = [readSpacings(list.value), number(from.value)]
  wrong.value = typeof found === 'string' ? found : typeof start === 'string' ? start : ''
  if (typeof found === 'string' || typeof start === 'string') return
  const taken = new Set(bench.lists.grid.map((g) => g.name))
  const places = found.value.reduce((all, by) => [...all, all.at(-1)! + by], [start.value])
  let n = 0
  const next = () => {
    for (;;) {
      const name =
        axis.value === 'X' ? String.fromCharCode(65 + (n % 26)) + (n >= 26 ? Math.floor(n / 26) : '') : String(n + 1)
      n++
      if (!taken.has(name)) return name
    }
  }
  const lines = places.map((at) => ({ name: next(), axis: axis.value, at: Number(at.toFixed(6)) }))
  void bench.edit('Grid lines added', added('grid', ...lines))
}
const own = computed(() => bench.stated.grid)
const dropLine = (i: number) => bench.edit(`Grid line ${own.value[i]!.name} removed`, removed('grid', own.value[i]))

const levels = computed(() => bench.lists.levels)
const stated = computed(() => bench.stated.levels)
const name = ref('')
const height = ref('3')
const above = ref('')
async function addLevel() {
  const found = number(height.value)
  wrong.value = typeof found === 'string' ? found : ''
  if (typeof found === 'string') return
  const words = name.value.trim() || `Level ${stated.value.length + 1}`
  const level = { name: words, height: found.value, above: above.value }
  wrong.value = ''
  const done = await bench.edit(`Level ${words} ${found.value} m above ${above.value || '±0'}`, added('levels', level))
  if (!done) wrong.value = bench.refusal?.message ?? ''
}
const dropLevel = (words: string) => bench.edit(`Level ${words} removed`, unnamed('levels', stated.value, words))
const heightOf = (words: string) => levels.value.find((v) => v.name === words)?.height ?? 0
</script>

<template>
  <h4>Grid lines</h4>
  <div class="load-grid">
    <span>Across</span>
    <ElSelect v-model="axis" size="small" aria-label="Axis of the grid lines">
      <ElOption value="X" label="X, lettered" />
      <ElOption value="Y" label="Y, numbered" />
    </ElSelect>
    <span>First at, m</span>
    <ElInput v-model="from" size="small" aria-label="First grid line at" />
    <span>Spacings</span>
    <ElInput
      v-model="list"
      size="small"
      placeholder="3*6 + 4.5"
      aria-label="Spacings of the grid lines"
      @keydown.enter="addGrid"
    />
  </div>
  <p class="note"><ElButton size="small" :disabled="!bench.mayChange" @click="addGrid">Add grid lines</ElButton></p>
  <div v-for="(line, i) in own" :key="line.name" class="own">
    <TextField :label="`Line across ${line.axis}`" :path="`grid.${i}.name`" :written="line.name" hint="Its name" />
    <TextField label="at" :path="`grid.${i}.at`" :written="String(line.at)" :read="number" />
    <ElButton link size="small" :title="`Remove grid line ${line.name}`" @click="dropLine(i)">×</ElButton>
  </div>
  <h4>Levels</h4>
  <div class="load-grid">
    <span>Name</span>
    <ElInput v-model="name" size="small" aria-label="Name of the level" placeholder="crane rail" />
    <span>Height, m</span>
    <ElInput v-model="height" size="small" aria-label="Height of the level" @keydown.enter="addLevel" />
    <span title="It follows the level that it stands above">above</span>
    <ElSelect v-model="above" size="small" aria-label="Height counted from">
      <ElOption value="" label="±0" />
      <ElOption v-for="v in levels" :key="v.name" :value="v.name" :label="v.name" />
    </ElSelect>
  </div>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <p class="note"><ElButton size="small" :disabled="!bench.mayChange" @click="addLevel">Add level</ElButton></p>
  <template v-for="(v, i) in stated" :key="v.name">
    <div class="own">
      <TextField label="Level" :path="`levels.${i}.name`" :written="v.name" hint="Its name" />
      <NumberField
        :label="v.above ? `above ${v.above}` : 'above ±0'"
        :path="`levels.${i}.height`"
        kind="altitude"
        :value="v.height"
      />
      <ElButton link size="small" :title="`Remove level ${v.name}`" @click="dropLevel(v.name)">×</ElButton>
    </div>
  </template>
  <ul class="load-list">
    <li v-for="v in levels" :key="v.name">
      <span>{{ v.name }}</span><b class="mono">{{ heightOf(v.name).toFixed(3) }} m</b>
    </li>
  </ul>
</template>

<style scoped>
.own {
  position: relative;
  padding-right: 14px;
  border-bottom: 1px solid var(--line-soft);
}
.own :deep(.el-button) {
  position: absolute;
  right: 6px;
  top: 6px;
}
</style>
