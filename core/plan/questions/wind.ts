import { DISC_CLASS_WORDS } from '../../shelf/kinds.ts'
import { pairsOf } from '../aims.ts'
import type { Aim, PairOfDiscs } from '../aims.ts'
import { byFigures } from './picking.ts'
import type { TrialQuestion } from './question.ts'

const holds = ([a, b]: PairOfDiscs, armMps: number): Aim => ({ of: 'holds', a, b, armMps })

export const windQuestion: TrialQuestion = {
  words: 'How does it take the wind?',
  discs: 'the disc and one that holds its line',
  measure: 'finish into the wind against finish with it',
  called: (mold) => `${mold} in the wind`,
  hyzerDegs: [8, 0],
  throwsACell: 8,
  power: 1,
  wantsWind: true,
  knownBy: /\b(head|tail)?winds?\b/i,
  sure: 7,
  pick: (about, others) => ({
    discs: others
      .filter((d) => d.discClass === about.discClass && d.stability > about.stability)
      .sort(byFigures((d) => -d.stability))
      .slice(0, 1),
    wants: `a ${DISC_CLASS_WORDS[about.discClass]} that holds its line better`,
  }),
  aims: (discs, armMps) =>
    discs.length === 1
      ? [{ of: 'wind', disc: discs[0]!, armMps }]
      : pairsOf(discs).map((pair) => holds(pair, armMps)),
  aimsOfTwo: (pair, armMps) => [holds(pair, armMps)],
  tells: 'what the wind does',
}
