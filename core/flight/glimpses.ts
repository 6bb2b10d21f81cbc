import { CARRY, HANG, hermite, LOGGED, root, VEER } from './landing.ts'

/**
 * What a logged flight shows besides its landing: banks, and where it passed given distances. All of it is a smooth
 * function of the flight as long as its step sizes are kept, so that the fit can differentiate it.
 */

/** Places in the result of {@link glimpse}. */
export const LEAST_BANK = 0
export const END_BANK = 1
/** Banks come first in the result of {@link glimpse}; then a block of one value per mark for each channel. */
export const BANKS = 2
/** What is seen where a flight passes a mark, in this order: m to the fade side, m above ground, s since release. */
export const CHANNELS = ['side', 'height', 'time'] as const
export const glimpsesOf = (marks: number): number => BANKS + CHANNELS.length * marks

const [T, X, Y, Z] = [0, 1, 2, 3]
/** From a position in the log to its velocity. */
const SPEED = 3
const BANK = 7

const angle = (n: number) => Math.asin(n > 1 ? 1 : n < -1 ? -1 : n)

/**
 * Reads a log.
 *
 * @param log of a flight of `steps` steps; `landed` what the flight showed of its landing
 * @param marks distances downrange, m, increasing; a flight that ends before one is carried on along its last heading
 * @param into gets least and last bank (rad, toward the fade side), then sides, heights and times at the marks
 */
export function glimpse(
  log: Float64Array,
  steps: number,
  landed: Float64Array,
  marks: Float64Array,
  into: Float64Array,
): void {
  const at = (i: number, k: number) => log[i * LOGGED + k]!
  const last = steps - 1
  const share = (landed[HANG]! - at(last, T)) / (at(last + 1, T) - at(last, T))
  const end = at(last, BANK) + share * (at(last + 1, BANK) - at(last, BANK))
  let least = 0
  for (let i = 1; i <= last; i++) if (at(i, BANK) < at(least, BANK)) least = i
  into[LEAST_BANK] = angle(Math.min(end, least === 0 ? at(0, BANK) : bottom(log, least)))
  into[END_BANK] = angle(end)

  let i = 0
  marks.forEach((mark, m) => {
    while (i <= last && at(i + 1, X) < mark) i++
    const put = (channel: number, value: number) => (into[BANKS + channel * marks.length + m] = value)
    const beyond = mark - landed[CARRY]!
    if (i > last || (i === last && beyond > 0)) {
      const heading = Math.max(1, at(last, X + SPEED))
      put(0, landed[VEER]! + (beyond * at(last, Y + SPEED)) / heading)
      put(1, (beyond * at(last, Z + SPEED)) / heading)
      put(2, landed[HANG]! + beyond / heading)
      return
    }
    const h = at(i + 1, T) - at(i, T)
    const slope = (j: number, k: number) => h * at(j, k + SPEED)
    const s = root(at(i, X) - mark, at(i + 1, X) - mark, slope(i, X), slope(i + 1, X))
    const rise = (k: number) =>
      at(i, k) + hermite(0, at(i + 1, k) - at(i, k), slope(i, k), slope(i + 1, k), s)
    put(0, rise(Y))
    put(1, rise(Z))
    put(2, at(i, T) + s * h)
  })
}

/** Lowest point of the parabola through an instant of least bank and its neighbours. */
function bottom(log: Float64Array, i: number): number {
  const at = (j: number, k: number) => log[j * LOGGED + k]!
  const [y0, y1, y2] = [at(i - 1, BANK), at(i, BANK), at(i + 1, BANK)]
  const [a, b] = [at(i, T) - at(i - 1, T), at(i + 1, T) - at(i, T)]
  const [rise, fall] = [(y1 - y0) / a, (y2 - y1) / b]
  const bend = (fall - rise) / (a + b)
  // still falling as it lands, or no bend at all
  if (!(bend > 0) || y2 < y1) return y1
  const slope = (rise * b + fall * a) / (a + b)
  return y1 - slope ** 2 / (4 * bend)
}
