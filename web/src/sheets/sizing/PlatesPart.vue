<script setup lang="ts">
/** Sections welded of plates that a group may have: lists of what they may be made of. */
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { numbers } from '../../lib/numbers'
import { useSizing } from '../../stores/sizing'

const props = defineProps<{ group: string; off: boolean }>()
const sizing = useSizing()
const LISTS = [
  ['depths', 'Depths', '600 to 900 by 50'],
  ['widths', 'Widths of flanges', '200, 250, 300'],
  ['webs', 'Webs', '8, 10, 12'],
  ['flanges', 'Flanges', '12, 15, 20, 25'],
] as const
type Key = (typeof LISTS)[number][0]
const stated = computed(() => sizing.planOf(props.group).plates ?? null)
const texts = reactive<Record<Key, string>>({ depths: '', widths: '', webs: '', flanges: '' })
const wrong = ref('')
watch(
  [() => props.group, stated],
  () => {
    for (const [key] of LISTS) texts[key] = (stated.value?.[key] ?? []).join(', ')
    wrong.value = ''
  },
  { immediate: true },
)
async function offer() {
  const found: Partial<Record<Key, number[]>> = {}
  for (const [key, label] of LISTS) {
    const values = numbers(texts[key])
    if (!values?.length) {
      wrong.value = `${label}: a list in mm, or “600 to 900 by 50”.`
      return
    }
    found[key] = values
  }
  wrong.value = ''
  const count = Object.values(found).reduce((n, values) => n * values.length, 1)
  if (!(await sizing.may(props.group, 'plates', found, `${count} sections of plates`)))
    wrong.value = 'These are no plates: 50 to 5000 mm deep and wide, 3 to 150 mm thick.'
}
const clear = () => sizing.may(props.group, 'plates', null, 'no sections of plates')
</script>

<template>
  <form class="field-grid" @submit.prevent="offer">
    <template v-for="[key, label, example] in LISTS" :key="key">
      <span>{{ label }}, mm</span>
      <ElInput
        v-model="texts[key]"
        size="small"
        :placeholder="example"
        :disabled="off"
        :aria-label="`${label} of plates, mm`"
      />
    </template>
    <span v-if="wrong" class="wrong" role="alert">{{ wrong }}</span>
    <span class="wide">
      <ElButton size="small" native-type="submit" :disabled="off">Offer plates</ElButton>
      <ElButton v-if="stated" size="small" :disabled="off" @click="clear">No plates</ElButton>
    </span>
  </form>
</template>

<style scoped>
.wrong,
.wide {
  grid-column: 1 / -1;
}
.wrong {
  color: var(--oxide);
}
</style>
