import { describe, expect, it } from 'vitest'
import type { Schemas } from '../src/api/client'
import { read, refined } from '../src/lib/diagram'

/** A simple beam of 8 m under 6 kN/m, known at its ends and at 3 m only. */
const q = 6
const L = 8
const V = (x: number) => q * (L / 2 - x)
const M = (x: number) => (q * x * (L - x)) / 2
const stations = [0, 3, 8]
const run = {
  x: stations,
  stretch: [],
  N: [5, 5, 5],
  Vz: stations.map(V),
  My: stations.map(M),
  Vy: [0, 0, 0],
  Mz: [0, 0, 0],
} as unknown as Schemas['RunOut']

describe('diagrams between stations', () => {
  it('reads the exact value anywhere', () => {
    for (const x of [0, 0.7, 2.9, 3, 4, 5.5, 8]) {
      expect(read(run, 'My', x)).toBeCloseTo(M(x), 9)
      expect(read(run, 'Vz', x)).toBeCloseTo(V(x), 9)
      expect(read(run, 'N', x)).toBeCloseTo(5, 9)
    }
  })
  it('finds the peak by formula', () => {
    const found = refined(run, 'My')
    const k = found.values.indexOf(Math.max(...found.values))
    expect(found.x[k]).toBeCloseTo(4, 9)
    expect(found.values[k]).toBeCloseTo((q * L * L) / 8, 9)
  })
  it('finds where a shear turns under a load that changes sign', () => {
    // q from −p to p: V = p L (1/6 − ξ + ξ²), M = p L² (ξ/6 − ξ²/2 + ξ³/3)
    const p = 6
    const xi = [0, 0.3, 1]
    const varying = {
      ...run,
      x: xi.map((v) => v * L),
      Vz: xi.map((v) => p * L * (1 / 6 - v + v * v)),
      My: xi.map((v) => p * L * L * (v / 6 - (v * v) / 2 + v ** 3 / 3)),
    }
    const found = refined(varying, 'Vz')
    const k = found.values.indexOf(Math.min(...found.values))
    expect(found.x[k]).toBeCloseTo(L / 2, 9)
    expect(found.values[k]).toBeCloseTo((-p * L) / 12, 9)
  })
  it('jumps across a concentrated couple without a shear of its own', () => {
    // a couple of 40 kNm at 3 m of 8 m: V = −5 throughout, M from −15 to +25
    const [before, behind] = [3 - 8e-6, 3 + 8e-6]
    const bracket = {
      ...run,
      x: [0, before, behind, 8],
      N: [0, 0, -600, -600],
      Vz: [-5, -5, -5, -5],
      My: [0, -5 * before, 40 - 5 * behind, 0],
    } as unknown as Schemas['RunOut']
    expect(Math.max(...refined(bracket, 'Vz').values.map(Math.abs))).toBeCloseTo(5, 9)
    expect(Math.max(...refined(bracket, 'My').values)).toBeCloseTo(25, 4)
    expect(Math.min(...refined(bracket, 'My').values)).toBeCloseTo(-15, 4)
    expect(read(bracket, 'Vz', 3)).toBeCloseTo(-5, 9)
    expect(read(bracket, 'My', 2)).toBeCloseTo(-10, 4)
    expect(read(bracket, 'My', 5.5)).toBeCloseTo(12.5, 4)
  })
  it('counts with the true length of haunched pieces', () => {
    const grown = 1.02
    const haunched = { ...run, stretch: [grown, grown, grown], Vz: stations.map((x) => V(x) / grown) }
    expect(read(haunched, 'My', 5.5)).toBeCloseTo(M(5.5), 9)
    expect(refined(haunched, 'Vz').x).toEqual(stations)
  })
  it('follows an axial force under a load that varies', () => {
    // N = p L (1/2 + ξ − 3ξ²/2), ∫N = p L² (ξ/2 + ξ²/2 − ξ³/2)
    const xi = [0, 0.6, 1]
    const p = 6
    const pulledRun = {
      ...run,
      x: xi.map((v) => v * L),
      N: xi.map((v) => p * L * (0.5 + v - 1.5 * v * v)),
      pulled: xi.map((v) => p * L * L * (v / 2 + (v * v) / 2 - v ** 3 / 2)),
    }
    const found = refined(pulledRun, 'N')
    const k = found.values.indexOf(Math.max(...found.values))
    expect(found.x[k]).toBeCloseTo(L / 3, 9)
    expect(found.values[k]).toBeCloseTo((p * L * 2) / 3, 9)
  })
  it('keeps envelopes straight', () => {
    expect(refined(run, 'My', true).x).toEqual(stations)
    expect(read(run, 'My', 1.5, true)).toBeCloseTo(M(3) / 2, 9)
  })
})
