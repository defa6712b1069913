/** The keys of the workbench. */

import { useEventListener } from '@vueuse/core'
import { LINKS } from './stages'
import { useWorkbench } from '../stores/workbench'
import type { Ref } from 'vue'

/** What a key does; nothing while something is typed, or one of the dialogs is open. */
export function useKeys(finding: Ref<boolean>, shortcuts: Ref<boolean>, proof: Ref<string>) {
  const bench = useWorkbench()
  // a field is undone by letters while it is typed into; once that is committed, it is a change of the document
  const open = new WeakSet<EventTarget>()
  useEventListener(window, 'input', (event) => event.target && open.add(event.target))
  useEventListener(window, 'change', (event) => event.target && open.delete(event.target))
  const atRest = (field: HTMLElement) => field.matches('[data-path]:not([aria-invalid=true])') && !open.has(field)
  function keys(event: KeyboardEvent) {
    // a list that is closed keeps the focus after a choice, and is not typed into
    const typing = (event.target as HTMLElement).matches(
      'input:not([role=combobox][aria-expanded=false]), textarea, [contenteditable]',
    )
    const key = event.key.toLowerCase()
    const undone = 'zy'.includes(key) && atRest(event.target as HTMLElement)
    if ((event.ctrlKey || event.metaKey) && (!typing || key === 'k' || undone)) {
      if (key === 'k') {
        event.preventDefault()
        finding.value = true
      }
      if (key === 'z' || key === 'y') {
        event.preventDefault()
        void bench.step(key === 'y' || event.shiftKey ? 'redo' : 'undo')
      }
      return
    }
    // a dialog that is open has the keys, and is asked before it closes: closing it changes nothing behind it
    if (typing || event.ctrlKey || event.metaKey || finding.value || shortcuts.value || proof.value) return
    const frames = bench.planes.filter((p) => p.kind === 'frame').map((p) => p.key)
    const at = frames.indexOf(bench.plane)
    if ('?[],.0'.includes(event.key)) event.preventDefault()
    if (event.altKey) {
      const link = LINKS[Number(event.key) - 1]
      if (link) {
        event.preventDefault()
        bench.stage = link.key
      }
    } else if (event.key === '?') shortcuts.value = true
    else if (event.key === '[' && at > 0) bench.look(frames[at - 1]!)
    else if (event.key === ']' && at >= 0 && at < frames.length - 1) bench.look(frames[at + 1]!)
    else if (event.key === ',' || event.key === '.') bench.stepState(event.key === '.' ? 1 : -1)
    else if (event.key === '0') bench.look('whole')
    else if (event.key === 'Escape') {
      if (bench.panel) bench.closePanel()
      else if (bench.drawing) bench.drawing = null
      else bench.select('')
    } else if (event.key === 'Enter' && bench.drawing) void bench.drawn()
  }

  return { keys }
}
