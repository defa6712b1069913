<script setup lang="ts">
import { ElButton, ElInput, ElOption, ElSelect, ElTooltip } from 'element-plus'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { extremes } from '../lib/drawing'
import { fixed, parseQuantity } from '../lib/quantity'
import { alike, compressed, marks, repeated, SAME, snapped, type Flange } from '../lib/ribbon'
import { figures, temper } from '../lib/temper'
import { useSingle } from '../stores/single'
import { useWorkbench } from '../stores/workbench'

/** One member laid flat: what holds its flanges, its moment, its segments; restraints are put, moved and let go here. */
type Operations = Schemas['Operate']['operations']
const bench = useWorkbench()
const single = useSingle()
const ribbon = computed(() => (single.ribbon?.member === bench.selected ? single.ribbon : null))

const holder = ref<HTMLElement>()
const width = ref(730)
let watcher: ResizeObserver | undefined
onMounted(() => {
  watcher = new ResizeObserver(([entry]) => (width.value = Math.max(entry!.contentRect.width, 300)))
  watcher.observe(holder.value!)
})
onBeforeUnmount(() => watcher?.disconnect())

const [LEFT, RIGHT, OUTER, INNER] = [84, 20, 30, 84]
const length = computed(() => ribbon.value?.length || 1)
const X = (along: number) => LEFT + ((width.value - LEFT - RIGHT) * along) / length.value
const along = (x: number) => ((x - LEFT) * length.value) / (width.value - LEFT - RIGHT)

/** The inner flange from the plain member's down to where its haunches take it, to the scale of the section's depth. */
const haunches = computed(() => {
  const m = bench.member
  if (!m) return []
  return (m.haunches ?? []).map((h) => ({ ...h, down: Math.min(((INNER - OUTER) * h.depth) / m.size[0] / 2, 34) }))
})
const deepest = computed(() => Math.max(0, ...haunches.value.map((h) => h.down)))
function inner(x: number): number {
  for (const h of haunches.value) {
    const share = Math.abs(x - h.foot) / Math.abs(h.tip - h.foot)
    if (share < 1) return INNER + h.down * (1 - share)
  }
  return INNER
}
const Y = (flange: Flange, x: number) => (flange === 'outer' ? OUTER : inner(x))
function line(flange: Flange, from: number, to: number): string {
  const tips = haunches.value.map((h) => h.tip).filter((x) => x > from && x < to)
  const places = [from, ...(flange === 'inner' ? tips : []), to].sort((a, b) => a - b)
  return places.map((x, i) => `${i ? 'L' : 'M'}${X(x).toFixed(1)} ${Y(flange, x).toFixed(1)}`).join('')
}
const web = computed(
  () => `${line('outer', 0, length.value)}L${line('inner', 0, length.value).slice(1).split('L').reverse().join('L')}Z`,
)
const pressed = (flange: Flange) => compressed(ribbon.value?.x ?? [], ribbon.value?.My ?? [], flange)

const BASE = computed(() => INNER + deepest.value + 56)
const HEIGHT = computed(() => BASE.value + 34)
const curve = computed(() => {
  const r = ribbon.value
  if (!r?.My.length) return { d: '', words: [] as { x: number; y: number; text: string; anchor: string }[] }
  const most = Math.max(...r.My.map(Math.abs), 1e-9)
  const y = (m: number) => BASE.value + (m / most) * 20
  const d = `M${X(0)} ${BASE.value}${r.x.map((x, i) => `L${X(x).toFixed(1)} ${y(r.My[i]!).toFixed(1)}`).join('')}L${X(length.value)} ${BASE.value}Z`
  const words = [...new Set([0, ...extremes(r.My), r.My.length - 1])]
    .filter((i) => Math.abs(r.My[i]!) > most * 0.08)
    .map((i) => {
      const x = X(r.x[i]!)
      return {
        x: Math.min(Math.max(x, LEFT + 2), width.value - RIGHT - 2),
        y: r.My[i]! > 0 ? y(r.My[i]!) + 11 : y(r.My[i]!) - 4,
        text: fixed(r.My[i]!, 0),
        anchor: x < LEFT + 30 ? 'start' : x > width.value - RIGHT - 30 ? 'end' : 'middle',
      }
    })
  return { d, words }
})

