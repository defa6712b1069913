/** A field that is written in as soon as it appears: what stands in it is chosen. */
export const vFocus = {
  mounted(el: HTMLElement) {
    const input = el.querySelector('input')
    input?.focus()
    input?.select()
  },
}
