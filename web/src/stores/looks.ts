import { watch, type Ref } from 'vue'
import type { Schemas } from '../api/client'
import type { Link } from '../lib/stages'
import type { Colouring, Overlay } from './workbench'

/** Where the Site stage looks: the building in its surroundings. */
export const SITE = 'site'

/** What one stage looks at. */
export interface Look {
  plane: string
  state: string
  overlays: Set<Overlay>
  colouring: Colouring
}

/** Stages that show the building; the others are pages of their own. */
const SHOWING = ['site', 'frame', 'actions', 'combinations', 'response', 'verification'] as const
type Showing = (typeof SHOWING)[number]
const isShowing = (stage: Link): stage is Showing => (SHOWING as readonly Link[]).includes(stage)

/** The case that Actions opens with: the first that is no weight. */
const NATURES = ['snow', 'wind', 'imposed', 'other']
type Known = Pick<Schemas['ChainOut'], 'cases' | 'members'>
function firstCase(chain: Known | null): string {
  const cases = chain?.cases ?? []
  const found = NATURES.map((nature) => cases.find((c) => c.nature === nature)).find(Boolean)
  return (found ?? cases[0])?.symbol ?? ''
}

/** The combination that governs what is used most. */
function worstCombination(chain: Known | null): string {
  const used = (chain?.members ?? []).filter((m) => m.combination)
  const worst = used.reduce((a, b) => ((b.utilisation ?? 0) > (a?.utilisation ?? -1) ? b : a), used[0])
  return worst?.combination ?? ''
}

/** What a stage opens with, beside the plane that was looked at last. selected: whether a member is, whose governing combination is
 * shown where no other one is. */
export function opening(stage: Showing, plane: string, chain: Known | null, selected = false): Look {
  const look = (state: string, colouring: Colouring, ...overlays: Overlay[]): Look => ({
    plane: stage === 'site' ? SITE : plane === SITE ? 'whole' : plane,
    state,
    overlays: new Set(overlays),
    colouring,
  })
  switch (stage) {
    case 'site':
      return look('', 'nothing')
    case 'frame':
      return look('', 'role')
    case 'actions':
      return look(firstCase(chain), 'nothing', 'actions')
    case 'combinations':
      return look(selected ? '' : worstCombination(chain), 'nothing', 'actions')
    case 'response':
      return look('', 'nothing', 'moment')
    case 'verification':
      return look('', 'utilisation', 'moment')
  }
}

interface Bench {
  stage: Ref<Link>
  chain: Ref<Schemas['ChainOut'] | null>
  plane: Ref<string>
  state: Ref<string>
  selected: Ref<string>
  overlays: Ref<Set<Overlay>>
  colouring: Ref<Colouring>
  draw(): Promise<void>
}

/** Each stage opens its own view, and comes back to it as it was left. */
export function useLooks(bench: Bench): { begin(): void } {
  const left = new Map<Link, Look>()
  let last = 'whole'
  watch(
    bench.stage,
    (next, before) => {
      const { plane, state, overlays, colouring } = bench
      if (plane.value !== SITE) last = plane.value
      if (isShowing(before)) {
        left.set(before, {
          plane: plane.value,
          state: state.value,
          overlays: new Set(overlays.value),
          colouring: colouring.value,
        })
      }
      if (!isShowing(next)) return
      const look = left.get(next) ?? opening(next, last, bench.chain.value, !!bench.selected.value)
      const gone =
        look.plane !== SITE && look.plane !== 'whole' && !bench.chain.value?.planes?.some((p) => p.key === look.plane)
      const same = look.plane === plane.value && look.state === state.value
      plane.value = gone ? last : look.plane
      state.value = look.state
      overlays.value = new Set(look.overlays)
      colouring.value = look.colouring
      if (!same) void bench.draw()
    },
    // whoever changes the stage and then what is shown has the last word
    { flush: 'sync' },
  )
  /** For another project: what the present stage opens with. */
  function begin(): void {
    left.clear()
    last = 'whole'
    const look = opening(isShowing(bench.stage.value) ? bench.stage.value : 'verification', last, null)
    bench.plane.value = look.plane
    bench.state.value = look.state
    bench.overlays.value = look.overlays
    bench.colouring.value = look.colouring
  }
  return { begin }
}
