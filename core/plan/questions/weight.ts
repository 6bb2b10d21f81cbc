import { byFigures, gramsFrom, sameBlend, USUAL_GRAMS, wearFrom } from './picking.ts'
import { SPREAD } from './question.ts'
import type { TrialQuestion } from './question.ts'

/** Copies that differ by less say nothing of their weight, g. */
const TOLD_APART_G = 2

export const weightQuestion: TrialQuestion = {
  words: 'What does the weight change?',
  discs: 'light and heavy copies of one plastic, weighed, and a control disc',
  measure: 'stability left once mass is in the physics',
  called: (mold, plastic) => `${mold}, ${plastic}, light and heavy`,
  hyzerDegs: SPREAD,
  throwsACell: 5,
  power: 1,
  knownBy: /\b(weights?|weighs?|heav(y|ier)|light(er)?|grams?)\b/i,
  sure: 2,
  pick: (about, others) => ({
    discs: sameBlend(others, about)
      .filter((d) => d.grams !== null && Math.abs(d.grams - (about.grams ?? USUAL_GRAMS)) >= TOLD_APART_G)
      .sort(byFigures(wearFrom(about), (d) => -gramsFrom(about)(d)))
      .slice(0, 2),
    wants: `a lighter or heavier ${about.mold} in ${about.plastic}`,
  }),
}
