import * as pdf from 'pdfjs-dist'
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url'

pdf.GlobalWorkerOptions.workerSrc = worker

/** A link on a page: its place in points of the page from the top left, and the page it leads to. */
export interface PageLink {
  left: number
  top: number
  width: number
  height: number
  page: number
}

export type Document = pdf.PDFDocumentProxy

/** The pages of a dossier that the server holds. */
export async function load(address: string): Promise<Document> {
  return await pdf.getDocument({ url: address, isEvalSupported: false, disableAutoFetch: true }).promise
}

/** Draw a page into a canvas, `width` CSS pixels wide, with its words above it to be chosen; its links. */
export async function draw(
  of: Document,
  number: number,
  canvas: HTMLCanvasElement,
  words: HTMLElement,
  width: number,
): Promise<PageLink[]> {
  const page = await of.getPage(number)
  const plain = page.getViewport({ scale: 1 })
  const scale = width / plain.width
  const sharp = window.devicePixelRatio || 1
  const viewport = page.getViewport({ scale: scale * sharp })
  canvas.width = Math.round(viewport.width)
  canvas.height = Math.round(viewport.height)
  await page.render({ canvas, viewport }).promise
  words.replaceChildren()
  words.style.setProperty('--scale-factor', `${scale}`)
  words.style.setProperty('--total-scale-factor', `${scale}`)
  const layer = new pdf.TextLayer({
    textContentSource: await page.getTextContent(),
    container: words,
    viewport: page.getViewport({ scale }),
  })
  await layer.render()
  const found: PageLink[] = []
  for (const one of await page.getAnnotations()) {
    if (one.subtype !== 'Link' || !one.dest) continue
    const target = typeof one.dest === 'string' ? await of.getDestination(one.dest) : (one.dest as unknown[])
    if (!target?.[0]) continue
    const [x0, y0, x1, y1] = one.rect as [number, number, number, number]
    const leads = (await of.getPageIndex(target[0] as Parameters<Document['getPageIndex']>[0])) + 1
    found.push({
      left: x0 * scale,
      top: (plain.height - y1) * scale,
      width: (x1 - x0) * scale,
      height: (y1 - y0) * scale,
      page: leads,
    })
  }
  return found
}
