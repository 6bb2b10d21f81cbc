import { REFERENCE_ARM_MPS } from '../flight/arm.ts'
import { order, pairsOf } from './aims.ts'
import type { Aim, PairOfDiscs } from './aims.ts'
import { questionOf } from './questions.ts'
import type { QuestionKind } from './questions.ts'
import type { TrialQuestion } from './questions/question.ts'

/** What a trial asks its throws. */
export interface Ask {
  readonly kind: QuestionKind
  /** The two discs it is about, where it is about two. */
  readonly pair: PairOfDiscs | null
}

/**
 * What a question comes to: what it asks of its discs, of the two it is about where it is about two; the order of that pair, else
 * of every pair, where it asks nothing else.
 *
 * @param discs those asked about, the control disc not among them
 * @param armMps V₉ of the arm that throws, m/s
 */
export const aimsOf = (
  { kind, pair }: Ask,
  discs: readonly string[],
  armMps: number = REFERENCE_ARM_MPS,
): Aim[] => aimsFor(questionOf(kind), pair, discs, armMps)

/** The same for a question however it is told. */
export function aimsFor(
  { aims, aimsOfTwo }: Pick<TrialQuestion, 'aims' | 'aimsOfTwo'>,
  pair: PairOfDiscs | null,
  discs: readonly string[],
  armMps: number,
): Aim[] {
  if (pair?.every((d) => discs.includes(d))) return aimsOfTwo?.(pair, armMps) ?? [order(pair)]
  return aims?.(discs, armMps) ?? pairsOf(discs).map(order)
}

/** Whether a question asks something else of its discs than which is the more stable. */
export const asksOtherThanOrder = (kind: QuestionKind): boolean => questionOf(kind).aims !== undefined
