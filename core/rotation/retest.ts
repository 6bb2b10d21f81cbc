import { normalCdf } from '../rating/normal.ts'
import type { Estimate } from '../rating/outcome.ts'
import { bagFlight } from './bag.ts'
import { WEAR_TURNS } from '../shelf/usualWear.ts'
import type { CarriedDisc } from './doing.ts'

/** A test is worth its throws when it tells right four times in five. */
export const TELLS = 0.8
/** More throws than this nobody makes for one disc, and fewer than this tell nothing of a disc. */
const MOST = 60
const LEAST = 3
const NUDGE = 0.05
/** Throws of a disc that is only looked at again. */
export const LOOK = 6

/**
 * What one throw tells of a disc's stability, as a precision: how its landing moves with stability against how the thrower's own
 * scatter moves it. Half of it, because as many throws of a known disc have to tell the thrower's day from the disc.
 *
 * @param armMps V₉ of the arm, m/s
 */
export function precisionOfThrow({ numbers }: Pick<CarriedDisc, 'numbers'>, armMps: number): number {
  const here = bagFlight('', numbers, armMps)
  const worn = {
    ...numbers,
    turn: numbers.turn + WEAR_TURNS * NUDGE,
    fade: numbers.fade + (1 - WEAR_TURNS) * NUDGE,
  }
  const there = bagFlight('', worn, armMps)
  const [along, across] = [(there.carryM - here.carryM) / NUDGE, (there.veerM - here.veerM) / NUDGE]
  const [xx, xy, yy] = here.covariance
  return (along * along * yy - 2 * along * across * xy + across * across * xx) / (xx * yy - xy * xy) / 2
}

/** How often one is right who says after so many throws whether a stability lies in a range. */
export function rightAfter(
  throws: number,
  stability: Estimate,
  { low, high }: { readonly low: number; readonly high: number },
  precision: number,
): number {
  const sd = Math.sqrt(1 / (1 / stability.sd ** 2 + throws * precision))
  // where one's belief may have moved to by then
  const moved = Math.sqrt(Math.max(0, stability.sd ** 2 - sd ** 2))
  let [sum, weights] = [0, 0]
  for (const z of PLACES) {
    const at = stability.value + moved * z
    const inside = normalCdf((high - at) / sd) - normalCdf((low - at) / sd)
    const weight = Math.exp(-0.5 * z * z)
    sum += weight * Math.max(inside, 1 - inside)
    weights += weight
  }
  return sum / weights
}
/** Places of a normal distribution, close enough for what has a kink. */
const PLACES = Array.from({ length: 81 }, (_, i) => (i - 40) / 11)

/**
 * The fewest throws after which one is right four times in five who says whether a disc does its job.
 *
 * @returns 0 where that is known already; null where no test of an afternoon tells it
 */
export function throwsThatTell(
  stability: Estimate,
  range: { readonly low: number; readonly high: number },
  precision: number,
): number | null {
  if (rightAfter(0, stability, range, precision) >= TELLS) return 0
  const tells = (n: number) => rightAfter(n, stability, range, precision) >= TELLS
  if (!tells(MOST)) return null
  // more throws never tell less
  let [low, high] = [LEAST - 1, MOST]
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (tells(middle)) high = middle
    else low = middle
  }
  return high
}
