import { FOOT } from '../../core/flight/units.ts'
import { line, max, min, scaleLinear, ticks } from 'd3'
import { armOfMidrange, toReader } from '../../core/review/reader.ts'
import type { ReaderData, ToReader } from '../../core/review/reader.ts'

/**
 * The reader’s panel: their arm, their hand, their wind, and what the discs are to them. Travels inside an exported review and runs
 * there with no server, no network and nothing kept.
 */

const MPH_PER_MPS = 2.2369362921
const [SLOWEST, FASTEST] = [15, 33]

type Attributes = Readonly<Record<string, string | number>>

/** An element with attributes and what is in it; text is only ever text. */
function made<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  attributes: Attributes = {},
  ...inside: readonly (Node | string)[]
): HTMLElementTagNameMap[K] {
  const element = document.createElement(tag)
  for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, String(value))
  element.append(...inside)
  return element
}
function drawn(tag: string, attributes: Attributes, ...inside: readonly (Node | string)[]): SVGElement {
  const element = document.createElementNS('http://www.w3.org/2000/svg', tag)
  for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, String(value))
  element.append(...inside)
  return element
}

/** What the reader has said of themselves. */
interface Chosen {
  armMps: number
  /** To which side their throws fade. */
  fade: 'left' | 'right'
  windMps: number
  asThrown: boolean
}

const [HEIGHT, PAD] = [300, 12]
/** Narrower than this a strip has its side drawn larger, to tell flights apart, within reason. */
const NARROW = 480
const MOST_STRETCHED = 3

type Trial = ReaderData['trials'][number]

function strip(
  trial: Trial,
  rows: readonly ToReader[],
  { fade, asThrown }: Chosen,
  shown: Units,
  width: number,
): SVGElement {
  const up = fade === 'left' ? 1 : -1
  const landed = asThrown ? trial.throws.filter((t) => t.counts) : []
  const far = 1.05 * max([60, ...rows.map((r) => r.carryM), ...landed.map((t) => t.carryM)])!
  const sides = [...rows.flatMap((r) => r.path.map((p) => up * p.y)), ...landed.map((t) => up * t.veerM)]
  const [low, high] = [min([-8, ...sides])! - 3, max([8, ...sides])! + 3]
  const room = Math.max(...trial.discs.map((d) => 8 * d.name.length)) + 2 * PAD + 14
  const deep = (HEIGHT - 2 * PAD - 18) / (high - low)
  const scale = Math.min((width - room) / far, deep)
  const across = width < NARROW ? Math.min(MOST_STRETCHED * scale, deep) : scale
  const x = scaleLinear([0, 1], [PAD, PAD + scale])
  const y = scaleLinear([high, high - 1], [PAD, PAD + across])
  const end = (width - 2 * PAD) / scale
  const bands = Array.from({ length: Math.ceil(end / 10) }, (_, i) =>
    drawn('rect', {
      x: x(10 * i),
      y: PAD,
      width: Math.min(10 * scale + 0.5, width - PAD - x(10 * i)),
      height: HEIGHT - 2 * PAD - 18,
      style: `fill: var(${i % 2 ? '--mown-2' : '--mown'})`,
    }),
  )
  const marks = ticks(0, shown.factor * end, Math.floor(width / 90))
    .map((mark) => [mark, x(mark / shown.factor)] as const)
    .filter(([, at]) => at < width - 30)
    .map(([mark, at], i, all) =>
      drawn(
        'text',
        {
          x: at,
          y: HEIGHT - 8,
          'text-anchor': i === 0 ? 'start' : 'middle',
          'font-size': 13,
          style: 'fill: var(--quiet)',
        },
        i === all.length - 1 ? `${mark} ${shown.unit}` : String(mark),
      ),
    )
  const path = line<{ readonly x: number; readonly y: number }>()
    .x((p) => x(p.x))
    .y((p) => y(up * p.y))
  // names keep off each other
  let last = Number.NEGATIVE_INFINITY
  const places = new Map(
    [...rows.keys()]
      .sort((a, b) => y(up * rows[a]!.finishM) - y(up * rows[b]!.finishM))
      .map((i) => [i, (last = Math.max(last + 16, y(up * rows[i]!.finishM) + 5))] as const),
  )
  const flights = rows.flatMap((r, i) => {
    const { name, place } = trial.discs[i]!
    const hue = `var(--hue-${place % 8})`
    const tip = { x: x(r.carryM), y: y(up * r.finishM) }
    return [
      drawn('path', {
        d: path(r.path as ToReader['path'] & { x: number; y: number }[]) ?? '',
        fill: 'none',
        'stroke-width': 2.5,
        style: `stroke: ${hue}`,
      }),
      drawn('circle', { cx: tip.x, cy: tip.y, r: 5, style: `fill: ${hue}` }),
      drawn(
        'text',
        { x: tip.x + 10, y: places.get(i)!, 'font-size': 14, 'font-weight': 650, style: `fill: ${hue}` },
        name,
      ),
    ]
  })
  const dots = landed.map((t) =>
    drawn('circle', {
      cx: x(t.carryM),
      cy: y(up * t.veerM),
      r: 4,
      'fill-opacity': 0.55,
      style: `fill: var(--hue-${trial.discs[t.disc]!.place % 8})`,
    }),
  )
  return drawn(
    'svg',
    {
      viewBox: `0 0 ${width} ${HEIGHT}`,
      role: 'img',
      'aria-label': 'Flights for your arm, seen from above; the table below says the same in figures',
      style: 'width: 100%; height: auto; display: block',
    },
    ...bands,
    drawn('line', {
      x1: PAD,
      x2: width - PAD,
      y1: y(0),
      y2: y(0),
      'stroke-width': 3,
      style: 'stroke: var(--chalk)',
    }),
    drawn(
      'text',
      { x: PAD + 8, y: PAD + 17, 'font-size': 13, style: 'fill: var(--quiet)' },
      fade === 'left' ? 'left, the fade side' : 'left, the turn side',
    ),
    ...dots,
    ...flights,
    ...marks,
  )
}