/** What is pointed at or dragged: a place to hold, or what holds a place. */
const pointed = ref<{ flange: Flange; at: number; held: boolean; to?: number } | null>(null)
const FLANGES: Flange[] = ['outer', 'inner']
const placed = (flange: Flange) => (ribbon.value ? marks(ribbon.value, flange) : [])
/** Purlins or rails without a stay. */
const free = computed(() => placed('outer').filter((x) => !placed('inner').some((y) => Math.abs(x - y) < SAME)))
const words = (flange: Flange) => (flange === 'outer' ? 'Outer flange' : 'Inner flange')

function operations(p: NonNullable<typeof pointed.value>): Operations {
  const base = { do: 'restrain' as const, members: [bench.selected], flange: p.flange, at: p.at }
  if (!p.held) return [{ ...base, let_go: false }]
  if (p.to === undefined) return [{ ...base, let_go: true }]
  return Math.abs(p.to - p.at) < SAME ? [] : [{ ...base, let_go: false, to: p.to }]
}
watch(
  () => JSON.stringify(pointed.value),
  () => single.ask(...(pointed.value && bench.mayChange ? operations(pointed.value) : [])),
)
watch(
  () => [bench.selected, bench.chain?.revision],
  () => (pointed.value = null),
)

function label(p: NonNullable<typeof pointed.value>): string {
  if (!p.held) return `${words(p.flange)} held at ${p.at.toFixed(2)} m`
  if (p.to === undefined) return `${words(p.flange)} let go at ${p.at.toFixed(2)} m`
  return `${words(p.flange)}: from ${p.at.toFixed(2)} to ${p.to.toFixed(2)} m`
}
async function act(p: NonNullable<typeof pointed.value>): Promise<void> {
  const wanted = operations(p)
  pointed.value = null
  if (wanted.length) await bench.operate(`${bench.member?.label}: ${label(p)}`, ...wanted)
}

const svg = ref<SVGSVGElement>()
function at(event: PointerEvent): number {
  const box = svg.value!.getBoundingClientRect()
  return along(((event.clientX - box.left) * width.value) / box.width)
}
const near = computed(() => (9 * length.value) / (width.value - LEFT - RIGHT))
function over(event: PointerEvent, flange: Flange) {
  if (dragged || !ribbon.value) return
  const place = snapped(ribbon.value, flange, at(event), near.value)
  pointed.value = place === null ? null : { flange, at: place, held: false }
}
function put(flange: Flange) {
  if (pointed.value?.flange === flange && !pointed.value.held) void act(pointed.value)
}
let dragged: { flange: Flange; at: number; moved: boolean } | null = null
function grab(event: PointerEvent, flange: Flange, x: number) {
  if (!bench.mayChange || event.button) return
  dragged = { flange, at: x, moved: false }
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
  if (!dragged || !ribbon.value) return
  const to = at(event)
  if (!dragged.moved && Math.abs(X(to) - X(dragged.at)) < 4) return
  dragged.moved = true
  const place = snapped(ribbon.value, dragged.flange, to, near.value)
  pointed.value = { flange: dragged.flange, at: dragged.at, held: true, to: place ?? dragged.at }
}
function drop() {
  const own = dragged
  dragged = null
  if (!own) return
  if (own.moved && pointed.value) void act(pointed.value)
  else void act({ flange: own.flange, at: own.at, held: true })
}
function nudge(event: KeyboardEvent, flange: Flange, x: number) {
  const by = { ArrowLeft: -0.1, ArrowRight: 0.1 }[event.key]
  if (by) {
    const to = Number((x + by).toFixed(4))
    if (to > SAME && to < length.value - SAME) void act({ flange, at: x, held: true, to })
  } else if (['Delete', 'Backspace', 'Enter'].includes(event.key)) void act({ flange, at: x, held: true })
  else return
  event.preventDefault()
  event.stopPropagation()
}

