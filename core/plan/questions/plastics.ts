import { nearest, oneOfEach } from './picking.ts'
import { SPREAD } from './question.ts'
import type { Picked, TrialQuestion } from './question.ts'
import type { ProposedDisc } from './picking.ts'

/** The mold in each of its other plastics, a copy as much like this one as there is. */
export const otherPlastics = (about: ProposedDisc, others: readonly ProposedDisc[]): Picked => ({
  discs: oneOfEach(
    nearest(
      others.filter((d) => d.mold === about.mold),
      about,
    ),
    (d) => d.plastic,
  ).filter((d) => d.plastic !== about.plastic),
  wants: `another plastic of ${about.mold}`,
})

export const plasticsQuestion: TrialQuestion = {
  words: 'What does the plastic change?',
  discs: 'one mold in its plastics, and a control disc',
  measure: 'differences of stability between plastics',
  called: (mold) => `${mold} in its plastics`,
  hyzerDegs: SPREAD,
  throwsACell: 4,
  power: 1,
  knownBy: /\bplastics?\b.*\bchange|\bchange.*\bplastics?\b/i,
  sure: 6,
  differsIn: 'plastic',
  pick: otherPlastics,
}
