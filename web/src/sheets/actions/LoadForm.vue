<script setup lang="ts">
import { computed } from 'vue'
import { ElButton, ElCheckbox, ElInput, ElOption, ElOptionGroup, ElSelect } from 'element-plus'
import { TOWARDS } from '../../lib/loads'
import { fixed, minus } from '../../lib/quantity'
import { useWorkbench } from '../../stores/workbench'
import { useLoadForm } from '../../lib/loadForm'
import { PLACES } from '../../lib/panelPlaces'

/** A load being written: on chosen members, a node, a panel, or on many surfaces at once. */
const bench = useWorkbench()
const {
  wrong,
  target,
  kind,
  asRun,
  patterns,
  towards,
  size,
  stretch,
  node,
  panel,
  part,
  lies,
  bends,
  on,
  axes,
  PUSHES,
  names,
  SETS,
  onto,
  leaveOut,
  floorLevels,
  there,
  told,
  problem,
  addLoad,
} = useLoadForm()
const unit = computed(() => ({ panel: PLACES[on.value].unit, area: 'kN/m²', member: '', node: '' })[target.value])
</script>

<template>
  <h4>Load</h4>
  <div class="load-grid">
    <span>Of case</span>
    <ElSelect
      v-model="bench.ownCase"
      size="small"
      filterable
      allow-create
      default-first-option
      placeholder="choose, or name a new one"
      aria-label="Case of the load"
    >
      <ElOption v-for="n in names" :key="n" :value="n" :label="n" />
    </ElSelect>
    <span>On</span>
    <ElSelect v-model="target" size="small" aria-label="What bears the load">
      <ElOption
        value="member"
        :label="bench.chosen.size === 1 ? 'the chosen member' : `the ${bench.chosen.size} chosen members`"
      />
      <ElOption value="node" label="a node" />
      <ElOption value="panel" label="a panel, or a part of it" />
      <ElOption value="area" label="surfaces: roofs, walls, floors" />
    </ElSelect>
    <template v-if="target === 'area'">
      <span>Surfaces</span>
      <ElSelect
        v-model="onto"
        size="small"
        multiple
        collapse-tags
        filterable
        placeholder="choose"
        aria-label="Surfaces of the load"
      >
        <ElOptionGroup label="All">
          <ElOption
            v-for="(label, key) in SETS"
            :key="key"
            :value="`set ${key}`"
            :label="label"
            :disabled="!there.has(key.slice(0, -1)) && !there.has('surface')"
          />
        </ElOptionGroup>
        <ElOptionGroup v-if="floorLevels.length" label="Floors of a level">
          <ElOption v-for="v in floorLevels" :key="v" :value="`level ${v}`" :label="v" />
        </ElOptionGroup>
        <ElOptionGroup label="Panels">
          <ElOption v-for="p in bench.lists.panels" :key="p.name" :value="`panel ${p.name}`" :label="p.name" />
        </ElOptionGroup>
      </ElSelect>
    </template>
    <template v-if="target === 'panel'">
      <span>Panel</span>
      <ElSelect v-model="panel" size="small" filterable aria-label="Panel of the load">
        <ElOption value="" :label="bench.panel?.name ?? '–'" />
        <ElOption v-for="p in bench.lists.panels" :key="p.name" :value="p.name" :label="p.name" />
      </ElSelect>
    </template>
    <template v-if="target === 'panel' || target === 'area'">
      <span>Pushes</span>
      <ElSelect v-model="axes" size="small" aria-label="Direction of the pressure">
        <ElOption v-for="[value, label] in PUSHES" :key="value" :value="value" :label="label" />
      </ElSelect>
    </template>
    <template v-if="target === 'panel'">
      <template v-if="bends">
        <span>Lies on</span>
        <ElSelect v-model="lies" size="small" aria-label="What of the slab it lies on">
          <ElOption v-for="(place, key) in PLACES" :key="key" :value="key" :label="place.label" />
        </ElSelect>
      </template>
      <span :title="`${PLACES[on].typed} in metres of the drawing${on === 'area' ? '; empty: the whole panel' : ''}`">{{
        on === 'area' ? 'Part' : 'Where'
      }}</span>
      <ElInput v-model="part" size="small" aria-label="Part of the panel" :placeholder="PLACES[on].example" />
    </template>
    <template v-if="target === 'node'">
      <span>Node</span>
      <ElInput v-model="node" size="small" aria-label="Node of the load" />
    </template>
    <template v-if="target === 'member' || target === 'node'">
      <span>Kind</span>
      <ElSelect v-model="kind" size="small" aria-label="Kind of load">
        <ElOption v-if="target === 'member'" value="line" label="line, kN/m" />
        <ElOption value="force" label="force, kN" />
        <ElOption value="moment" label="moment, kNm" />
        <ElOption v-if="target === 'member'" value="temperature" label="warmer by, K" />
        <ElOption v-if="target === 'node'" value="settlement" label="settlement, mm" />
      </ElSelect>
      <span>Direction</span>
      <ElSelect v-model="towards" size="small" aria-label="Direction of the load">
        <ElOption v-for="(t, key) in TOWARDS" :key="key" :value="key" :label="t.words" />
      </ElSelect>
    </template>
    <template v-if="target === 'member'">
      <span title="In metres from the start, or in % of the length; one number for a force; empty: the whole member"
        >From – to</span
      >
      <ElInput v-model="stretch" size="small" aria-label="Where on the member" placeholder="whole, 1 – 3.5 or 50 %" />
    </template>
    <span
      :title="
        unit
          ? unit
          : 'kN, kN/m or kNm; two numbers: at the start and at the end; steps: -6:3 -2:8.2 1 is −6 as far as 3 m, −2 as far as 8.2 m, then 1'
      "
      >Size{{ unit ? `, ${unit}` : '' }}</span
    >
    <ElInput
      v-model="size"
      size="small"
      aria-label="Size of the load"
      :placeholder="target === 'member' ? '5,  2 8  or  -6:3 -2:8.2 1' : '5'"
      @keydown.enter="addLoad"
    />
  </div>
  <p v-if="target === 'member' && bench.chosen.size > 1 && kind !== 'temperature'" class="note">
    <ElCheckbox
      v-model="asRun"
      size="small"
      aria-label="As one run"
      title="One load over all of them; distances count from the free end of the run"
      >the members follow one another: one run</ElCheckbox
    >
    <ElCheckbox
      v-if="!asRun"
      v-model="patterns"
      size="small"
      aria-label="In patterns of spans"
      title="Each member is a span: cases with all of them loaded, with every other one, and with two that follow one another; one acts at a time"
      >in patterns of spans</ElCheckbox
    >
  </p>
  <template v-if="target === 'area'">
    <p class="note">
      <ElCheckbox
        v-model="leaveOut"
        size="small"
        :disabled="!bench.chosen.size"
        aria-label="Leave out the chosen members"
        >the {{ bench.chosen.size }} chosen members take none of it</ElCheckbox
      >
    </p>
    <p v-if="told" class="note told">
      {{ told.panels.length }} panel{{ told.panels.length === 1 ? '' : 's' }}, {{ fixed(told.area, 1) }} m² on
      {{ told.members }} members, up to {{ fixed(told.most, 2) }} kN/m; in all
      <span class="mono">{{ minus(told.total.map((v) => v.toFixed(1)).join('  ')) }}</span> kN along X, Y, Z. It is
      drawn as it would lie.
    </p>
    <p v-if="problem" class="note fails" role="alert">{{ problem }}</p>
  </template>
  <p v-if="wrong" class="note fails" role="alert">{{ wrong }}</p>
  <p class="note">
    <ElButton size="small" type="primary" :disabled="!bench.mayChange" @click="addLoad">Put the load</ElButton>
  </p>
</template>
