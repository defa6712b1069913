<script setup lang="ts">
import { ElButton, ElInput, ElMessage, ElTable, ElTableColumn } from 'element-plus'
import { onMounted, reactive } from 'vue'
import { api, type Schemas } from '../api/client'
import { forget, useList } from '../api/queries'
import PageFrame from '../people/PageFrame.vue'
import { browser, moment, told } from '../people/roles'

const sessions = useList('/api/me/sessions', () => ({}))
const form = reactive({ old: '', new: '', again: '' })
const wrong = reactive<Record<string, string>>({})

async function end(id: number) {
  await api.DELETE('/api/me/sessions/{session_id}', { params: { path: { session_id: id } } })
  await forget('/api/me/sessions')
}

async function change() {
  wrong.old = wrong.new = wrong.again = ''
  if (form.new !== form.again) {
    wrong.again = 'The two passwords differ.'
    return
  }
  const { response, error } = await api.POST('/api/me/password', { body: { old: form.old, new: form.new } })
  if (response.ok) {
    form.old = form.new = form.again = ''
    ElMessage.success('The password is changed. Other browsers are signed out.')
    await forget('/api/me/sessions')
  } else wrong[(error as Partial<Schemas['Problem']> | undefined)?.place || 'new'] = told(error)
}

onMounted(() => (document.title = 'Account · Lorica'))
</script>

<template>
  <PageFrame>
    <template #title>Account</template>
    <section>
      <h2>Password</h2>
      <form @submit.prevent="change">
        <label
          v-for="[key, label, hint] in [
            ['old', 'Present password', 'current-password'],
            ['new', 'New password', 'new-password'],
            ['again', 'New password again', 'new-password'],
          ] as const"
          :key="key"
        >
          <span>{{ label }}</span>
          <ElInput v-model="form[key]" type="password" :autocomplete="hint" show-password required />
          <small v-if="wrong[key]" role="alert">{{ wrong[key] }}</small>
        </label>
        <ElButton type="primary" native-type="submit" :disabled="!form.old || !form.new">Change password</ElButton>
      </form>
    </section>
    <section>
      <h2>Signed in</h2>
      <ElTable :data="sessions" aria-label="Where you are signed in">
        <ElTableColumn label="Since" width="180">
          <template #default="{ row }">{{ moment(row.began) }}</template>
        </ElTableColumn>
        <ElTableColumn label="Address" prop="address" width="140" />
        <ElTableColumn label="Browser">
          <template #default="{ row }"
            ><span :title="row.browser">{{ browser(row.browser) }}</span></template
          >
        </ElTableColumn>
        <ElTableColumn width="120" align="right">
          <template #default="{ row }">
            <span v-if="row.present" class="here">this one</span>
            <ElButton v-else text size="small" @click="end(row.id)">Sign out</ElButton>
          </template>
        </ElTableColumn>
      </ElTable>
    </section>
  </PageFrame>
</template>

<style scoped>
h2 {
  font: 600 15px var(--condensed);
  margin: 24px 0 10px;
}
form {
  display: grid;
  gap: 10px;
  max-width: 420px;
  justify-items: start;
}
label {
  width: 100%;
  display: grid;
  grid-template-columns: 150px 1fr;
  align-items: center;
}
label small {
  grid-column: 2;
  color: var(--oxide);
}
.here {
  color: var(--ink-2);
  font-size: 12px;
}
</style>
