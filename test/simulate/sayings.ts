import { landing } from '../../core/flight/landing.ts'
import { STILL_AIR } from '../../core/flight/air.ts'
import { fullSpeedWith } from '../../core/flight/arm.ts'
import { cleanRelease } from '../../core/flight/release.ts'
import { HALF_NUMBER, SEEN_NUMBERS } from '../../core/flight/disc.ts'
import { labelScale } from '../../core/flight/side.ts'
import { busiestArm } from '../../core/judge/flewLike.ts'
import { judgeSaid } from '../../core/review/judged.ts'
import type { Judged } from '../../core/review/judged.ts'
import { claimsIn, SUPERLATIVES } from '../../core/review/saidClaims.ts'
import type { SaidClaim } from '../../core/review/saidClaims.ts'
import { askedOf } from './answers.ts'
import { seedOf, simulateSession } from './session.ts'
import type { SimulatedSession } from './session.ts'

const NAMES = ['Slate', 'Loam, new', 'Amber', 'Tallow']

/** How a reviewer may put each claim. */
const WORDS: Readonly<Record<SaidClaim['says'], readonly string[]>> = {
  'is-more-stable-than': ['A is more stable than B.', 'The A flies clearly more overstable than the B.'],
  'is-less-stable-than': ['A is less stable than B, and that is that.', 'A proved more understable than B.'],
  'flies-farther-than': ['A flies farther than B.', 'A carries noticeably further than B!'],
  'flies-straighter-than': ['A flies straighter than B.', 'Clearly, A goes on; A is straighter than B.'],
  'has-more-glide-than': ['A has more glide than B.'],
  'finishes-harder-than': ['A finishes harder than B.', 'And A fades much harder than B.'],
  'skips-farther-than': ['A skips farther than B.'],
  'is the most stable': ['A is the most stable of the discs.', 'A flies the most overstable.'],
  'is the least stable': ['A is the least stable of them all.', 'A is the most understable.'],
  'flies the farthest': ['A flies the farthest.', 'Overall A goes farthest.'],
  'flies the straightest': ['A is the straightest of all.'],
  'fly alike': ['A and B fly alike.', 'A is identical to B.', 'A flies as stable as B.'],
  'is true to its numbers': ['A is true to its numbers.', 'A flies true to the label.'],
}
/** Sentences about the same discs that say something else, or nothing that can be judged. */
export const LEFT_ALONE = [
  'A is not more stable than B.',
  'A isn’t farther than B.',
  'Is A more stable than B?',
  'The maker says A is more stable than B.',
  'A may be more stable than B.',
  'In the wind A is more stable than B.',
  'A is more stable than B when it is new.',
  'A is more stable than B for slow arms.',
  'A is more stable than B, at least into the wind.',
  'A flies farther than B thrown low.',
  'A is more stable than anything else.',
  'A weighs more than B.',
  'A and B are the same colour.',
  'A costs less than B.',
  'A is the most stable of the molds we threw last year.',
  '“A is more stable than B.”',
  'Nobody would call A straighter than B.',
  'A is prettier than B.',
  'A finishes 4.1 m farther left than B.',
  'Neither is more stable: A is more stable than nothing.',
]

const placed = (words: string, a: string, b: string) => words.replace(/\bA\b/g, a).replace(/\bB\b/g, b)

