import { ref, watch, type Ref } from 'vue'

/** A field that is typed into: what stands in it, what is wrong with it, and how it is committed or left. */
export interface Typed {
  typed: Ref<string>
  wrong: Ref<string>
  commit: () => Promise<void>
  leave: () => void
}

/**
 * Text that stands for a value. `post` gives "" when the value was taken, else the reason why not.
 *
 * Enter, leaving the field and a choice from a list may each commit: the same text is posted once. What is typed while an
 * edit is under way stays, whatever the answer to the edit brings.
 */
export function useTyped(written: () => string, post: (text: string) => Promise<string> | string): Typed {
  const typed = ref('')
  const wrong = ref('')
  let posted: string | null = null
  watch(
    written,
    (text, before) => {
      const untouched = [before ?? '', posted].includes(typed.value.trim())
      if (!untouched && !wrong.value) return
      typed.value = text
      wrong.value = ''
    },
    { immediate: true },
  )
  function leave() {
    typed.value = written()
    wrong.value = ''
  }
  async function commit() {
    const text = typed.value.trim()
    if (text === posted) return
    if (text === written()) {
      wrong.value = ''
      return
    }
    posted = text
    const reason = await post(text)
    if (posted === text) posted = null
    if (typed.value.trim() !== text) return
    wrong.value = reason
    if (!reason) typed.value = written()
  }
  return { typed, wrong, commit, leave }
}
