interface Case {
  symbol: string
  name: string
}

/** A formula with the signs that people type made one. */
const plain = (text: string) =>
  text.replaceAll('−', '-').replaceAll(',', '.').replace(/[·*]/g, ' ').replace(/[“”"]/g, '')

/** Factors by case name from a formula in symbols or names, “1.35 (G1 + G2) + 1.2 Snow, undrifted”; or a sentence that says what is
 * wrong. */
export function readFactors(text: string, cases: readonly Case[]): Record<string, number> | string {
  const found: Record<string, number> = {}
  let rest = plain(text).trim()
  if (!rest) return 'Factors are needed, as 1.35 G1 + 1.2 S1.'
  // the longest first: a name may begin as another does
  const words = cases
    .flatMap((of) => [of.symbol, of.name].map((word) => ({ word: plain(word).trim().toLowerCase(), of })))
    .filter((known) => known.word)
    .sort((a, b) => b.word.length - a.word.length)
  const take = (pattern: RegExp) => {
    const match = pattern.exec(rest)
    if (match) rest = rest.slice(match[0].length).trimStart()
    return match
  }
  const takeCase = () => {
    const known = words.find((k) => rest.toLowerCase().startsWith(k.word) && !/^\w/.test(rest.slice(k.word.length)))
    if (known) rest = rest.slice(known.word.length).trimStart()
    return known?.of
  }
  while (rest) {
    const all = rest
    const unclear = `“${all}” is not understood; write 1.35 G1 + 1.2 S1.`
    const sign = take(/^[+-]/)?.[0] === '-' ? -1 : 1
    // a name may begin with a figure: then that is no factor
    let one = takeCase()
    const factor = sign * (one ? 1 : Number(take(/^\d+(\.\d+)?/)?.[0] ?? 1))
    const several = !one && !!take(/^\(/)
    for (;;) {
      one ??= takeCase()
      if (!one) {
        const word = rest.split(/[+)]/)[0]!.trim()
        return word ? `There is no case “${word}”.` : unclear
      }
      if (one.name in found) return `Case ${one.symbol} stands twice.`
      found[one.name] = factor
      one = undefined
      if (!several || take(/^\)/)) break
      if (!take(/^\+/)) return unclear
    }
    if (rest && !/^[+-]/.test(rest)) return unclear
  }
  return found
}
