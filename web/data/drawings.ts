import { plainXml } from '../../core/formats/plainXml.ts'

/** What of how a shape looks comes from the app’s style, and has to go with it. */
const LOOKS = [
  'fill',
  'stroke',
  'fill-opacity',
  'stroke-opacity',
  'stroke-width',
  'stroke-dasharray',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
] as const

/**
 * A drawing of the page as a picture file of its own: sized by its view box, nothing of how it looks left to the app’s style.
 *
 * @param fonts faces with their files inside, where it is shown by a program that has none of the app’s
 */
export function standaloneSvg(drawing: SVGSVGElement, fonts = ''): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement
  const [own, copied] = [drawing, copy].map((e) => [e, ...e.querySelectorAll<SVGElement>('*')])
  own!.forEach((element, i) => {
    const style = getComputedStyle(element)
    const to = copied![i]!
    to.removeAttribute('class')
    to.removeAttribute('style')
    for (const look of LOOKS) {
      const value = style.getPropertyValue(look)
      if (value !== '' && value !== 'normal' && value !== 'none') to.setAttribute(look, value)
      else if (value === 'none' && (look === 'fill' || look === 'stroke')) to.setAttribute(look, value)
    }
  })
  const { width, height } = drawing.getBoundingClientRect()
  sized(copy, width, height)
  if (fonts !== '') {
    const style = document.createElementNS('http://www.w3.org/2000/svg', 'style')
    style.textContent = fonts
    copy.prepend(style)
  }
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  return plainXml(new XMLSerializer().serializeToString(copy))
}

/** Gives a drawing a view box where it has only a size, so that it can be shown smaller. */
export function sized(drawing: SVGSVGElement, width: number, height: number): void {
  if (!drawing.hasAttribute('viewBox')) {
    const [w, h] = ['width', 'height'].map((name) => Number(drawing.getAttribute(name)))
    drawing.setAttribute('viewBox', `0 0 ${w || width} ${h || height}`)
  }
  drawing.setAttribute('width', String(Math.round(width)))
  drawing.setAttribute('height', String(Math.round(height)))
}

/** Every drawing that says something, in the order they stand; dots and icons do not. */
export const drawingsIn = (of: ParentNode): SVGSVGElement[] => [
  ...of.querySelectorAll<SVGSVGElement>('svg[role="img"]'),
]

/** Room between drawings that stand below each other, px. */
const BETWEEN = 16

/** Several drawings as one, below each other. */
export function stackedSvg(drawings: readonly SVGSVGElement[]): string {
  const sizes = drawings.map((d) => d.getBoundingClientRect())
  const width = Math.max(...sizes.map((s) => s.width))
  let y = 0
  const inside = drawings.map((d, i) => {
    const at = y
    y += sizes[i]!.height + BETWEEN
    return standaloneSvg(d).replace('<svg ', `<svg y="${Math.round(at)}" `)
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${Math.round(width)}" height="${Math.round(y - BETWEEN)}" viewBox="0 0 ${Math.round(width)} ${Math.round(y - BETWEEN)}">${inside.join('')}</svg>`
}
