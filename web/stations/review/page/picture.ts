import { percent } from '../../../data/units.ts'
import type { Source } from '../sources.tsx'
import { standaloneSvg } from '../../../data/drawings.ts'
import { fontFaces } from './styles.ts'

/** Pictures to be shown where a review is spoken of: their sizes, px. */
const SIZES = { square: [1080, 1080], wide: [1200, 630] } as const

/** Room about everything, px. */
const EDGE = 56

/** Breaks a sentence into lines that fit. */
function linesOf(on: CanvasRenderingContext2D, words: string, width: number): string[] {
  const lines: string[] = []
  let line = ''
  for (const word of words.split(' ')) {
    const longer = line === '' ? word : `${line} ${word}`
    if (line !== '' && on.measureText(longer).width > width) {
      lines.push(line)
      line = word
    } else line = longer
  }
  return [...lines, line]
}

const loaded = (address: string): Promise<HTMLImageElement> =>
  new Promise((done, fail) => {
    const picture = new Image()
    picture.onload = () => done(picture)
    picture.onerror = () => fail(new Error('The picture could not be drawn.'))
    picture.src = address
  })

/**
 * A picture of a review: what was found in one sentence with how sure it is, the flights, and how it was thrown.
 *
 * @param strips its flights, drawn narrow and drawn broad
 * @throws Error with a sentence where there are no flights to show
 */
export async function pictureOf(
  kind: keyof typeof SIZES,
  title: string,
  source: Source | undefined,
  strips: readonly SVGSVGElement[],
): Promise<Blob> {
  const [width, height] = SIZES[kind]
  const strip = strips[kind === 'square' ? 0 : 1]
  if (!source || !strip) throw new Error('There are no flights to show yet.')
  const canvas = document.createElement('canvas')
  canvas.width = width
  canvas.height = height
  const on = canvas.getContext('2d')!
  const style = getComputedStyle(document.documentElement)
  const colour = (name: string) => style.getPropertyValue(name).trim()
  const font = (weight: number, px: number, family = '--font-sans') =>
    `${weight} ${px}px ${style.getPropertyValue(family) || 'sans-serif'}`
  on.fillStyle = colour('--card')
  on.fillRect(0, 0, width, height)
  on.textBaseline = 'top'
  let at = EDGE
  const write = (words: string, weight: number, px: number, ink: string, most: number) => {
    on.font = font(weight, px)
    on.fillStyle = colour(ink)
    const lines = linesOf(on, words, width - 2 * EDGE)
    lines.slice(0, most).forEach((line, i) => {
      on.fillText(i === most - 1 && lines.length > most ? `${line} …` : line, EDGE, at)
      at += Math.round(1.28 * px)
    })
  }
  const { answer, conditions, counted } = source.facts
  const wide = kind === 'wide'
  write(title, 600, wide ? 26 : 32, '--quiet', 1)
  at += 10
  const sure =
    answer?.probability === undefined || / %$/.test(answer.sentence)
      ? ''
      : ` (${percent(answer.probability)})`
  write(answer ? `${answer.sentence}${sure}` : title, 700, wide ? 34 : 46, '--ink', wide ? 3 : 5)
  const foot = wide ? 22 : 26
  const feet = wide ? 1 : 2
  const room = height - at - EDGE - Math.round(1.28 * foot) * feet - 40
  const [w, h] = [strip.getBoundingClientRect().width, strip.getBoundingClientRect().height]
  const scale = Math.min((width - 2 * EDGE) / w, room / h)
  const address = URL.createObjectURL(
    new Blob([standaloneSvg(strip, await fontFaces())], { type: 'image/svg+xml' }),
  )
  try {
    const picture = await loaded(address)
    on.drawImage(picture, (width - w * scale) / 2, at + (room - h * scale) / 2 + 16, w * scale, h * scale)
  } finally {
    URL.revokeObjectURL(address)
  }
  at = height - EDGE - Math.round(1.28 * foot) * feet
  write([...conditions, `${counted} throws`].join(' · '), 400, foot, '--quiet', feet)
  return await new Promise((done, fail) =>
    canvas.toBlob((b) => (b ? done(b) : fail(new Error('The picture could not be drawn.'))), 'image/png'),
  )
}
