<script setup lang="ts">
/** End frames of a hall. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import ChoiceField from '../../../components/ChoiceField.vue'
import FoldPart from '../../../components/FoldPart.vue'
import NumberField from '../../../components/NumberField.vue'
import { useWorkbench } from '../../../stores/workbench'

const bench = useWorkbench()
const hall = computed(() => bench.hall!)
const gables = [
  ['front', 'Front'],
  ['back', 'Back'],
] as const
function alike() {
  void bench.edit('Back gable like the front', [{ path: 'hall.back', value: { ...hall.value.front } }])
}
</script>

<template>
  <FoldPart title="End frames">
    <template v-for="[key, words] in gables" :key="key">
      <ChoiceField
        :label="`${words} gable`"
        :path="`hall.${key}.kind`"
        :value="hall[key]?.kind ?? 'frame'"
        :options="[
          { value: 'frame', label: 'like the others' },
          { value: 'posts', label: 'posts and simple rafters' },
        ]"
      />
      <template v-if="hall[key]?.kind === 'posts'">
        <NumberField label="Posts" :path="`hall.${key}.posts`" kind="count" :value="hall[key]!.posts" />
        <NumberField
          label="or spacing, at most"
          :path="`hall.${key}.spacing`"
          kind="length"
          :value="hall[key]!.spacing"
          optional="by number"
        />
      </template>
    </template>
    <p class="note">
      <ElButton link type="primary" size="small" @click="alike">Make the back like the front</ElButton>
    </p>
  </FoldPart>
</template>
