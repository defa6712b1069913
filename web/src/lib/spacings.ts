/** Spacings as written on drawings: “2*6 + 4*7.2 + 6”, equal neighbours counted together. */
export function writeSpacings(values: readonly number[]): string {
  const runs: { value: number; count: number }[] = []
  for (const value of values) {
    const last = runs.at(-1)
    if (last && Math.abs(last.value - value) < 1e-9) last.count++
    else runs.push({ value, count: 1 })
  }
  return runs
    .map(({ value, count }) => (count > 1 ? `${count}*${Number(value.toFixed(4))}` : `${Number(value.toFixed(4))}`))
    .join(' + ')
}

/** The list that is written, or a sentence that says what is wrong. Commas, spaces and plus signs part the spacings. */
export function readSpacings(text: string, most = 119): { value: number[] } | string {
  const parts = text
    .replace(/(\d)\s*[×x]\s*(?=\d)/g, '$1*')
    .replace(/\s*\*\s*/g, '*')
    .replace(/m\b/g, '')
    .split(/[+;\s]+/)
    .filter(Boolean)
  const found: number[] = []
  for (const part of parts) {
    const match = /^(?:(\d+)\*)?(\d+(?:[.,]\d+)?)$/.exec(part)
    if (!match) return `“${part}” is not a spacing; write for instance 2*6 + 4*7.2.`
    const value = Number(match[2]!.replace(',', '.'))
    const count = Number(match[1] ?? 1)
    if (count < 1 || found.length + count > most) return `At most ${most} bays; ${found.length + count} were written.`
    for (let i = 0; i < count; i++) found.push(value)
  }
  return found.length ? { value: found } : 'At least one spacing is needed.'
}
