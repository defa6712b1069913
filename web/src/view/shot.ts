/** A picture of the three-dimensional view with the figures that the page writes over it. */

import { saveBlob } from '../lib/table'

/** Save what a canvas shows; figures in pixels of the page; words below it, on the left. */
export function saveShot(
  source: HTMLCanvasElement,
  page: HTMLElement,
  figures: { x: number; y: number; text: string }[],
  words: string,
  name: string,
) {
  const canvas = document.createElement('canvas')
  canvas.width = source.width
  canvas.height = source.height
  const pen = canvas.getContext('2d')!
  pen.fillStyle = '#faf9f6'
  pen.fillRect(0, 0, canvas.width, canvas.height)
  pen.drawImage(source, 0, 0)
  const k = source.width / page.clientWidth
  pen.scale(k, k)
  pen.fillStyle = '#1f2a33'
  pen.font = '11.5px IBM Plex Mono, monospace'
  pen.textAlign = 'center'
  for (const f of figures) pen.fillText(f.text, f.x, f.y)
  pen.textAlign = 'left'
  pen.fillText(words, 14, page.clientHeight - 12)
  canvas.toBlob((blob) => {
    if (blob) saveBlob(name, blob)
  })
}
