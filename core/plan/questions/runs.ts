import { nearest, oneOfEach, sameBlend } from './picking.ts'
import { SPREAD } from './question.ts'
import type { TrialQuestion } from './question.ts'

export const runsQuestion: TrialQuestion = {
  words: 'Are the runs alike?',
  discs: 'one plastic in several runs, and a control disc',
  measure: 'differences of stability between runs',
  called: (mold, plastic) => `${mold}, ${plastic}, run by run`,
  hyzerDegs: SPREAD,
  throwsACell: 6,
  power: 1,
  knownBy: /\bruns?\b.*\balike|\balike\b.*\bruns?\b/i,
  sure: 4,
  differsIn: 'run',
  pick: (about, others) => ({
    discs: oneOfEach(nearest(sameBlend(others, about), about), (d) => d.run ?? '').filter(
      (d) => d.run !== about.run,
    ),
    wants: `another run of ${about.mold} in ${about.plastic}`,
  }),
}
