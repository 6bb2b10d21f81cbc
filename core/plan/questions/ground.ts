import { otherPlastics } from './plastics.ts'
import type { TrialQuestion } from './question.ts'

export const groundQuestion: TrialQuestion = {
  words: 'How far does it skip?',
  discs: 'one mold in its plastics',
  measure: 'ground play after the same shot',
  called: (mold) => `${mold} on the ground`,
  hyzerDegs: [15],
  throwsACell: 8,
  power: 0.8,
  knownBy: /\bskips?\b|\bground\b/i,
  sure: 9,
  pick: otherPlastics,
}
