type Freedom = 'x' | 'y' | 'z' | 'rx' | 'ry' | 'rz'
export interface End {
  free: Freedom[]
  springs: Partial<Record<Freedom, number>>
}

/** What an end lets go, as written: “ry rz” for hinges, “ry=5000” for a spring in kNm/rad (kN/m for x, y, z). */
export function readEnd(text: string): End | string {
  const found: End = { free: [], springs: {} }
  for (const word of text
    .toLowerCase()
    .split(/[\s,;]+/)
    .filter(Boolean)) {
    const match = /^(r?[xyz])(?:=([\d.]+))?$/.exec(word)
    if (!match) return `“${word}” is not understood; write ry rz for a hinge, ry=5000 for a spring of 5000 kNm/rad.`
    const freedom = match[1] as Freedom
    if (match[2] === undefined) found.free.push(freedom)
    else if (Number(match[2]) > 0) found.springs[freedom] = Number(match[2])
    else return `The stiffness of ${freedom} must be greater than 0.`
  }
  return found
}
