/** Places and steps as written: “x, y, z” in metres. */
export function writeVector(v: readonly number[]): string {
  return v.map((x) => Number(x.toFixed(4))).join(', ')
}
export function readVector(text: string): { value: number[] } | string {
  const parts = text
    .replace(/−/g, '-')
    .split(/[,;\s]+/)
    .filter(Boolean)
    .map(Number)
  return parts.length === 3 && parts.every(Number.isFinite)
    ? { value: parts }
    : 'Three numbers are needed: x, y, z in metres.'
}
