<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useDossier, type Chapter, type Level, type Section } from '../stores/dossier'
import { useWorkbench } from '../stores/workbench'

/** The table of contents: what is told, how much of it, and on which page. */
const bench = useWorkbench()
const dossier = useDossier()
const LEVELS: Level[] = ['summary', 'normal', 'full']
const inside = (chapter: Chapter): Section[] => {
  const all = dossier.sections
  const at = all.findIndex((s) => s.anchor === chapter.key)
  if (at < 0) return []
  const end = all.findIndex((s, k) => k > at && s.depth === 1)
  const own = all.slice(at + 1, end < 0 ? undefined : end)
  // what stands below a section is shown where it is looked at
  let open = ''
  return own.filter((s) => {
    if (s.row) return false
    if (s.depth === 2) open = s.anchor
    const within = own.filter((o) => o.number.startsWith(`${own.find((x) => x.anchor === open)?.number}.`))
    return s.depth === 2 || dossier.chosen === open || within.some((o) => o.anchor === dossier.chosen)
  })
}
const rows = computed(() =>
  dossier.chapters.map((chapter) => ({
    chapter,
    head: dossier.sections.find((s) => s.anchor === chapter.key) ?? null,
    sections: inside(chapter),
    on: dossier.chapter?.key === chapter.key,
  })),
)
function next(chapter: Chapter) {
  const level = LEVELS[(LEVELS.indexOf(chapter.level) + 1) % 3]!
  void dossier.plan(chapter, 'level', level)
}
const issued = computed(() => dossier.state?.issues?.[0]?.number ?? 0)
const ticked = computed(() => dossier.sections.filter((s) => s.seen.length).length)
</script>

<template>
  <nav aria-label="Contents of the dossier">
    <h4>
      Contents <span class="mono">{{ dossier.state?.file?.pages ?? '–' }} pages</span>
    </h4>
    <p class="legend">
      <span v-for="(level, k) in LEVELS" :key="level"
        ><i class="bars"><u v-for="j in 3" :key="j" :class="{ on: j <= k + 1 }" /></i> {{ level }}</span
      >
    </p>
    <ol>
      <li v-for="(row, k) in rows" :key="row.chapter.key">
        <div class="row" :class="{ on: dossier.chosen === row.chapter.key, out: row.chapter.left_out }">
          <ElButton class="bare name" @click="dossier.go(row.chapter.key)">
            <b>{{ row.head?.number ?? '–' }}</b> {{ row.chapter.title }}
          </ElButton>
          <template v-if="bench.mayChange && row.on">
            <ElButton
              size="small"
              text
              class="move"
              :disabled="!k"
              :aria-label="`${row.chapter.title}: further up`"
              title="Further up"
              @click="dossier.move(row.chapter, -1)"
              >↑</ElButton
            >
            <ElButton
              size="small"
              text
              class="move"
              :disabled="k === rows.length - 1"
              :aria-label="`${row.chapter.title}: further down`"
              title="Further down"
              @click="dossier.move(row.chapter, 1)"
              >↓</ElButton
            >
          </template>
          <em v-if="row.chapter.left_out">left out</em>
          <ElButton
            v-else
            class="bare level"
            :disabled="!bench.mayChange"
            :title="`Told at the level “${row.chapter.level}”`"
            :aria-label="`${row.chapter.title}: level ${row.chapter.level}, next level`"
            @click="next(row.chapter)"
          >
            <i class="bars"
              ><u v-for="j in 3" :key="j" :class="{ on: j <= LEVELS.indexOf(row.chapter.level) + 1 }"
            /></i>
          </ElButton>
          <span class="mono">{{ row.head?.page ?? '' }}</span>
        </div>
        <template v-if="row.on && !row.chapter.left_out">
          <ElButton
            v-for="s in row.sections"
            :key="s.anchor"
            class="bare row section"
            :class="{ on: dossier.chosen === s.anchor, deep: s.depth > 2 }"
            @click="dossier.go(s.anchor)"
          >
            <span class="name">{{ s.number }} {{ s.title }}</span>
            <span v-if="s.since" class="since" :title="`${s.since} since issue ${issued}`">△</span>
            <span v-if="s.seen.length" class="seen" title="Seen as it stands">✓</span>
            <span v-else-if="s.fallen.length" class="fallen" title="Seen as it was before">✓</span>
            <span class="mono">{{ s.page }}</span>
          </ElButton>
        </template>
      </li>
    </ol>
    <p class="note">
      {{ ticked }} of {{ dossier.sections.length }} chapters, sections and inputs are ticked as they stand.
    </p>
  </nav>
</template>

<style scoped>
h4 {
  padding-right: 26px;
}
.legend {
  display: flex;
  gap: 10px;
  padding: 0 12px 6px;
  margin: 0;
  font: 400 11.5px var(--condensed);
  color: var(--ink-2);
}
.bars {
  display: inline-grid;
  gap: 1.5px;
  width: 12px;
  vertical-align: middle;
}
.bars u {
  height: 2.5px;
  background: var(--line);
}
.bars u.on {
  background: var(--ink);
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
.row {
  display: flex;
  align-items: center;
  gap: 6px;
  width: 100%;
  padding: 3px 12px;
  border: 0;
  background: none;
  text-align: left;
  font: 400 12.5px var(--condensed);
  border-left: 3px solid transparent;
}
.row.on {
  background: var(--chalk-soft);
  border-left-color: var(--chalk);
}
.row.section {
  padding-left: 24px;
  cursor: pointer;
}
.name {
  flex: 1;
  border: 0;
  background: none;
  text-align: left;
  padding: 0;
  cursor: pointer;
  font: inherit;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button.name {
  font-weight: 600;
}
.out .name {
  text-decoration: line-through;
  color: var(--ink-2);
}
em {
  font-style: normal;
  color: #6f4d0c;
  font-size: 11.5px;
}
.level {
  border: 0;
  background: none;
  padding: 2px;
  cursor: pointer;
}
.move {
  padding: 0 2px;
  min-height: 0;
  height: 18px;
  margin: 0;
}
.row > .mono {
  width: 24px;
  text-align: right;
  font-size: 11.5px;
}
.row.deep {
  padding-left: 36px;
}
.since {
  color: #8a5f12;
}
.seen {
  color: var(--current);
  font-weight: 600;
}
.fallen {
  color: #8a5f12;
  text-decoration: line-through;
}
</style>
