import { byFigures, gramsFrom, oneOfEach, sameBlend } from './picking.ts'
import { SPREAD } from './question.ts'
import type { TrialQuestion } from './question.ts'

export const wearQuestion: TrialQuestion = {
  words: 'What has wear changed?',
  discs: 'a new copy, worn copies of the same plastic, and a control disc',
  measure: 'turn and fade from new to worn',
  called: (mold, plastic) => `${mold}, ${plastic}, new to worn`,
  hyzerDegs: SPREAD,
  throwsACell: 5,
  power: 1,
  knownBy: /\b(wear|worn|beat(en)?|season(ed)?)\b/i,
  sure: 3,
  differsIn: 'wear',
  pick: (about, others) => ({
    discs: oneOfEach(sameBlend(others, about).sort(byFigures(gramsFrom(about))), (d) =>
      String(d.wear),
    ).filter((d) => d.wear !== about.wear),
    wants: `a ${about.mold} in ${about.plastic} of another wear`,
  }),
}