// typed: a place, and perhaps a spacing at which it goes on
const flange = ref<Flange>('inner')
const first = ref('')
const spacing = ref('')
const wrong = ref('')
async function hold() {
  const from = parseQuantity(first.value, 'length')
  const every = spacing.value ? parseQuantity(spacing.value, 'length') : null
  if (typeof from === 'string' || typeof every === 'string') {
    wrong.value = typeof from === 'string' ? from : (every as string)
    return
  }
  const places = every === null ? [from] : repeated(ribbon.value!, flange.value, from, every)
  wrong.value = places.length ? '' : 'Nothing is left to hold there.'
  if (!places.length) return
  const done = await bench.operate(
    `${bench.member?.label}: ${words(flange.value).toLowerCase()} held at ${places.map((x) => x.toFixed(2)).join(', ')} m`,
    ...places.map((x) => ({
      do: 'restrain' as const,
      members: [bench.selected],
      flange: flange.value,
      at: x,
      let_go: false,
    })),
  )
  wrong.value = done ? '' : (bench.refusal?.message ?? 'Nothing was changed.')
  if (done) first.value = spacing.value = ''
}
const others = computed(() => (bench.member ? alike(bench.chain?.members ?? [], bench.member) : []))
const copy = () =>
  bench.operate(`${bench.member?.label}: restraints copied to ${others.value.length} alike`, {
    do: 'match',
    members: others.value,
    like: bench.selected,
  })
/** Figures of places that have room beside the one before. */
function roomy(places: readonly number[]): number[] {
  let last = -Infinity
  return places.filter((x) => {
    if (X(x) - last < 34) return false
    last = X(x)
    return true
  })
}
</script>

