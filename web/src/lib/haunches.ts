import { typed, type Schemas } from '../api/client'

export type Haunch = Schemas['Haunch']

/** A haunch as written: “2.4 × 0.30” (length × depth, m), with the section it is cut from behind when that is another. */
export function readHaunch(text: string): Haunch | string {
  const found = /^\s*([\d.]+)\s*[x×*]\s*([\d.]+)(?:\s+(\S.*?))?\s*$/i.exec(text)
  const [length, depth] = [Number(found?.[1]), Number(found?.[2])]
  if (!found || !(length > 0) || !(depth > 0))
    return `“${text}” is no haunch; write length × depth in metres: 2.4 × 0.30.`
  // sizes of plates are the engine's usual ones
  return typed('Haunch', { length, depth, made_of: 'cut', section: found[3] ?? null })
}
