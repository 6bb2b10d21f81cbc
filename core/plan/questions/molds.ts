import { DISC_CLASS_WORDS } from '../../shelf/kinds.ts'
import { byFigures, oneOfEach, wearFrom } from './picking.ts'
import { SPREAD } from './question.ts'
import type { TrialQuestion } from './question.ts'

/** Molds compared at most, the one asked about included. */
const MOST = 4

export const moldsQuestion: TrialQuestion = {
  words: 'Which of these molds is more stable?',
  discs: 'the candidate, the molds it is compared with, and a control disc',
  measure: 'order of stability, and how likely it is',
  called: (mold) => `${mold} beside its like`,
  hyzerDegs: SPREAD,
  throwsACell: 4,
  power: 1,
  // words that other questions use, too
  knownBy: /\bstable\b|\bmolds?\b/i,
  sure: 1,
  differsIn: 'mold',
  pick: (about, others) => ({
    discs: oneOfEach(
      others
        .filter((d) => d.discClass === about.discClass && d.mold !== about.mold)
        .sort(
          byFigures(
            (d) => Math.abs(d.speed - about.speed),
            (d) => Math.abs(d.stability - about.stability),
            wearFrom(about),
          ),
        ),
      (d) => d.mold,
    ).slice(0, MOST - 1),
    wants: `another mold among ${DISC_CLASS_WORDS[about.discClass]}s`,
  }),
}