<template>
  <section ref="holder" class="ribbon" aria-label="Restraint ribbon">
    <header>
      <b>Restraint ribbon</b>
      <span class="key"><i class="thick" />compressed <i />in tension</span>
      <form v-if="ribbon && bench.mayChange" @submit.prevent="hold">
        <ElSelect v-model="flange" class="which" size="small" aria-label="Flange to hold">
          <ElOption value="outer" label="outer" />
          <ElOption value="inner" label="inner" />
        </ElSelect>
        <ElInput v-model="first" size="small" aria-label="Hold at, m" placeholder="at m" />
        <ElInput v-model="spacing" size="small" aria-label="and then every, m" placeholder="every m" />
        <ElButton size="small" native-type="submit" :disabled="!first">Hold</ElButton>
        <ElTooltip
          v-if="others.length"
          :content="`The same restraints for the other ${others.length} of this role, section and length`"
        >
          <ElButton size="small" @click="copy">Copy to {{ others.length }} alike</ElButton>
        </ElTooltip>
      </form>
    </header>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <svg
      v-if="ribbon && ribbon.outer.length > 1"
      ref="svg"
      :class="{ behind: bench.stale }"
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      :height="HEIGHT"
      role="group"
      aria-label="Restraints of both flanges and the moment along the member"
      @pointerleave="pointed = null"
    >
      <text v-for="x in roomy(placed('outer'))" :key="`t${x}`" class="place" :x="X(x)" y="11">{{ x.toFixed(2) }}</text>
      <text class="side" x="8" :y="OUTER - 6">{{ ribbon.outer.length > 2 ? 'purlins, rails' : '' }}</text>
      <text class="side" x="8" :y="OUTER + 11">outer flange</text>
      <text class="side" x="8" :y="INNER - 3">inner flange</text>
      <text class="side" x="8" :y="INNER + 13">stays</text>
      <path class="web" :d="web" />
      <g v-for="f in FLANGES" :key="f">
        <g v-for="s in f === 'outer' ? ribbon.outer_spans : ribbon.inner_spans" :key="s.start">
          <path
            :d="`${line(f, s.start, s.end)}`"
            :transform="`translate(0 ${f === 'outer' ? 8 : -8})`"
            :stroke="s.utilisation > 1 ? 'url(#over)' : temper(s.utilisation)"
            class="span"
          >
            <title>{{ s.start.toFixed(2) }} to {{ s.end.toFixed(2) }} m: sideways {{ figures(s.utilisation) }}</title>
          </path>
          <text
            v-if="X(s.end) - X(s.start) > 30 && s.utilisation > 0.005"
            class="figure"
            :class="{ light: s.utilisation > 0.95 }"
            :x="(X(s.start) + X(s.end)) / 2"
            :y="(Y(f, s.start) + Y(f, s.end)) / 2 + (f === 'outer' ? 11.5 : -4.5)"
          >
            {{ figures(s.utilisation) }}
          </text>
        </g>
        <path class="flange" :d="line(f, 0, length)" />
        <path v-for="[a, b] in pressed(f)" :key="`c${a}`" class="flange pressed" :d="line(f, a, b)" />
        <path
          v-if="bench.mayChange"
          class="hit"
          :class="{ may: !!pointed }"
          :d="line(f, 0, length)"
          @pointermove="over($event, f)"
          @pointerleave="pointed = null"
          @click="put(f)"
        />
      </g>
      <path
        v-for="x in free"
        :key="`f${x}`"
        class="open"
        :d="`M${X(x)} ${inner(x) + 2}l-4.5 9h9z`"
        @pointermove="over($event, 'inner')"
        @click="put('inner')"
      />
      <template v-for="f in FLANGES" :key="f">
        <path
          v-for="x in placed(f)"
          :key="x"
          class="mark"
          :class="{ going: pointed?.held && pointed.flange === f && Math.abs(pointed.at - x) < SAME }"
          :d="f === 'outer' ? `M${X(x) - 4} ${OUTER - 10}h8v8h-8z` : `M${X(x)} ${inner(x) + 2}l-4.5 9h9z`"
          role="button"
          :tabindex="bench.mayChange ? 0 : -1"
          :aria-label="`${words(f)} held at ${x.toFixed(2)} m: let go`"
          @pointerenter="dragged || (pointed = { flange: f, at: x, held: true })"
          @pointerleave="dragged || (pointed = null)"
          @pointerdown="grab($event, f, x)"
          @pointermove="drag"
          @pointerup="drop"
          @keydown="nudge($event, f, x)"
        >
          <title>{{ words(f) }} held at {{ x.toFixed(2) }} m: drag it, or click to let go</title>
        </path>
      </template>
      <path
        v-if="pointed && (!pointed.held || pointed.to !== undefined)"
        class="ghost"
        :d="
          pointed.flange === 'outer'
            ? `M${X(pointed.to ?? pointed.at) - 4} ${OUTER - 10}h8v8h-8z`
            : `M${X(pointed.to ?? pointed.at)} ${inner(pointed.to ?? pointed.at) + 2}l-4.5 9h9z`
        "
      />
      <text class="side" x="8" :y="BASE - 8">M in {{ ribbon.combination }}</text>
      <text class="side" x="8" :y="BASE + 6">kNm</text>
      <line class="axis" :x1="X(0)" :x2="X(length)" :y1="BASE" :y2="BASE" />
      <path class="moment" :d="curve.d" />
      <text v-for="(w, i) in curve.words" :key="i" class="word" :x="w.x" :y="w.y" :text-anchor="w.anchor">
        {{ w.text }}
      </text>
      <defs>
        <pattern id="over" width="6" height="6" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="#a8402a" />
          <rect width="2" height="6" fill="#7d2b1b" />
        </pattern>
      </defs>
    </svg>
    <p v-else-if="ribbon" class="note">Nothing bends it sideways: a bar, or a shape that does not twist.</p>
    <p v-else class="note">Laying the member flat…</p>
    <p
      v-if="pointed"
      class="tip"
      role="status"
      :style="{ left: `${Math.min(X(pointed.to ?? pointed.at) + 14, width - 250)}px` }"
    >
      <b>{{ label(pointed) }}</b>
      <span v-if="single.attempt?.told">
        {{ figures(single.attempt.told.before) }} → {{ figures(single.attempt.told.utilisation) }}
        <em>{{ single.attempt.told.governs.toLowerCase() }} governs, present forces</em>
      </span>
      <span v-else-if="single.attempt?.problem">{{ single.attempt.problem }}</span>
      <span v-else-if="single.trying">solving…</span>
      <em>{{
        pointed.to !== undefined ? 'drop it here' : pointed.held ? 'click to let go, drag to move' : 'click to hold'
      }}</em>
    </p>
  </section>
