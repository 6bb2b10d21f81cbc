import { OTHER_ARMS } from '../aims.ts'
import type { Aim } from '../aims.ts'
import type { TrialQuestion } from './question.ts'

export const armsQuestion: TrialQuestion = {
  words: 'What will it do for another arm?',
  discs: 'the disc and a control disc, thrown by two arms, or eased to stand in for the slower one',
  measure: 'the numbers it seems to have at each speed',
  called: (mold) => `${mold} for another arm`,
  hyzerDegs: [8, 0],
  throwsACell: 6,
  power: 1,
  easedTo: 0.75,
  knownBy: /\b(another|other|slow(er)?|fast(er)?|weak(er)?|young(er)?) arms?\b/i,
  sure: 8,
  aims: (discs) => discs.flatMap((disc) => OTHER_ARMS.map((armMps): Aim => ({ of: 'finish', disc, armMps }))),
  tells: 'where each finishes for other arms',
}
