import { nextTick } from 'vue'

/** A field that is written in as soon as it appears: what stands in it is chosen, and goes with the first key. */
export const vFocus = {
  mounted(el: HTMLElement) {
    const input = el.querySelector('input')
    input?.focus()
    // its value comes after it
    void nextTick(() => input?.select())
  },
}
