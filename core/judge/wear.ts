import { normalCdf } from '../rating/normal.ts'
import { factorise, inverse, solve } from '../rating/cholesky.ts'
import type { Estimate } from '../rating/outcome.ts'

/** One re-test of a disc: how much it had been through, and how stable it flew. */
export interface Retest {
  readonly disc: string
  /** Throws since new, and hits hard enough to hear. */
  readonly throws: number
  readonly hardHits: number
  /** Read from where it flew; see flight/side.ts. */
  readonly stability: Estimate
}

/** What wear takes from a plastic: change of stability per hundred throws and per hard hit. */
export interface WearRate {
  readonly per100: Estimate
  readonly perHit: Estimate
  /** Covariance of the two, for forecasts. */
  readonly covariance: number
  readonly retests: number
}

/** What is believed of a plastic before any re-test; base blends wear in faster than premium ones. */
export const WEAR_RATE_PRIOR = {
  per100: { value: -0.18, sd: 0.18 },
  perHit: { value: -0.03, sd: 0.032 },
} as const
/** What a disc does between re-tests that wear does not explain. */
const RETEST_SD = 0.14
/** What is believed of a disc when new: next to nothing, it is read off its first test. */
const NEW_SD = 5

/**
 * Rates of wear of one plastic from re-tests of its discs: Bayesian linear regression of stability on throws and hard hits, with
 * a start of its own for every disc. Without re-tests it is the prior.
 *
 * @param prior what is believed of this plastic, if not as of any other
 */
export function wearRate(
  retests: readonly Retest[],
  prior: Pick<WearRate, 'per100' | 'perHit'> = WEAR_RATE_PRIOR,
): WearRate {
  const discs = [...new Set(retests.map((r) => r.disc))]
  const n = 2 + discs.length
  const a = new Float64Array(n * n)
  const b = new Float64Array(n)
  const mean = [prior.per100.value, prior.perHit.value, ...discs.map(() => 0)]
  const sds = [prior.per100.sd, prior.perHit.sd, ...discs.map(() => NEW_SD)]
  for (let i = 0; i < n; i++) {
    a[i * n + i] = 1 / sds[i]! ** 2
    b[i] = mean[i]! / sds[i]! ** 2
  }
  for (const r of retests) {
    const row = new Float64Array(n)
    row[0] = r.throws / 100
    row[1] = r.hardHits
    row[2 + discs.indexOf(r.disc)] = 1
    const precision = 1 / (r.stability.sd ** 2 + RETEST_SD ** 2)
    for (let i = 0; i < n; i++) {
      b[i]! += precision * row[i]! * r.stability.value
      for (let j = 0; j < n; j++) a[i * n + j]! += precision * row[i]! * row[j]!
    }
  }
  factorise(a, n)
  solve(a, n, b)
  const covariance = inverse(a, n)
  return {
    per100: { value: b[0]!, sd: Math.sqrt(covariance[0]!) },
    perHit: { value: b[1]!, sd: Math.sqrt(covariance[n + 1]!) },
    covariance: covariance[1]!,
    retests: retests.length,
  }
}

/** Stability of a disc after so many more throws and hard hits, with its uncertainty. */
export function stabilityAfter(now: Estimate, rate: WearRate, throws: number, hardHits: number): Estimate {
  const h = throws / 100
  const variance =
    now.sd ** 2 +
    h ** 2 * rate.per100.sd ** 2 +
    hardHits ** 2 * rate.perHit.sd ** 2 +
    2 * h * hardHits * rate.covariance
  return {
    value: now.value + h * rate.per100.value + hardHits * rate.perHit.value,
    sd: Math.sqrt(Math.max(0, variance)),
  }
}

/** When a disc leaves the slot it is carried for. */
export interface SlotForecast {
  /** Probability that it is in its slot now. */
  readonly inSlotNow: number
  /** Throws after which it is as likely out of its slot as in it; Infinity when that is further off than looked. */
  readonly leavesAfterThrows: number
  /** The same for one chance in ten and nine in ten: when to have a backup ready, and when it has surely left. */
  readonly earliest: number
  readonly latest: number
}

/** Further ahead nobody plans, throws. */
const HORIZON = 5000

/**
 * Forecast of when a disc leaves its slot, a range of stability.
 *
 * @param hitsPerThrow hard hits a throw as the disc is used
 */
export function leavesSlot(
  now: Estimate,
  rate: WearRate,
  slot: { readonly low: number; readonly high: number },
  hitsPerThrow: number,
): SlotForecast {
  const inside = (throws: number) => {
    const { value, sd } = stabilityAfter(now, rate, throws, throws * hitsPerThrow)
    if (sd === 0) return value >= slot.low && value <= slot.high ? 1 : 0
    return normalCdf((slot.high - value) / sd) - normalCdf((slot.low - value) / sd)
  }
  const first = (p: number) => {
    for (let n = 0; n <= HORIZON; n += 10) if (inside(n) <= p) return n
    return Number.POSITIVE_INFINITY
  }
  return { inSlotNow: inside(0), earliest: first(0.9), leavesAfterThrows: first(0.5), latest: first(0.1) }
}
