import { millisecondsInDay } from 'date-fns/constants'
import { percent } from '../judge/statements.ts'
import { daysUntil, DOES } from './board.ts'
import type { DueSign, Move } from './board.ts'
import type { Prospect } from './doing.ts'
import type { Foretold } from './carried.ts'
import type { DiscEventKind } from './life.ts'
import { HORIZON } from './wear.ts'
import type { Leaving, Range } from './wear.ts'
import type { PlasticKind } from '../shelf/usualWear.ts'

/** Throws as they are said: nobody knows them to the last. */
export function throwsLeftWords(n: number): string {
  const to = n < 50 ? 5 : n < 300 ? 10 : 50
  return `${Math.max(to, Math.round(n / to) * to)}`
}

/** Further on a day is not named, days. */
const FURTHEST_DAYS = 1500
const month = new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' })

/**
 * When so many throws will have been thrown, as a month; undefined where nobody throws it, or not for years.
 *
 * @param today ISO day
 */
export function monthWords(throws: number, aDay: number, today: string): string | undefined {
  const days = daysUntil(throws, aDay)
  return days <= FURTHEST_DAYS ? month.format(Date.parse(today) + days * millisecondsInDay) : undefined
}

/** When a disc leaves its job. */
function leavingWords({ earliest, likely, latest }: Leaving, aDay: number, today: string): string {
  if (likely === 0) return 'it has most likely left it by now'
  if (likely === null)
    return earliest === null
      ? `stays for more than ${HORIZON} throws`
      : `stays for long; leaves after ${throwsLeftWords(earliest)} throws at the earliest`
  const by = monthWords(likely, aDay, today)
  const from =
    earliest === null || earliest === 0
      ? 'may leave any time'
      : `${throwsLeftWords(earliest)} at the earliest`
  const to = latest === null ? '' : `, ${throwsLeftWords(latest)} at the latest`
  return `leaves after about ${throwsLeftWords(likely)} throws (${from}${to})${by ? `, in ${by} at this pace` : ''}`
}

/** What is said of a disc and a job: whether it does it, and when that changes. */
export function prospectWords(prospect: Prospect, hasLeft: boolean, aDay: number, today: string): string {
  const { now, enters, leaves, best } = prospect
  if (now >= DOES) return `Does it, ${percent(now)}; ${leavingWords(leaves, aDay, today)}.`
  if (hasLeft) return `Has left it: ${percent(now)} that it still does it.`
  if (enters !== null && enters > 0) {
    const by = monthWords(enters, aDay, today)
    return `Wears into it in about ${throwsLeftWords(enters)} throws${by ? `, by ${by} at this pace` : ''}; ${percent(now)} now.`
  }
  return `Hardly: ${percent(now)} now, ${percent(best.probability)} at best.`
}

/** What is offered to a disc that leaves its job. */
export const offerWords = (jobName: string, now: number): string =>
  `It flies into ${jobName}: ${percent(now)} that it does it now.`

/** When a disc moves, as a sentence without its name. */
export function moveWords({ kind, throws, days }: Move, jobName: string, today: string): string {
  const what = kind === 'leaves' ? `leaves ${jobName}` : `wears into ${jobName}`
  const by =
    days <= FURTHEST_DAYS
      ? `, in ${month.format(Date.parse(today) + days * millisecondsInDay)} at its pace`
      : ''
  return `${what} in about ${throwsLeftWords(throws)} throws${by}`
}

/** Why a backup is due, as a sentence. */
export function dueWords(sign: DueSign, nameOf: (discId: string) => string): string {
  switch (sign.kind) {
    case 'nobody does it':
      return 'No disc that is carried for it does it.'
    case 'a single copy':
      return `${nameOf(sign.discId)} is the only one carried for it that does it.`
    case 'spared':
      return `${nameOf(sign.discId)} is kept away from water or trees.`
    case 'out of make':
      return `The plastic of ${nameOf(sign.discId)} is no longer made.`
    case 'leaves soon':
      return `${nameOf(sign.discId)} likely leaves it in ${sign.days} days.`
    case 'scatter grows':
      return `${nameOf(sign.discId)} scatters ${sign.times.toFixed(1)} times as much as it did.`
    case 'has left':
      return `${nameOf(sign.discId)} has left it and is still carried for it.`
  }
}

/** What a plastic is made of, in words. */
export const ENTRY_WORDS: Readonly<Record<PlasticKind, string>> = {
  base: 'base blends',
  premium: 'premium plastics',
  soft: 'soft plastics',
  unknown: 'plastics nobody has named the kind of',
}

/** What wear does to a disc from here on, as sentences. */
export function foretoldWords(
  { nextHundred, halfLess, pace, hit, tests }: Foretold,
  kind: PlasticKind,
  plastic: string,
): string[] {
  const change = `${nextHundred.value < 0 ? '−' : ''}${Math.abs(nextHundred.value).toFixed(2)}`
  const usual = `${ENTRY_WORDS[kind]} usually do`
  const range = ({ low, high }: Range, digits: number) => `${low.toFixed(digits)} to ${high.toFixed(digits)}`
  const { earliest, likely } = halfLess
  return [
    `A hundred more throws change its stability by ${change} ± ${nextHundred.sd.toFixed(2)}.`,
    tests.blend === 0
      ? `Nobody has tested ${plastic} again: it is taken to wear as ${usual}, ${range(pace, 1)} times as fast.`
      : `${plastic} wears ${pace.middle.toFixed(1)} times as fast as ${usual} (${range(pace, 1)}, of ${tests.blend} ${tests.blend === 1 ? 'test' : 'tests'}).`,
    `A hard hit does as much as ${Math.round(hit.middle)} throws (${range(hit, 0)}).`,
    likely === null
      ? 'It should stay within half a number for thousands of throws.'
      : `Likely half a number less stable in about ${throwsLeftWords(likely)} throws, in ${throwsLeftWords(earliest ?? 0)} at the earliest.`,
  ]
}

/** Something in the life of a disc, in words. */
export function eventWords(kind: DiscEventKind, jobName: string | undefined): string {
  switch (kind) {
    case 'moved':
      return jobName === undefined ? 'carried for no job' : `carried for ${jobName}`
    case 'spared':
      return 'kept away from water and trees'
    case 'not-spared':
      return 'no longer kept away'
    case 'found':
      return 'found again'
    case 'back':
      return 'came back'
    default:
      return kind
  }
}