/** Whether a claim is true of discs as they were made. */
function isSo(claim: SaidClaim, { truth, sides, evidence }: SimulatedSession, armMps: number): boolean {
  const all = evidence.discs.map((d) => d.id)
  const side = (d: string) => sides.get(d)!.side
  const disc = (d: string) => evidence.discs.find((e) => e.id === d)!
  const carry = (d: string) =>
    landing(
      truth.get(d)!,
      disc(d).body,
      cleanRelease(fullSpeedWith(armMps, disc(d).published.speed)),
      STILL_AIR,
    ).carryM
  const most = (of: (d: string) => number) => all.every((d) => of(claim.disc) >= of(d))
  switch (claim.says) {
    case 'is-more-stable-than':
      return side(claim.disc) > side(claim.than)
    case 'is-less-stable-than':
      return side(claim.disc) < side(claim.than)
    case 'flies-farther-than':
      return carry(claim.disc) > carry(claim.than)
    case 'flies-straighter-than':
      return Math.abs(side(claim.disc)) < Math.abs(side(claim.than))
    case 'has-more-glide-than':
      return truth.get(claim.disc)!.glide > truth.get(claim.than)!.glide
    case 'finishes-harder-than':
      return truth.get(claim.disc)!.fade > truth.get(claim.than)!.fade
    case 'skips-farther-than':
      throw new Error('nothing of the short game is made up here')
    case 'is the most stable':
      return most(side)
    case 'is the least stable':
      return most((d) => -side(d))
    case 'flies the farthest':
      return most(carry)
    case 'flies the straightest':
      return most((d) => -Math.abs(side(d)))
    case 'fly alike': {
      const scales = [claim.disc, claim.than].map((d) => labelScale(disc(d).published).perNumber)
      return Math.abs(side(claim.disc) - side(claim.than)) <= (HALF_NUMBER * (scales[0]! + scales[1]!)) / 2
    }
    case 'is true to its numbers':
      return SEEN_NUMBERS.every(
        (n) => Math.abs(truth.get(claim.disc)![n] - disc(claim.disc).published[n]) <= HALF_NUMBER,
      )
  }
}

export interface Sayings {
  readonly sentences: number
  /** Of these, not found, or read as something else. */
  readonly misread: number
  /** Marked as carried and false, or as contradicted and true. */
  readonly wrong: number
  /** Marked either way. */
  readonly marked: number
  /** What was due to be wrong: the sum of what the probabilities of those marked leave. */
  readonly due: number
  /** Sentences that say something else and were marked all the same. */
  readonly meddled: number
  readonly leftAlone: number
}

/** Sentences about simulated trials, of the truth and of its opposite alike, found and judged as a review would have them. */
export function sayings(trials: number, from = 0): Sayings {
  const count = { sentences: 0, misread: 0, wrong: 0, marked: 0, due: 0, meddled: 0, leftAlone: 0 }
  for (let k = from; k < from + trials; k++) {
    const session = simulateSession({ seed: seedOf(k), discs: 4, throws: 36, called: true })
    const { state, outcome, discs } = askedOf(session.evidence)
    const naming = discs.map((disc, i) => ({ disc, names: [NAMES[i]!, `HS-0${10 + i}`] }))
    const { armMps } = busiestArm(state)!
    const name = (d: string) => NAMES[discs.indexOf(d)]!
    const pairs = discs.flatMap((a) => discs.flatMap((b) => (a === b ? [] : [[a, b] as const])))
    const one = discs.map((a) => [a, a] as const)
    for (const [says, ways] of Object.entries(WORDS) as [SaidClaim['says'], readonly string[]][]) {
      if (says === 'skips-farther-than') continue
      const alone = says === 'is true to its numbers' || (SUPERLATIVES as readonly string[]).includes(says)
      for (const [i, [disc, than]] of (alone ? one : pairs).entries()) {
        const claim = (alone ? { says, disc } : { says, disc, than }) as SaidClaim
        const text = placed(ways[i % ways.length]!, name(disc), name(than))
        count.sentences++
        const [found, ...more] = claimsIn(text, naming)
        if (!found || more.length > 0 || JSON.stringify(found.claim) !== JSON.stringify(claim)) {
          count.misread++
          continue
        }
        const judged: Judged = judgeSaid(state, outcome, found.claim, discs, [])
        if (judged.verdict !== 'carried' && judged.verdict !== 'contradicted') continue
        count.marked++
        const p = judged.probability!
        count.due += Math.min(p, 1 - p)
        if (isSo(claim, session, armMps) !== (judged.verdict === 'carried')) count.wrong++
      }
    }
    for (const [i, words] of LEFT_ALONE.entries()) {
      const [a, b] = pairs[(i + k) % pairs.length]!
      count.leftAlone++
      if (claimsIn(placed(words, name(a), name(b)), naming).length > 0) count.meddled++
    }
  }
  return count
}
