<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import {
  ElButton,
  ElDialog,
  ElInput,
  ElMessage,
  ElOption,
  ElSelect,
  ElSwitch,
  ElTable,
  ElTableColumn,
  ElTabPane,
  ElTabs,
} from 'element-plus'
import { onMounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { forget, useList } from '../api/queries'
import HistoryTable from '../people/HistoryTable.vue'
import KeptTable from '../people/KeptTable.vue'
import PageFrame from '../people/PageFrame.vue'
import { moment, OFFICE_ROLES, told } from '../people/roles'
import { usePeople } from '../stores/people'

const people = usePeople()
const administering = () => (people.administers ? {} : null)
const invitations = useList('/api/people/invitations', administering)
const events = useList('/api/people/events', administering)
const kept = useList('/api/office/kept', () => ({}))
const tab = ref('people')
const inviting = ref(false)
const role = ref<Schemas['Me']['role']>('designer')
const note = ref('')
const link = ref<Schemas['LinkOut'] | null>(null)
const problem = ref('')
const label = (value: string) => OFFICE_ROLES.find((r) => r.value === value)?.label ?? value

async function load() {
  await people.whoAmI()
  await people.load()
  await Promise.all([forget('/api/office/kept'), forget('/api/people/invitations'), forget('/api/people/events')])
}

async function change(body: Schemas['PersonChange']) {
  const { data, error } = await api.PATCH('/api/people', { body })
  problem.value = data ? '' : told(error)
  await load()
}

async function invite(person = '') {
  problem.value = ''
  const { data, error } = await api.POST('/api/people/invitations', {
    body: { role: role.value, note: note.value, person },
  })
  inviting.value = false
  note.value = ''
  if (data) link.value = data
  else problem.value = told(error)
  await load()
}

async function withdraw(id: number) {
  await api.DELETE('/api/people/invitations/{invitation_id}', { params: { path: { invitation_id: id } } })
  await load()
}

const clipboard = useClipboard()
async function copy() {
  if (!link.value) return
  await clipboard.copy(link.value.link)
  ElMessage.success('The link is copied.')
}

onMounted(() => {
  document.title = 'Office · Lorica'
  void load()
})
</script>

<template>
  <PageFrame>
    <template #title>Office</template>
    <template #beside>
      <ElButton v-if="people.administers" type="primary" @click="inviting = true">Invite…</ElButton>
    </template>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <ElTabs v-model="tab">
      <ElTabPane label="People" name="people">
        <ElTable :data="people.everybody" aria-label="People of the office">
          <ElTableColumn label="Name" prop="name" sortable />
          <ElTableColumn label="Role" width="180" prop="role" sortable>
            <template #default="{ row }">
              <ElSelect
                v-if="people.administers"
                :model-value="row.role"
                :aria-label="`Role of ${row.name}`"
                size="small"
                @change="change({ name: row.name, role: $event })"
              >
                <ElOption v-for="r in OFFICE_ROLES" :key="r.value" :value="r.value" :label="r.label">
                  {{ r.label }} <small>{{ r.means }}</small>
                </ElOption>
              </ElSelect>
              <template v-else>{{ label(row.role) }}</template>
            </template>
          </ElTableColumn>
          <template v-if="people.administers">
            <ElTableColumn label="Signed in last" width="180" prop="last" sortable>
              <template #default="{ row }">{{ row.last ? moment(row.last) : 'never' }}</template>
            </ElTableColumn>
            <ElTableColumn label="Active" width="90">
              <template #default="{ row }">
                <ElSwitch
                  :model-value="row.active"
                  size="small"
                  :aria-label="`${row.name} may sign in`"
                  @change="change({ name: row.name, active: !row.active })"
                />
              </template>
            </ElTableColumn>
            <ElTableColumn width="150">
              <template #default="{ row }">
                <ElButton
                  text
                  size="small"
                  title="A link by which this person takes a new password"
                  @click="invite(row.name)"
                >
                  Reset password…
                </ElButton>
              </template>
            </ElTableColumn>
          </template>
        </ElTable>
      </ElTabPane>
      <ElTabPane :label="`Kept for projects (${kept.length})`" name="kept">
        <KeptTable :kept="kept" @changed="load" @problem="problem = $event" />
      </ElTabPane>
      <ElTabPane v-if="people.administers" :label="`Invitations (${invitations.length})`" name="invitations">
        <ElTable :data="invitations" empty-text="No link is open. Invite somebody: the link is handed over by you.">
          <ElTableColumn label="For" prop="note">
            <template #default="{ row }">{{ row.note || 'somebody' }}</template>
          </ElTableColumn>
          <ElTableColumn label="To">
            <template #default="{ row }">{{
              row.password ? 'take a new password' : `join as ${label(row.role)}`
            }}</template>
          </ElTableColumn>
          <ElTableColumn label="Holds until" width="180">
            <template #default="{ row }">{{ moment(row.expires) }}</template>
          </ElTableColumn>
          <ElTableColumn width="110">
            <template #default="{ row }"
              ><ElButton text size="small" @click="withdraw(row.id)">Withdraw</ElButton></template
            >
          </ElTableColumn>
        </ElTable>
      </ElTabPane>
      <ElTabPane v-if="people.administers" label="Events" name="events">
        <HistoryTable :rows="events" empty="Nothing has happened yet." />
      </ElTabPane>
    </ElTabs>
    <p v-if="people.me && !people.administers" class="quietly">Administrators of the office invite people.</p>
    <ElDialog v-model="inviting" title="Invite somebody" width="480">
      <form id="invite" @submit.prevent="invite()">
        <label>For <ElInput v-model="note" maxlength="80" placeholder="Whom the link is for" autofocus /></label>
        <label>
          As
          <ElSelect v-model="role" aria-label="Role">
            <ElOption v-for="r in OFFICE_ROLES" :key="r.value" :value="r.value" :label="`${r.label}: ${r.means}`" />
          </ElSelect>
        </label>
      </form>
      <template #footer>
        <ElButton @click="inviting = false">Cancel</ElButton>
        <ElButton type="primary" native-type="submit" form="invite">Make the link</ElButton>
      </template>
    </ElDialog>
    <ElDialog :model-value="!!link" title="Hand this link over" width="560" @close="link = null">
      <template v-if="link">
        <p>
          It is shown this once, works once, and holds until {{ moment(link.expires) }}. Whoever has it can use it: no
          mail is sent.
        </p>
        <div class="link">
          <ElInput :model-value="link.link" readonly aria-label="Link" />
          <ElButton type="primary" @click="copy">Copy</ElButton>
        </div>
      </template>
    </ElDialog>
  </PageFrame>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
}
label {
  display: grid;
  grid-template-columns: 48px 1fr;
  align-items: center;
}
.link {
  display: flex;
  gap: 8px;
}
.quietly,
small {
  color: var(--ink-2);
}
</style>
