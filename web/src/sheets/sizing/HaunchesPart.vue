<script setup lang="ts">
/** Lengths and depths of haunches that a group may have beside its section. */
import { ElInput } from 'element-plus'
import { reactive, watch } from 'vue'
import { numbers } from '../../lib/numbers'
import { useSizing } from '../../stores/sizing'

const props = defineProps<{ group: string; now: readonly [number, number] | null; off: boolean }>()
const sizing = useSizing()
const LISTS = [
  ['haunch_lengths', 'Haunches long, m', 1, 0, 0.2, 20],
  ['haunch_depths', 'Haunches deep, mm', 1000, 1, 50, 2000],
] as const
type Key = (typeof LISTS)[number][0]
const texts = reactive<Record<Key, string>>({ haunch_lengths: '', haunch_depths: '' })
const wrong = reactive<Record<Key, string>>({ haunch_lengths: '', haunch_depths: '' })
const shown = (value: number, by: number) => `${+(value * by).toFixed(3)}`
watch(
  [() => props.group, () => sizing.planOf(props.group)],
  () => {
    for (const [key, , by] of LISTS) {
      texts[key] = (sizing.planOf(props.group)[key] ?? []).map((v) => shown(v, by)).join(', ')
      wrong[key] = ''
    }
  },
  { immediate: true },
)
/** What is wrong with a list, in words. */
function fault(values: number[] | null, least: number, most: number): string {
  if (!values) return 'A list, or “1.5 to 3 by 0.5”.'
  if (values.length > 8) return 'At most 8 of them.'
  return values.some((v) => v < least || v > most) ? `From ${least} to ${most}.` : ''
}
async function set([key, label, by, , least, most]: (typeof LISTS)[number]) {
  const values = numbers(texts[key])
  wrong[key] = fault(values, least, most)
  if (!values || wrong[key]) return
  const now = sizing.planOf(props.group)[key] ?? []
  const wanted = values.map((v) => +(v / by).toFixed(4))
  if (String(now) === String(wanted)) return
  const words = values.length ? `${label.toLowerCase()} ${values.join(', ')}` : 'haunches as they are'
  await sizing.may(props.group, key, wanted, words)
}
</script>

<template>
  <div class="field-grid">
    <template v-for="list in LISTS" :key="list[0]">
      <span>{{ list[1] }}</span>
      <span>
        <ElInput
          v-model="texts[list[0]]"
          size="small"
          :placeholder="now ? `as it is, ${shown(now[list[3]], list[2])}` : 'none'"
          :disabled="off"
          :aria-label="list[1]"
          :aria-invalid="!!wrong[list[0]]"
          @change="set(list)"
        />
        <small v-if="wrong[list[0]]" role="alert">{{ wrong[list[0]] }}</small>
      </span>
    </template>
  </div>
</template>

<style scoped>
small {
  display: block;
  font-size: 11px;
  color: var(--oxide);
}
</style>
