<script setup lang="ts">
/** What the workbench has to say from the outside: others' edits, a server that does not answer, an edit that came too late. */
import { ElButton, ElDialog } from 'element-plus'
import { isAway } from '../lib/away'
import { useWorkbench } from '../stores/workbench'

const bench = useWorkbench()
function text(value: unknown) {
  return typeof value === 'object' ? JSON.stringify(value) : String(value)
}
</script>

<template>
  <div v-if="bench.elsewhere && !bench.conflict && !bench.message && !isAway()" class="message" role="status">
    {{ bench.elsewhere.author || 'Somebody' }} made revision {{ bench.elsewhere.number }} elsewhere: “{{
      bench.elsewhere.label
    }}”. <ElButton link type="primary" size="small" @click="bench.catchUp()">Show it</ElButton>
  </div>
  <div v-else-if="bench.arrived && !bench.message && !isAway()" class="message" role="status">
    {{ bench.arrived.author || 'Somebody' }}: {{ bench.arrived.label }} · revision {{ bench.arrived.number }} is shown.
    <ElButton link type="primary" size="small" @click="bench.arrived = null">Close</ElButton>
  </div>
  <div v-if="isAway()" class="message" role="alert">
    The server has not answered for 10 seconds. What you entered is kept here and goes on waiting.
  </div>
  <div v-else-if="bench.message && bench.chain" class="message" role="alert">
    {{ bench.message }} <ElButton link type="primary" size="small" @click="bench.message = ''">Close</ElButton>
  </div>
  <ElDialog :model-value="!!bench.conflict" title="Somebody else was faster" width="560" @close="bench.catchUp()">
    <template v-if="bench.conflict">
      <p>{{ bench.conflict.message }}</p>
      <ul class="differences">
        <li v-for="d in bench.conflict.differences" :key="d.path">
          <span>{{ d.path }}</span> <b class="mono">{{ text(d.before) }} → {{ text(d.after) }}</b>
        </li>
      </ul>
    </template>
    <template #footer>
      <ElButton type="primary" size="small" @click="bench.catchUp()">Show me the present revision</ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.message {
  position: fixed;
  bottom: 14px;
  left: 50%;
  transform: translateX(-50%);
  background: var(--ink);
  color: #fff;
  padding: 8px 14px;
  border-radius: 3px;
  z-index: 50;
}
.message .el-button {
  color: #cfe4eb;
}
.differences {
  padding-left: 18px;
  max-height: 240px;
  overflow: auto;
}
</style>
