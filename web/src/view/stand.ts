import { shallowRef } from 'vue'

/** From where the views of the whole building are looked at, and whether the second of two side by side was moved last. */
export const stand = shallowRef<{
  from: boolean
  eye: [number, number, number]
  target: [number, number, number]
} | null>(null)

/** The bearing of that place (degrees from X towards Y) and its tilt above the ground. */
export function seenFrom(): { bearing: number; tilt: number } {
  if (!stand.value) return { bearing: 228, tilt: 25 }
  const [x, y, z] = stand.value.eye.map((v, i) => v - stand.value!.target[i]!) as [number, number, number]
  const degrees = (angle: number) => Math.round((angle * 180) / Math.PI)
  return { bearing: degrees(Math.atan2(y, x)), tilt: degrees(Math.atan2(z, Math.hypot(x, y))) }
}
