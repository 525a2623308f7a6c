const STYLED = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'opacity',
  'font-size',
  'font-style',
  'font-weight',
]
const SVG = 'http://www.w3.org/2000/svg'
const PAD = 16

/** All strips and lanes as one drawing that needs no style sheet: each part under the other, with its name. */
export function drawingOf(box: HTMLElement, title: string): SVGSVGElement {
  const drawing = document.createElementNS(SVG, 'svg')
  const outer = box.getBoundingClientRect()
  const [width, height] = [Math.ceil(outer.width) + 2 * PAD, Math.ceil(outer.height) + 2 * PAD + 34]
  for (const [name, value] of Object.entries({
    xmlns: SVG,
    width,
    height,
    viewBox: `0 0 ${width} ${height}`,
  }))
    drawing.setAttribute(name, String(value))
  const page = getComputedStyle(document.body)
  drawing.append(
    shape('rect', { width: `${width}`, height: `${height}`, fill: page.getPropertyValue('--paper') }),
  )
  drawing.append(text(title, PAD, 26, { 'font-size': '18px', 'font-weight': '700', fill: page.color }))
  const above = 34 + PAD
  box.querySelectorAll('svg').forEach((part) => {
    const place = part.getBoundingClientRect()
    const copy = part.cloneNode(true) as SVGSVGElement
    styleAs(part, copy)
    copy.setAttribute('x', String(place.left - outer.left + PAD))
    copy.setAttribute('y', String(place.top - outer.top + above))
    copy.setAttribute('overflow', 'visible')
    drawing.append(copy)
  })
  box.querySelectorAll('figcaption > *, .key > span').forEach((part) => {
    const [place, style] = [part.getBoundingClientRect(), getComputedStyle(part)]
    if (!part.textContent?.trim() || !place.width) return
    const y = place.top - outer.top + above + place.height * 0.78
    drawing.append(
      text(part.textContent.replace(/\s+/g, ' ').trim(), place.left - outer.left + PAD, y, {
        fill: style.color,
        'font-size': style.fontSize,
        'font-style': style.fontStyle,
        'font-weight': style.fontWeight,
      }),
    )
  })
  drawing.setAttribute('font-family', page.fontFamily)
  return drawing
}

function styleAs(from: Element, to: Element) {
  const style = getComputedStyle(from)
  for (const name of STYLED) to.setAttribute(name, style.getPropertyValue(name))
  to.removeAttribute('class')
  Array.from(from.children).forEach((child, index) => styleAs(child, to.children[index]!))
}
function shape(name: string, attributes: Record<string, string>): SVGElement {
  const made = document.createElementNS(SVG, name)
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value)
  return made
}
function text(words: string, x: number, y: number, attributes: Record<string, string>): SVGElement {
  const made = shape('text', { x: String(x), y: String(y), ...attributes })
  made.textContent = words
  return made
}

/** The drawing as a file: SVG as it is, or painted as PNG at twice its size. */
export async function saveDrawing(drawing: SVGSVGElement, name: string, kind: 'svg' | 'png') {
  const source = new XMLSerializer().serializeToString(drawing)
  const blob = kind === 'svg' ? new Blob([source], { type: 'image/svg+xml' }) : await painted(drawing, source)
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = `${name}.${kind}`
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 1000)
}

async function painted(drawing: SVGSVGElement, source: string): Promise<Blob> {
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(source)}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = Number(drawing.getAttribute('width')) * 2
  canvas.height = Number(drawing.getAttribute('height')) * 2
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
  return new Promise((made, failed) =>
    canvas.toBlob((blob) => (blob ? made(blob) : failed(new Error('no picture was made'))), 'image/png'),
  )
}