interface Units {
  /** What a metre is, and what it is called. */
  readonly factor: number
  readonly unit: string
  readonly length: (m: number, digits?: number) => string
  readonly speed: (mps: number) => string
}
const unitsOf = (kind: ReaderData['units']): Units => ({
  factor: kind === 'metric' ? 1 : 1 / FOOT,
  unit: kind === 'metric' ? 'm' : 'ft',
  length: (m, digits = 1) => (kind === 'metric' ? `${m.toFixed(digits)} m` : `${(m / FOOT).toFixed(0)} ft`),
  speed: (mps) => (kind === 'metric' ? `${mps.toFixed(1)} m/s` : `${(mps * MPH_PER_MPS).toFixed(0)} mph`),
})
const number = (v: number) => v.toFixed(1).replace('-', '−')

function table(trial: Trial, rows: readonly ToReader[], { fade }: Chosen, shown: Units): HTMLElement {
  const other = fade === 'left' ? 'right' : 'left'
  const aside = (m: number) =>
    Math.abs(m) < 0.05 ? 'on the line' : `${shown.length(Math.abs(m))} ${m > 0 ? fade : other}`
  const heads = ['Disc', 'seems turn / fade', 'by its throws', 'published', 'carry', 'widest turn', 'finish']
  return made(
    'div',
    { class: 'reader-table' },
    made(
      'table',
      {},
      made('thead', {}, made('tr', {}, ...heads.map((h) => made('th', { scope: 'col' }, h)))),
      made(
        'tbody',
        {},
        ...rows.map((r, i) => {
          const { name, observed, published } = trial.discs[i]!
          return made(
            'tr',
            { 'data-disc': name },
            made('th', { scope: 'row' }, name),
            made(
              'td',
              { 'data-seems': '' },
              `${r.exact ? '' : 'about '}${number(r.turn)} / ${number(r.fade)}`,
            ),
            made('td', {}, `${number(observed.turn)} / ${number(observed.fade)}`),
            made('td', {}, `${number(published.turn)} / ${number(published.fade)}`),
            made('td', { 'data-carry': '' }, shown.length(r.carryM)),
            made('td', {}, aside(r.turnedM)),
            made('td', { 'data-finish': '' }, aside(r.finishM)),
          )
        }),
      ),
    ),
  )
}

