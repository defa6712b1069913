export type Freedom = 'x' | 'y' | 'z' | 'rx' | 'ry' | 'rz'
export interface End {
  free: Freedom[]
  springs: Partial<Record<Freedom, number>>
}

/** What holds a node, as written: “x y z” held, “ry=5000” a spring in kNm/rad, “z+” pushes back only. */
export interface Hold {
  fixed: Freedom[]
  springs: Partial<Record<Freedom, number>>
  one_way: Freedom[]
}
export function readHold(text: string): Hold | string {
  const pushes = [...text.toLowerCase().matchAll(/(?:^|[\s,;])(r?[xyz])\+/g)].map((m) => m[1] as Freedom)
  const found = readEnd(text.replace(/\+/g, ''))
  return typeof found === 'string'
    ? found.replace(
        'write ry rz for a hinge, ry=5000',
        'write x y z for what is held, z+ for what may lift off, ry=5000',
      )
    : { fixed: found.free, springs: found.springs, one_way: pushes }
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
