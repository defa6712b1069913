const STYLES = [
  'fill', 'fill-opacity', 'stroke', 'stroke-width', 'stroke-dasharray', 'stroke-opacity', 'stroke-linejoin', 'opacity',
  'font-family', 'font-size', 'font-weight', 'text-anchor', 'display', 'paint-order',
] // prettier-ignore

/** A drawing of the page as a file of its own: with the styles that the page gives it, and a title. */
export function pictureOf(drawing: SVGSVGElement, title: string): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement
  const [shown, copied] = [drawing.querySelectorAll('*'), copy.querySelectorAll<SVGElement>('*')]
  shown.forEach((node, i) => {
    const styles = getComputedStyle(node)
    for (const name of STYLES) copied[i]!.style.setProperty(name, styles.getPropertyValue(name))
  })
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  const words = document.createElementNS('http://www.w3.org/2000/svg', 'title')
  words.textContent = title
  copy.prepend(words)
  return copy.outerHTML
}
