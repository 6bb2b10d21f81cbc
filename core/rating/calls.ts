import { DEGREE } from '../flight/units.ts'
import { END_BANK, LEAST_BANK } from '../flight/glimpses.ts'
import { normalCdf } from './normal.ts'

/** What a watcher calls of a disc in the air. */
export const AIR_CALLS = ['stood up', 'turned', 'held', 'fought back', 'dumped'] as const
export type AirCall = (typeof AIR_CALLS)[number]
/** Whether a word is one of the calls. */
export const isAirCall = (word: string): word is AirCall => (AIR_CALLS as readonly string[]).includes(word)

/** A watcher puts the bounds between calls this far from where another would, rad (standard deviation). */
export const WATCHER_SD = 6 * DEGREE
/** It turned when its bank fell this far below what was meant, or below flat from a hyzer. */
const TURNED = -5 * DEGREE
/** It stood up from a hyzer when its bank came down to this. */
const STOOD_UP = 3 * DEGREE
/** A hyzer is one from here on; below, nothing is there to stand up from. */
const HYZER = 4 * DEGREE
/** It fought back when it came down with the fade side this much lower, and dumped from here on. */
const FOUGHT_BACK = 4 * DEGREE
const DUMPED = 25 * DEGREE

/** A call as evidence: a bank of the flight lies between two bounds, rad, as far as a watcher can tell. */
export interface CalledBank {
  /** Which bank, by its place among the glimpses. */
  readonly bank: typeof LEAST_BANK | typeof END_BANK
  readonly low: number
  readonly high: number
  /** How far off whoever called it sees a bank, rad (standard deviation). */
  readonly sd: number
}

/**
 * Calls as ordered evidence. "Held", "stood up" and "turned" order the least bank of the flight, from most to least;
 * "fought back" and "dumped" order its bank at landing. Of two calls of one order the further one holds, except that
 * a disc said both to have held and not to have told nothing. Where anything was called, somebody watched: a disc not said
 * to have dumped did not, and one thrown on anhyzer that is not said to have fought back stayed over. To take only what was
 * said would lean every disc toward what is worth saying.
 *
 * @param hyzerRad what was meant
 * @param sd of the watcher, rad, where it was measured
 */
export function calledBanks(
  calls: readonly AirCall[],
  hyzerRad: number,
  sd: number = WATCHER_SD,
): CalledBank[] {
  const said = new Set(calls)
  const turned = Math.min(0, hyzerRad) + TURNED
  const stoodUp = hyzerRad > HYZER ? STOOD_UP : turned - TURNED
  const came: Omit<CalledBank, 'sd'>[] = said.has('turned')
    ? [{ bank: LEAST_BANK, low: -Infinity, high: turned }]
    : said.has('stood up')
      ? [{ bank: LEAST_BANK, low: turned, high: stoodUp }]
      : said.has('held')
        ? [{ bank: LEAST_BANK, low: hyzerRad > HYZER ? stoodUp : turned, high: Infinity }]
        : []
  const torn = said.has('held') && (said.has('turned') || said.has('stood up'))
  const ended: Omit<CalledBank, 'sd'>[] = said.has('dumped')
    ? [{ bank: END_BANK, low: DUMPED, high: Infinity }]
    : said.has('fought back')
      ? [{ bank: END_BANK, low: FOUGHT_BACK, high: DUMPED }]
      : said.size > 0
        ? [{ bank: END_BANK, low: -Infinity, high: hyzerRad < -HYZER ? FOUGHT_BACK : DUMPED }]
        : []
  return [...(torn ? [] : came), ...ended].map((bank) => ({ ...bank, sd }))
}

/** A bank this many of the watcher's standard deviations on the wrong side of a bound pulls no harder than there. */
const FAR = 3
/** A call that says nothing of where the bank is still has to be a number. */
const LEAST_TOLD = 1e-4

const density = (z: number) => (Number.isFinite(z) ? Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI) : 0)

/** Probability that a watcher makes a call of a flight whose bank is `x` (probit). */
export function callProbability({ low, high, sd }: CalledBank, x: number): number {
  return normalCdf((high - x) / sd) - normalCdf((low - x) / sd)
}

/**
 * A call as the measurement of a bank that has, at `x`, the slope and the curvature of the call's log probability:
 * Gauss–Newton then climbs the likelihood of ordered categories (ordered probit) itself.
 *
 * @param x the bank as it stands, rad
 * @returns the measured value less x, its variance (rad²), and how much of an observation it is, 0 … 1
 */
export function asMeasured(
  { low, high, sd }: CalledBank,
  x: number,
): { readonly gap: number; readonly variance: number; readonly told: number } {
  const over = Number.isFinite(high) ? Math.max(-FAR, (high - x) / sd) : Infinity
  const under = Number.isFinite(low) ? Math.min(FAR, (low - x) / sd) : -Infinity
  const share = Math.max(1e-12, normalCdf(over) - normalCdf(under))
  const slope = (density(under) - density(over)) / share
  const bend =
    (Number.isFinite(over) ? over * density(over) : 0) - (under > -Infinity ? under * density(under) : 0)
  const told = Math.min(1, Math.max(LEAST_TOLD, slope ** 2 + bend / share))
  return { gap: (sd * slope) / told, variance: sd ** 2 / told, told }
}