</template>

<style scoped>
.ribbon {
  position: relative;
  height: 100%;
  overflow: auto hidden;
  background: var(--sheet);
  border-top: 1px solid var(--line);
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 5px 12px 3px;
  font: 400 12px var(--condensed);
  color: var(--ink-2);
  white-space: nowrap;
}
header > b {
  font: 600 11.5px var(--condensed);
  letter-spacing: 0.05em;
}
.key {
  display: flex;
  align-items: center;
  gap: 5px;
}
.key i {
  width: 18px;
  border-top: 1px solid var(--ink);
}
.key i.thick {
  border-top-width: 4px;
}
form {
  display: flex;
  gap: 4px;
  margin-left: auto;
  align-items: center;
}
form :deep(.el-input) {
  width: 66px;
}
.which {
  width: 76px;
}
form :deep(.el-button + .el-button) {
  margin-left: 0;
}
.wrong {
  margin: 0;
  padding: 2px 12px;
  color: var(--oxide);
  font: 400 12px var(--condensed);
  text-align: right;
}
svg {
  display: block;
  width: 100%;
  touch-action: none;
}
svg.behind {
  opacity: 0.5;
}
.side {
  font: 400 11.5px var(--condensed);
  fill: var(--ink-2);
}
.place {
  font: 400 10.5px var(--mono);
  fill: var(--ink-2);
  text-anchor: middle;
}
.web {
  fill: var(--ink);
  fill-opacity: 0.045;
}
.span {
  fill: none;
  stroke-width: 13;
}
.figure {
  font: 400 10.5px var(--mono);
  text-anchor: middle;
  fill: var(--ink);
  pointer-events: none;
}
.figure.light {
  fill: #fff;
}
.flange {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
  pointer-events: none;
}
.flange.pressed {
  stroke-width: 4;
}
.hit {
  fill: none;
  stroke: transparent;
  stroke-width: 26;
  cursor: copy;
}
.mark {
  fill: var(--ink);
  stroke: transparent;
  stroke-width: 8;
  stroke-linejoin: round;
  cursor: grab;
  outline-offset: 2px;
}
.mark.going {
  fill: var(--oxide);
}
.mark:focus-visible {
  fill: var(--chalk);
}
.open {
  fill: #fff;
  stroke: var(--ink-3);
  stroke-width: 1;
  stroke-dasharray: 2 1.5;
  cursor: copy;
}
.ghost {
  fill: var(--chalk-soft);
  stroke: var(--chalk);
  stroke-dasharray: 3 2;
  pointer-events: none;
}
.axis {
  stroke: var(--ink-3);
}
.moment {
  fill: #5f7382;
  fill-opacity: 0.14;
  stroke: #5f7382;
}
.word {
  font: 400 11px var(--mono);
  fill: var(--ink);
}
.tip {
  position: absolute;
  top: 150px;
  margin: 0;
  padding: 6px 10px;
  background: var(--ink);
  color: #fff;
  border-radius: 3px;
  font: 400 12px var(--condensed);
  display: grid;
  gap: 1px;
  pointer-events: none;
  z-index: 3;
  max-width: 240px;
}
.tip span {
  font-family: var(--mono);
}
.tip em {
  font: 400 11.5px var(--condensed);
  color: #c9d2d8;
}
</style>
