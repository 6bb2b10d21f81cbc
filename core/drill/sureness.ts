import { shareMade } from '../judge/shortGame.ts'
import { HOLDS, isRight } from './scoring.ts'
import type { QuestionKind } from './question.ts'
import { levelAfter } from './staircase.ts'
import type { Answered } from './watcher.ts'

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

/** What an answer claims, how likely, and whether it held. */
function claimOf({ truth, answer }: Pick<Answered, 'truth' | 'answer'>) {
  if (answer.kind !== 'shares') return { of: 'ranges' as const, claimed: HOLDS, held: isRight(truth, answer) }
  const claimed = Math.max(...answer.shares)
  // where two are held alike it is chance which of them is meant
  const meant = answer.shares.flatMap((p, i) => (p === claimed ? [i] : []))
  return {
    of: 'options' as const,
    claimed,
    held: meant.length === 1 && truth.kind === 'shares' && truth.option === meant[0],
    isOpen: meant.length > 1,
  }
}

/**
 * Whether somebody is as sure as they may be: of everything claimed, how often it held against how likely it was said to be. Of
 * somebody who means what they say, the two differ by chance alone, however hard the questions were.
 */
export function surenessOf(all: readonly Pick<Answered, 'truth' | 'answer'>[]): Sureness[] {
  const claims = all.map(claimOf).filter((c) => !('isOpen' in c && c.isOpen))
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

/** How one kind of question was answered, and how hard the next one is. */
export interface KindSoFar {
  readonly kind: QuestionKind
  readonly answers: number
  readonly right: number
  /** Of 100, on average. */
  readonly points: number
  /** 0…1 */
  readonly level: number
}

/**
 * Every kind of question that was answered, the most often answered first.
 *
 * @param all oldest first
 */
export function kindsSoFar(
  all: readonly { readonly kind: QuestionKind; readonly right: boolean; readonly points: number }[],
): KindSoFar[] {
  const kinds = [...new Set(all.map((a) => a.kind))]
  return kinds
    .map((kind) => {
      const own = all.filter((a) => a.kind === kind)
      return {
        kind,
        answers: own.length,
        right: own.filter((a) => a.right).length / own.length,
        points: own.reduce((sum, a) => sum + a.points, 0) / own.length,
        level: levelAfter(own.map((a) => a.right)),
      }
    })
    .sort((a, b) => b.answers - a.answers)
}
