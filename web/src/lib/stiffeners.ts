import { typed, type Schemas } from '../api/client'
import { shown } from './quantity'

export type Plates = Schemas['StiffenerPlates']

/** As they are written: “80 × 8”, with the distance of the two pairs of a rigid end post behind a comma. */
export function platesText(plates: Plates | null | undefined): string {
  if (!plates) return ''
  return `${shown(plates.width)} × ${shown(plates.thickness)}${plates.post ? `, ${shown(plates.post)}` : ''}`
}

/** What was written in mm, or a sentence that says what is wrong; nothing at all states no plates. */
export function readPlates(text: string): Plates | null | string {
  if (!text.trim()) return null
  const found = /^\s*([\d.]+)\s*[x×*]\s*([\d.]+)\s*(?:mm)?\s*(?:[,;]\s*([\d.]+)\s*(?:mm)?\s*)?$/i.exec(text)
  const [width, thickness, post] = [found?.[1], found?.[2], found?.[3] ?? 0].map(Number) as [number, number, number]
  if (!found || !(width > 0) || !(thickness > 0) || !(post >= 0))
    return `“${text}” are no plates; write width × thickness in mm: 80 × 8, and behind a comma the distance in a rigid end post: 80 × 8, 200.`
  if (width > 1000 || thickness > 200 || post > 5000) return 'Up to 1000 × 200 mm, and 5000 mm apart in an end post.'
  return typed('StiffenerPlates', { width, thickness, post })
}
