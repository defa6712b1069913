/** “5, 6, 7.5” or “5 to 8 by 0.5”; null where it is neither. */
export function numbers(text: string): number[] | null {
  const range = /^\s*(-?[\d.]+)\s*(?:to|–|…)\s*(-?[\d.]+)\s*(?:by|step)\s*([\d.]+)\s*$/.exec(text)
  if (range) {
    const [from, to, by] = range.slice(1).map(Number) as [number, number, number]
    if (![from, to, by].every(Number.isFinite) || by <= 0 || to < from || (to - from) / by > 49) return null
    return Array.from({ length: Math.floor((to - from) / by + 1e-9) + 1 }, (_, k) => +(from + k * by).toFixed(6))
  }
  const found = text.split(/[\s,;]+/).filter(Boolean)
  const values = found.map(Number)
  return values.every(Number.isFinite) ? values : null
}
