import { byFigures } from './questions/picking.ts'
import type { ProposedDisc } from './questions/picking.ts'
import { questionOf } from './questions.ts'
import type { QuestionKind } from './questions.ts'
import type { TrialQuestion } from './questions/question.ts'

export interface ProposedDiscs {
  readonly discs: readonly string[]
  readonly control: string | null
  /** What the shelf lacks for this question. */
  readonly lacks: string | null
}

/** Discs proposed at most, the control disc not among them. */
const MOST = 6

/**
 * Which discs of a shelf answer a question about one of them, and a control disc: the one thrown most of those left, since
 * what is best known anchors best; slower ones first among equals, so that an arm can warm up on it.
 */
export const proposeDiscs = (
  kind: QuestionKind,
  about: ProposedDisc,
  shelf: readonly ProposedDisc[],
): ProposedDiscs => proposedFor(questionOf(kind), about, shelf)

/** The same for a question however it is told. */
export function proposedFor(
  { pick }: Pick<TrialQuestion, 'pick'>,
  about: ProposedDisc,
  shelf: readonly ProposedDisc[],
): ProposedDiscs {
  const others = shelf.filter((d) => d.id !== about.id)
  const picked = pick?.(about, others)
  const discs = [about, ...(picked?.discs ?? [])].slice(0, MOST)
  const chosen = new Set(discs.map((d) => d.id))
  const control = others
    .filter((d) => !chosen.has(d.id) && d.throws > 0)
    .sort(
      byFigures(
        (d) => -d.throws,
        (d) => d.speed,
      ),
    )[0]
  return {
    discs: [...discs, ...(control ? [control] : [])].map((d) => d.id),
    control: control?.id ?? null,
    lacks: picked && picked.discs.length === 0 ? picked.wants : null,
  }
}
