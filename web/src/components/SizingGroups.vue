<script setup lang="ts">
import { ElButton, ElSwitch, ElTable, ElTableColumn } from 'element-plus'
import { computed } from 'vue'
import { figures } from '../lib/temper'
import { haunchOf, same, useSizing, type Choice, type Group } from '../stores/sizing'
import { useWorkbench } from '../stores/workbench'
import SectionGlyph from './SectionGlyph.vue'
import UseTrack from './UseTrack.vue'

/** A row for each group: what it has and what is proposed, drawn to one scale. */
const bench = useWorkbench()
const sizing = useSizing()
const rows = computed(() =>
  sizing.groups.map((group) => {
    const sized = (sizing.found?.groups ?? []).find((g) => g.name === group.name) ?? null
    const last = sizing.rounds.at(-1)
    const first = sizing.rounds[0]
    const after = sized?.after ?? sizing.best?.choices[group.name] ?? group.now
    return {
      group,
      sized,
      after,
      changed: !same(after, group.now),
      before: sized?.worst_before ?? first?.worst[group.name] ?? null,
      use: sized?.worst_after ?? (sizing.runs ? last?.worst[group.name] : null) ?? null,
      saves: sized ? sized.mass_after - sized.mass_before : null,
    }
  }),
)
const deepest = computed(() => Math.max(100, ...rows.value.flatMap((r) => [r.group.drawn.h, r.sized?.drawn?.h ?? 0])))
const scale = computed(() => 30 / deepest.value)
/** What is otherwise than it is. */
const change = (now: Choice, after: Choice) =>
  [
    haunchOf(after),
    after.section === now.section ? '' : `from ${now.section}`,
    after.grade === now.grade ? '' : `${after.grade} from ${now.grade}`,
  ]
    .filter(Boolean)
    .join(', ')
const lock = (group: Group, locked: boolean) =>
  sizing.may(group.name, 'locked', locked, locked ? 'locked' : 'may be chosen again')
const show = (name: string) => {
  sizing.chosen = name
}
function member(name: string) {
  bench.select(name, true)
  bench.stage = 'verification'
}
</script>

<template>
  <ElTable
    :data="rows"
    row-key="group.name"
    size="small"
    height="100%"
    :row-class-name="({ row }) => (row.group.name === sizing.chosen ? 'on' : '')"
    @row-click="(row) => show(row.group.name)"
  >
    <ElTableColumn label="Group" min-width="118">
      <template #default="{ row }">
        <ElButton class="bare name" :aria-pressed="row.group.name === sizing.chosen" @click.stop="show(row.group.name)">
          {{ row.group.name }}</ElButton><small
          >{{ row.group.members.length }}×{{ row.group.kept ? `, ${row.group.kept}` : '' }}</small
        >
      </template>
    </ElTableColumn>
    <ElTableColumn label="Drawn" width="92">
      <template #default="{ row }">
        <span class="drawn">
          <SectionGlyph :section="row.group.drawn" :scale="scale" :faint="row.changed" />
          <template v-if="row.changed"
            ><i>→</i> <SectionGlyph v-if="row.sized?.drawn" :section="row.sized.drawn" :scale="scale"
          /></template>
        </span>
      </template>
    </ElTableColumn>
    <ElTableColumn label="Section" min-width="112">
      <template #default="{ row }">
        <b class="mono">{{ row.after.section }}</b>
        <small v-if="row.changed" :title="change(row.group.now, row.after)">{{
          change(row.group.now, row.after)
        }}</small>
        <small v-else-if="row.sized">stays</small>
        <small v-else>{{ row.group.now.grade }}{{ row.group.mixed ? ', and others' : '' }}</small>
      </template>
    </ElTableColumn>
    <ElTableColumn label="kg" width="72" align="right">
      <template #default="{ row }">
        <span v-if="row.saves === null" class="mono">{{ Math.round(row.group.mass) }}</span>
        <b v-else class="mono" :class="{ nothing: Math.abs(row.saves) < 0.5 }">{{
          Math.abs(row.saves) < 0.5 ? '0' : `${row.saves < 0 ? '−' : '+'}${Math.abs(Math.round(row.saves))}`
        }}</b>
      </template>
    </ElTableColumn>
    <ElTableColumn label="Governs after" min-width="128">
      <template #default="{ row }">
        <template v-if="row.sized?.not_covered"
          ><span class="uncovered">not covered</span
          ><small :title="row.sized.not_covered">{{ row.sized.not_covered }}</small></template
        >
        <template v-else-if="row.sized?.criterion">
          {{ row.sized.criterion }}
          <small
            ><ElButton
              link
              type="primary"
              size="small"
              :title="`Show ${row.sized.member}`"
              @click.stop="member(row.sized.member)"
            >
              {{ bench.chain?.members?.find((m) => m.name === row.sized?.member)?.label ?? row.sized.member }}
            </ElButton></small
          >
        </template>
        <small v-else>{{ row.group.kept ? '' : `${row.group.candidates} candidates` }}</small>
      </template>
    </ElTableColumn>
    <ElTableColumn label="Use before, after" width="128">
      <template #default="{ row }">
        <template v-if="row.use !== null || row.before !== null">
          <UseTrack :use="row.use" :before="row.before" :limit="1.2" />
          <small class="mono"
            ><span :class="{ fails: (row.before ?? 0) > 1 }">{{ figures(row.before) }}</span> →
            <b :class="{ fails: (row.use ?? 0) > 1 }">{{ figures(row.use) }}</b></small
          >
        </template>
      </template>
    </ElTableColumn>
    <ElTableColumn label="Lock" width="54" align="center">
      <template #default="{ row }">
        <ElSwitch
          size="small"
          :model-value="sizing.planOf(row.group.name).locked ?? false"
          :disabled="!bench.mayChange || sizing.runs"
          :aria-label="`${row.group.name}: locked`"
          @click.stop
          @change="lock(row.group, !!$event)"
        />
      </template>
    </ElTableColumn>
    <template #empty>{{
      sizing.proposed?.problem?.message ?? 'No members stand yet: set out a hall, or draw some by hand.'
    }}</template>
  </ElTable>
</template>

<style scoped>
.name {
  border: 0;
  background: none;
  padding: 0;
  text-align: left;
  font: 500 13px var(--condensed);
  cursor: pointer;
}
small {
  display: block;
  font: 400 11.5px/1.25 var(--condensed);
  color: var(--ink-2);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
small.mono {
  font: 400 11.5px var(--mono);
}
small .el-button {
  padding: 0;
  font-size: 11.5px;
}
.drawn {
  display: flex;
  align-items: flex-end;
  gap: 8px;
  min-height: 32px;
}
.drawn i {
  font-style: normal;
  color: var(--ink-2);
  align-self: center;
}
b.mono {
  font-weight: 600;
  font-size: 12px;
}
.nothing {
  color: var(--ink-3);
}
.fails {
  color: var(--oxide);
  font-weight: 600;
}
.uncovered {
  border: 1px dashed var(--ink-2);
  padding: 0 4px;
  background: #fff;
}
:deep(.el-table__row.on td) {
  background: var(--chalk-soft);
}
:deep(.el-table__row) {
  cursor: pointer;
}
</style>
