/** What sets formulas in type, with its styles: it comes when the first formula is shown. */
let loading: Promise<typeof import('katex')> | undefined

export function typesetter() {
  loading ??= Promise.all([import('katex'), import('katex/dist/katex.min.css')]).then(([katex]) => katex)
  return loading
}
