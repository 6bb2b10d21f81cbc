import { LINEAGE } from './questions/picking.ts'
import type { DiffersIn } from './questions/picking.ts'
import { QUESTION_KINDS, questionOf } from './questions.ts'
import type { QuestionKind } from './questions.ts'
import type { TrialQuestion } from './questions/question.ts'

/** What of a disc says what it can be asked. */
export type GuessedDisc = { readonly [level in DiffersIn]?: string | number }

/** The question that is meant, of those that are known. */
export function guessAmong<K extends string>(
  kinds: readonly K[],
  of: (kind: K) => TrialQuestion,
  written: string,
  discs: readonly GuessedDisc[],
): K | undefined {
  const asked = kinds.find((k) => of(k).words === written.trim())
  if (asked) return asked
  const [said] = kinds.filter((k) => of(k).knownBy.test(written)).sort((a, b) => of(b).sure - of(a).sure)
  if (said) return said
  if (discs.length < 2) return undefined
  const level = LINEAGE.find((l) => new Set(discs.map((d) => d[l])).size > 1)
  return level && kinds.find((k) => of(k).differsIn === level)
}

/**
 * What a trial asks, guessed until somebody says: from its question, as it is proposed or as it was written, else from what its
 * discs differ in.
 *
 * @param discs those asked about, the control disc not among them
 */
export const guessKind = (question: string, discs: readonly GuessedDisc[]): QuestionKind =>
  guessAmong(QUESTION_KINDS, questionOf, question, discs) ?? (discs.length < 2 ? 'label' : 'plastics')
