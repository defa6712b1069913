<script setup lang="ts">
/** A model that was sent to be detailed and came back: what differs, what it would do, and taking it. */
import { ElButton, ElUpload, type UploadRawFile } from 'element-plus'
import { computed } from 'vue'
import { useReturned } from '../../stores/returned'
import { useWorkbench } from '../../stores/workbench'
import FoldPart from '../../components/FoldPart.vue'
import ReturnedEffect from './returned/ReturnedEffect.vue'
import ReturnedGroup from './returned/ReturnedGroup.vue'

const bench = useWorkbench()
const back = useReturned()
const model = computed(() => back.model)
const nothing = computed(() => back.groups.filter((g) => !g.takes))
const refused = computed(() => back.groups.filter((g) => g.takes && g.refused))
const of = computed(() => (model.value ? `${model.value.done_of[0]} of ${model.value.done_of[1]}` : ''))
const day = (at: string) => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
/** Nothing is uploaded by the control itself. */
function given(file: UploadRawFile): false {
  void back.receive(file)
  return false
}
</script>

<template>
  <p class="note">
    The model goes out as IFC4 and comes back as a detailing office has changed it. Each difference is told, and taken
    or refused; nothing changes by itself.
  </p>
  <p v-if="bench.mayChange" class="note buttons">
    <ElButton
      v-if="back.state?.office"
      size="small"
      :loading="back.busy === 'sending'"
      :disabled="!!bench.chain?.problem || !!back.busy"
      title="Sends the model of this revision, and shows what came back"
      @click="back.send()"
      >Send to the detailing office</ElButton
    >
    <ElUpload :show-file-list="false" accept=".ifc" :before-upload="given">
      <ElButton tag="span" size="small" :loading="back.busy === 'reading'">Take a model back…</ElButton>
    </ElUpload>
  </p>
  <p v-if="back.problem" class="note wrong" role="alert">{{ back.problem }}</p>
  <template v-if="model">
    <h4>
      {{ model.name }} <span>{{ model.sent ? `sent as rev ${model.sent}` : 'sent revision not told' }}</span>
    </h4>
    <p class="note">
      {{ day(model.at) }}<template v-if="model.person">, {{ model.person }}</template
      >. {{ back.open.length ? '' : 'Nothing is left to decide.' }}
      <template v-if="model.already">{{ model.already }} of its differences stand here by now.</template>
    </p>
    <FoldPart v-if="model.said.length" title="What the office says">
      <ul class="said">
        <li v-for="words in model.said" :key="words">{{ words }}</li>
      </ul>
    </FoldPart>
    <div v-if="back.open.length" class="all">
      <ReturnedEffect v-if="model.together" :now="model.stands" :then="model.together" words="All taken" />
      <p class="note buttons">
        <ElButton v-if="back.runs" size="small" @click="back.end('effects')">Stop · {{ of }} solved</ElButton>
        <ElButton
          v-else-if="!model.solved || model.state !== 'done'"
          size="small"
          :disabled="!bench.mayChange"
          title="Solves what each of them, and all together, would do to the verdict"
          @click="back.solve()"
          >What would they do?</ElButton
        >
        <ElButton size="small" type="primary" :disabled="!bench.mayChange" @click="back.take(back.open)"
          >Take all</ElButton
        >
      </p>
      <p v-if="model.message && model.state === 'failed'" class="note wrong" role="alert">{{ model.message }}</p>
    </div>
    <ReturnedGroup v-for="g in back.open" :key="g.key" :group="g" :stands="model.stands" />
    <template v-if="refused.length">
      <h4>Refused</h4>
      <ReturnedGroup v-for="g in refused" :key="g.key" :group="g" :stands="null" />
    </template>
    <template v-if="nothing.length || model.left_out.length">
      <h4>Nothing to take</h4>
      <ReturnedGroup v-for="g in nothing" :key="g.key" :group="g" :stands="null" />
      <p v-for="words in model.left_out" :key="words" class="note">{{ words }}</p>
    </template>
    <template v-if="model.guessed.length">
      <h4>Guessed</h4>
      <p v-for="words in model.guessed" :key="words" class="note">{{ words }}</p>
    </template>
    <p v-if="bench.mayChange" class="note">
      <ElButton size="small" link type="primary" @click="back.end('model')">Put this model away</ElButton>
    </p>
  </template>
  <p v-else-if="back.state?.problem" class="note wrong" role="alert">{{ back.state.problem }}</p>
  <p v-else-if="back.state" class="note">
    Nothing came back yet. An office of your own gets the file from the Dossier stage (Model, IFC).
  </p>
</template>

<style scoped>
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.buttons .el-button + .el-button {
  margin-left: 0;
}
.said {
  margin: 0 12px 8px;
  padding: 0 0 0 14px;
  color: var(--ink-2);
  font-size: 12px;
}
.all {
  border-top: 1px solid var(--line);
  padding-top: 6px;
}
.wrong {
  color: var(--oxide);
}
</style>
