<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed } from 'vue'
import { useTyped } from '../lib/field'
import { limitText, readLimit, type Limit } from '../lib/limit'
import { useWorkbench } from '../stores/workbench'

/** A limit of movement: length over it, millimetres at most, or both. */
const props = withDefaults(
  defineProps<{
    label: string
    path: string
    ratio: number | null | undefined
    mm: number | null | undefined
    hint: string
    optional?: string
    /** takes a new limit; gives what is wrong with it */
    save: (limit: Limit, words: string) => Promise<string>
  }>(),
  { optional: '' },
)
const bench = useWorkbench()
const written = computed(() => limitText({ ratio: props.ratio ?? null, mm: props.mm ?? null }))
const { typed, wrong, commit, leave } = useTyped(
  () => written.value,
  (text) => {
    const limit = readLimit(text)
    if (typeof limit === 'string') return limit
    if (limit.ratio === null && !props.optional) return 'A ratio is needed here, such as 200.'
    return props.save(limit, `${props.label} ${text || 'by rule'}`)
  },
)
</script>

<template>
  <label class="field" :class="{ wrong }" :title="`${hint} Length over movement, millimetres, or both: 250, 25 mm.`">
    <span>{{ label }}</span>
    <ElInput
      v-model="typed"
      size="small"
      :placeholder="optional"
      :aria-invalid="!!wrong"
      :data-path="path"
      :readonly="!bench.mayChange"
      autocomplete="off"
      @keydown.enter="commit"
      @blur="commit"
      @keydown.esc="leave"
    />
    <small v-if="wrong" role="alert">{{ wrong }}</small>
  </label>
</template>

<style scoped>
.field {
  grid-template-columns: 1fr 116px;
}
.field :deep(.el-input__inner) {
  font: 400 12px var(--mono);
  text-align: right;
}
</style>
