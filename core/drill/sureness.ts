import { shareMade } from '../judge/shortGame.ts'
import { HOLDS, isRight } from './scoring.ts'
import type { WatchedReply } from './watcher.ts'

/** What is claimed with an answer: that a range or a circle holds what is true, or that an option is true. */
export const CLAIMS = ['ranges', 'options'] as const
export type ClaimKind = (typeof CLAIMS)[number]

/** How often what somebody claims holds, against how often they say it does. */
export interface Sureness {
  readonly of: ClaimKind
  readonly answers: number
  /** How likely they held it, on average. */
  readonly claimed: number
  /** How often it held, with its 90 % interval. */
  readonly held: { readonly value: number; readonly low: number; readonly high: number }
  /** Further from each other than chance would have them in somebody who means what they say. */
  readonly isSure: boolean
}

/** Fewer answers say nothing of how sure somebody may be. */
const LEAST = 12
/** So many standard deviations apart is more than chance: in one of some hundred who mean what they say (two-sided, both claims). */
const SURE = 2.8

interface Claim {
  readonly of: ClaimKind
  readonly claimed: number
  readonly held: boolean
}
/** What an answer claims, how likely, and whether it held; undefined where two options are held alike and none is meant. */
function claimOf({ truth, answer }: Pick<WatchedReply, 'truth' | 'answer'>): Claim | undefined {
  if (answer.kind !== 'shares') return { of: 'ranges', claimed: HOLDS, held: isRight(truth, answer) }
  const claimed = Math.max(...answer.shares)
  const isOpen = answer.shares.filter((p) => p === claimed).length > 1
  return isOpen ? undefined : { of: 'options', claimed, held: isRight(truth, answer) }
}

/**
 * Whether somebody is as sure as they may be: of everything claimed, how often it held against how likely it was said to be. Of
 * somebody who means what they say, the two differ by chance alone, however hard the questions were.
 */
export function surenessOf(all: readonly Pick<WatchedReply, 'truth' | 'answer'>[]): Sureness[] {
  const claims = all.map(claimOf).filter((c) => c !== undefined)
  return CLAIMS.flatMap((of) => {
    const own = claims.filter((c) => c.of === of)
    if (own.length < LEAST) return []
    const expected = own.reduce((sum, c) => sum + c.claimed, 0)
    const held = own.filter((c) => c.held).length
    const sd = Math.sqrt(own.reduce((sum, c) => sum + c.claimed * (1 - c.claimed), 0))
    return {
      of,
      answers: own.length,
      claimed: expected / own.length,
      held: shareMade(held, own.length)!,
      isSure: Math.abs(held - expected) > SURE * Math.max(sd, 0.5),
    }
  })
}
