interface Case {
  symbol: string
  name: string
}

/** Factors by case name from a formula in symbols, “1.35 (G1 + G2) + 1.2 S1”; or a sentence that says what is wrong. */
export function readFactors(text: string, cases: readonly Case[]): Record<string, number> | string {
  const found: Record<string, number> = {}
  const source = text.replaceAll('−', '-').replaceAll(',', '.').replaceAll('·', ' ').replaceAll('*', ' ')
  if (!source.trim()) return 'Factors are needed, as 1.35 G1 + 1.2 S1.'
  const term = /\s*([+-])?\s*(\d+(?:\.\d+)?)?\s*(?:\(([^()]*)\)|([A-Za-z]\w*))/y
  let at = 0
  while (source.slice(at).trim()) {
    term.lastIndex = at
    const match = term.exec(source)
    if (!match) return `“${source.slice(at).trim()}” is not understood; write 1.35 G1 + 1.2 S1.`
    at = term.lastIndex
    const factor = (match[1] === '-' ? -1 : 1) * Number(match[2] ?? 1)
    for (const symbol of match[4] ? [match[4]] : match[3]!.split('+').map((s) => s.trim())) {
      const known = cases.find((c) => c.symbol.toLowerCase() === symbol.toLowerCase() || c.name === symbol)
      if (!known) return `There is no case “${symbol}”.`
      if (known.name in found) return `Case ${known.symbol} stands twice.`
      found[known.name] = factor
    }
  }
  return found
}