function panel(root: HTMLElement, data: ReaderData): void {
  const shown = unitsOf(data.units)
  const metric = data.units === 'metric'
  const chosen: Chosen = { armMps: data.trials[0]?.armMps ?? 24, fade: 'left', windMps: 0, asThrown: false }
  const out = made('div', { 'aria-live': 'polite' })
  const told = made('output', { class: 'reader-arm' })
  const wind = made('output', {})
  const draw = () => {
    const { windMps } = chosen
    const width = Math.max(300, Math.min(860, out.clientWidth || 760))
    told.textContent = shown.speed(chosen.armMps)
    wind.textContent =
      windMps === 0
        ? 'still air'
        : `${shown.speed(Math.abs(windMps))} ${windMps < 0 ? 'headwind' : 'tailwind'}`
    out.replaceChildren(
      ...data.trials.flatMap((trial) => {
        const rows = trial.discs.map((d) => toReader(d, chosen.armMps, windMps))
        return [
          ...(data.trials.length > 1 ? [made('h3', {}, trial.name)] : []),
          strip(trial, rows, chosen, shown, width),
          table(trial, rows, chosen, shown),
        ]
      }),
    )
  }
  const arm = made('input', {
    type: 'range',
    min: SLOWEST,
    max: FASTEST,
    step: 0.1,
    value: chosen.armMps,
    'aria-label': 'Your arm: speed with a disc of speed 9',
  })
  const far = made('input', {
    type: 'number',
    min: 1,
    inputmode: 'numeric',
    'aria-label': `How far you throw a mid-range disc on a good day, ${metric ? 'm' : 'ft'}`,
  })
  const wrong = made('p', { role: 'alert', class: 'reader-wrong' })
  arm.addEventListener('input', () => {
    chosen.armMps = Number(arm.value)
    far.value = ''
    wrong.textContent = ''
    draw()
  })
  far.addEventListener('input', () => {
    if (far.value === '') return
    const found = armOfMidrange(Number(far.value) * (metric ? 1 : FOOT))
    const fits = found !== undefined && found >= SLOWEST && found <= FASTEST
    wrong.textContent = fits ? '' : 'No arm this page knows throws a mid-range disc so far.'
    if (!fits) return
    chosen.armMps = found
    arm.value = String(found)
    draw()
  })
  const hand = made(
    'select',
    { 'aria-label': 'Your throw' },
    made('option', { value: 'left' }, 'right-hand backhand, left-hand forehand'),
    made('option', { value: 'right' }, 'left-hand backhand, right-hand forehand'),
  )
  hand.addEventListener('change', () => {
    chosen.fade = hand.value === 'right' ? 'right' : 'left'
    draw()
  })
  const blow = made('input', {
    type: 'range',
    min: -8,
    max: 8,
    step: 1,
    value: 0,
    'aria-label': 'Your wind: headwind to the left, tailwind to the right',
  })
  blow.addEventListener('input', () => {
    chosen.windMps = Number(blow.value)
    draw()
  })
  const thrown = made('input', { type: 'checkbox' })
  thrown.addEventListener('change', () => {
    chosen.asThrown = thrown.checked
    draw()
  })
  root.replaceChildren(
    made('h2', {}, 'For your arm'),
    made(
      'div',
      { class: 'reader-controls' },
      made('label', {}, 'Your arm ', arm, ' ', told),
      made('label', {}, 'or a mid-range disc goes ', far, metric ? ' m' : ' ft'),
      made('label', {}, 'You throw ', hand),
      made('label', {}, 'Your wind ', blow, ' ', wind),
      made('label', {}, thrown, ' Landings as thrown'),
    ),
    wrong,
    out,
    made(
      'p',
      { class: 'reader-note' },
      'Flat and clean at your full power. The numbers a disc seems to have are those of the disc that would fly so at the speed it was made for. Landings as thrown are those of the throwers of this review, nothing taken out.',
    ),
  )
  root.hidden = false
  draw()
  let drawnAt = out.clientWidth
  new ResizeObserver(() => {
    if (Math.abs(out.clientWidth - drawnAt) < 8) return
    drawnAt = out.clientWidth
    draw()
  }).observe(out)
}

const root = document.getElementById('reader')
const data = document.getElementById('reader-data')?.textContent
if (root && data) panel(root, JSON.parse(data) as ReaderData)
