const STYLES = [
  'fill', 'fill-opacity', 'stroke', 'stroke-width', 'stroke-dasharray', 'stroke-opacity', 'stroke-linejoin', 'opacity',
  'font-family', 'font-size', 'font-weight', 'text-anchor', 'display', 'paint-order',
] // prettier-ignore

/** A drawing of the page as a file of its own: with the styles that the page gives it, and below it in words what it shows. */
export function pictureOf(drawing: SVGSVGElement, title: string): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement
  const [shown, copied] = [drawing.querySelectorAll('*'), copy.querySelectorAll<SVGElement>('*')]
  shown.forEach((node, i) => {
    const styles = getComputedStyle(node)
    for (const name of STYLES) copied[i]!.style.setProperty(name, styles.getPropertyValue(name))
  })
  const box = drawing.viewBox.baseVal
  const width = box?.width || drawing.clientWidth
  const height = box?.height || drawing.clientHeight
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('viewBox', `0 0 ${width} ${height + 18}`)
  copy.setAttribute('width', String(width))
  copy.setAttribute('height', String(height + 18))
  const words = document.createElementNS('http://www.w3.org/2000/svg', 'text')
  words.setAttribute('x', '4')
  words.setAttribute('y', String(height + 12))
  words.setAttribute('font-size', '10')
  words.setAttribute('font-family', 'sans-serif')
  words.setAttribute('fill', '#1f2a33')
  words.textContent = title
  copy.append(words)
  return copy.outerHTML
}
