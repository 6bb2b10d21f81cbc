import { LABEL_FIGURES } from '../aims.ts'
import type { Aim } from '../aims.ts'
import { SPREAD } from './question.ts'
import type { TrialQuestion } from './question.ts'

export const labelQuestion: TrialQuestion = {
  words: 'Is it true to its numbers?',
  discs: 'the disc and a control disc',
  measure: 'turn and fade against the published numbers',
  called: (mold, plastic) => `${mold}, ${plastic}, against its label`,
  hyzerDegs: SPREAD,
  throwsACell: 6,
  power: 1,
  knownBy: /\b(numbers?|label|published|true to)\b/i,
  sure: 5,
  aims: (discs) =>
    discs.flatMap((disc) => LABEL_FIGURES.map((figure): Aim => ({ of: 'label', disc, figure }))),
  tells: 'each number',
  ofAll: 'the numbers of every disc',
  asksConvention: true,
}
