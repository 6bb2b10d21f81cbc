import { answerOf } from '../../../core/judge/answers/answerOf.ts'
import type { DiscFacts, TrialFacts } from '../../../core/review/sections.ts'
import { askedOf } from '../../simulate/answers.ts'
import { simulateSession } from '../../simulate/session.ts'

const asked = askedOf(simulateSession({ seed: 0.4, discs: 2, throws: 36, called: true }).evidence)
export const disc = (i: number, over: Partial<DiscFacts> = {}): DiscFacts => ({
  code: `disc-${i}`,
  name: `Disc ${i}`,
  lineage: `Flint, ${i === 0 ? 'Resin' : 'Chalk'}`,
  maker: 'Undermoor Discs',
  wear: 'new',
  grams: 173 + i,
  source: 'bought',
  provenance: '',
  control: false,
  inHand: [],
  ...over,
})
/** What a review knows of a made-up trial of two discs. */
export const facts: TrialFacts = {
  trial: 'trial-0',
  name: 'Two Flints',
  question: 'Which of these molds is more stable?',
  discs: [disc(0), disc(1, { source: 'sent-by-the-maker', provenance: 'with a letter' })],
  answer: answerOf('molds', asked),
  numbers: answerOf('numbers', asked),
  arms: answerOf('arms', asked),
  wind: answerOf('wind', asked),
  weight: answerOf('weight', asked),
  molds: { ...answerOf('molds', asked), sentence: 'Disc 0 is more stable than Disc 1' },
  conditions: ['Isolde', '14 Nov 2026', 'Millpond meadow'],
  angles: 'hyzer, flat and anhyzer',
  counted: 36,
  simulated: undefined,
  leftOut: [
    { why: 'hit a branch', count: 2 },
    { why: 'gust', count: 1 },
  ],
  expected: ['Resin was expected to be the more stable: held, 97 %'],
  lines: ['Disc 0 finishes on the line at 4° hyzer (±2°), thrown by Isolde in still air'],
  cautions: ['Throws went toward trees; stiff discs come back.'],
}
