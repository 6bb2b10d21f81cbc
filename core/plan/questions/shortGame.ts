import { nearest, oneOfEach } from './picking.ts'
import type { TrialQuestion } from './question.ts'

/** Discs compared at most beside the one asked about. */
const MOST = 3

export const shortGameQuestion: TrialQuestion = {
  words: 'Does it stop where it should?',
  discs: 'approach discs and putters side by side',
  measure: 'distance past or short of the mark',
  called: (mold) => `${mold} from short range`,
  hyzerDegs: [5, 0],
  throwsACell: 8,
  power: 0.5,
  bothStrokes: true,
  knownBy: /\b(putt(s|ing)|approach(es)?|stops?)\b/i,
  sure: 10,
  pick: (about, others) => ({
    discs: oneOfEach(
      nearest(
        others.filter((d) => d.discClass === 'putter' || d.discClass === 'approach'),
        about,
      ),
      (d) => `${d.mold} ${d.plastic}`,
    ).slice(0, MOST),
    wants: 'another putter or approach disc',
  }),
}
