/** Numbers as engineers write them: units, arithmetic, decimal comma or point. */

export type Kind = 'length' | 'angle' | 'count' | 'pressure' | 'speed' | 'factor' | 'altitude' | 'stiffness'

const UNITS: Record<Kind, { shown: string; factors: Record<string, number> }> = {
  length: { shown: 'm', factors: { m: 1, mm: 1e-3, cm: 1e-2, ft: 0.3048, in: 0.0254 } },
  altitude: { shown: 'm', factors: { m: 1, km: 1000, ft: 0.3048 } },
  angle: { shown: '°', factors: { '°': 1, deg: 1, rad: 180 / Math.PI, '%': NaN } },
  count: { shown: '', factors: {} },
  factor: { shown: '', factors: {} },
  pressure: {
    shown: 'kN/m²',
    factors: { 'kN/m²': 1, 'kN/m2': 1, kPa: 1, Pa: 1e-3, 'N/m²': 1e-3, 'N/m2': 1e-3, psf: 0.0478803 },
  },
  stiffness: { shown: 'kN/m', factors: { 'kN/m': 1, 'MN/m': 1000, 'N/mm': 1, 'N/m': 1e-3 } },
  speed: { shown: 'm/s', factors: { 'm/s': 1, 'km/h': 1 / 3.6, mph: 0.44704 } },
}

export function unitOf(kind: Kind): string {
  return UNITS[kind].shown
}

/** The value in the kind's own unit, or a sentence that says what is wrong. Slope in % is turned into degrees. */
export function parseQuantity(text: string, kind: Kind): number | string {
  const factors = UNITS[kind].factors
  const names = Object.keys(factors).sort((a, b) => b.length - a.length)
  let position = 0
  const source = text
    .trim()
    .replace(/,(?=\d)/g, '.')
    .replace(/×/g, '*')
    .replace(/−/g, '-')
  if (!source) return 'A number is needed here.'

  const space = () => {
    while (source[position] === ' ') position++
  }
  const fail = (reason: string): never => {
    throw new Error(reason)
  }
  function unit(value: number): number {
    space()
    const rest = source.slice(position)
    const found = names.find((name) => rest.startsWith(name) && !/^[A-Za-z²]/.test(rest.slice(name.length)))
    if (!found) return value
    position += found.length
    if (found === '%') return (Math.atan(value / 100) * 180) / Math.PI
    return value * factors[found]!
  }
  function atom(): number {
    space()
    if (source[position] === '-') {
      position++
      return -atom()
    }
    if (source[position] === '(') {
      position++
      const inside = sum()
      space()
      if (source[position] !== ')') fail('A bracket is not closed.')
      position++
      return unit(inside)
    }
    const match = /^\d*\.?\d+(?:e[+-]?\d+)?/i.exec(source.slice(position)) ?? /^\d+\.?/.exec(source.slice(position))
    if (!match) return fail(`“${source.slice(position) || source}” is not a number${unitHint(kind)}.`)
    position += match[0].length
    return unit(Number(match[0]))
  }
  function product(): number {
    let value = atom()
    for (;;) {
      space()
      const sign = source[position]
      if (sign !== '*' && sign !== '/') return value
      position++
      const next = atom()
      if (sign === '/' && next === 0) fail('Division by zero.')
      value = sign === '*' ? value * next : value / next
    }
  }
  function sum(): number {
    let value = product()
    for (;;) {
      space()
      const sign = source[position]
      if (sign !== '+' && sign !== '-') return value
      position++
      value = sign === '+' ? value + product() : value - product()
    }
  }
  try {
    const value = sum()
    space()
    if (position < source.length) fail(`“${source.slice(position)}” is not understood${unitHint(kind)}.`)
    if (!Number.isFinite(value)) fail('That is not a finite number.')
    if (kind === 'count' && !Number.isInteger(value)) fail('A whole number is needed here.')
    return value
  } catch (error) {
    return (error as Error).message
  }
}

function unitHint(kind: Kind): string {
  const names = Object.keys(UNITS[kind].factors)
  return names.length ? `; units: ${names.join(', ')}` : ''
}

/** A number for a field: short, without trailing zeros. */
export function shown(value: number): string {
  return String(Number(value.toPrecision(7)))
}

/** A number with a fixed count of decimals and a true minus sign. */
/** A text with true minus signs. */
export const minus = (text: string): string => text.replaceAll('-', '−')

export function fixed(value: number, digits = 2): string {
  const text = value.toFixed(digits)
  return /^-0(\.0*)?$/.test(text) ? text.slice(1) : text.replace('-', '−')
}
