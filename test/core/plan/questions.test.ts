import { expect } from 'chai'
import { aimsFor } from '../../../core/plan/ask.ts'
import { guessAmong } from '../../../core/plan/guess.ts'
import { proposedFor } from '../../../core/plan/propose.ts'
import { QUESTION_KINDS, questionOf } from '../../../core/plan/questions.ts'
import { nearest } from '../../../core/plan/questions/picking.ts'
import type { ProposedDisc } from '../../../core/plan/questions/picking.ts'
import type { TrialQuestion } from '../../../core/plan/questions/question.ts'

const disc = (id: string, also: Partial<ProposedDisc> = {}): ProposedDisc => ({
  id,
  mold: 'Birch',
  plastic: 'soft',
  run: null,
  discClass: 'midrange',
  wear: 0,
  grams: 175,
  speed: 5,
  stability: 0,
  throws: 0,
  ...also,
})

describe('questions', () => {
  it('are each asked once, known by their own words, with angles, throws and a measure that answers them', () => {
    const all = QUESTION_KINDS.map(questionOf)
    for (const of of ['words', 'measure', 'sure'] as const)
      expect(new Set(all.map((q) => q[of])).size, of).equal(all.length)
    expect(new Set(all.map((q) => q.called('Birch', 'soft'))).size).equal(all.length)
    for (const q of all) {
      expect(q.words).match(/\?$/)
      expect(q.called('Birch', 'soft')).contain('Birch')
      expect(q.hyzerDegs.length).greaterThan(0)
      expect(q.throwsACell).greaterThan(0)
      expect(q.power).within(0.1, 1)
      expect(q.measure.length).greaterThan(5)
    }
  })

  it('of a further kind are guessed, propose their discs and say what they are to tell', () => {
    const colours: TrialQuestion = {
      words: 'Does the dye change it?',
      discs: 'a dyed copy and a plain one',
      measure: 'differences between copies',
      called: (mold) => `${mold}, dyed`,
      hyzerDegs: [0],
      throwsACell: 3,
      power: 1,
      knownBy: /\bdye(d|s)?\b/i,
      sure: 3.5,
      pick: (about, others) => ({ discs: nearest(others, about).slice(0, 1), wants: 'a plain copy' }),
      aims: (discs) => [{ of: 'label', disc: discs[0]!, figure: 'fade' }],
    }
    const kinds = [...QUESTION_KINDS, 'colours'] as const
    const of = (k: (typeof kinds)[number]) => (k === 'colours' ? colours : questionOf(k))
    const guess = (written: string) => guessAmong(kinds, of, written, [])
    expect(guess('Does the dye change it?')).equal('colours')
    expect(guess('Is a dyed one as stable?')).equal('colours')
    expect(guess('Has it worn, or is it the dye?')).equal('colours')
    expect(guess('Are dyed runs alike?')).equal('runs')
    expect(guess('')).equal(undefined)

    const about = disc('dyed')
    expect(proposedFor(colours, about, [about, disc('worn', { wear: 2 }), disc('plain')])).deep.equal({
      discs: ['dyed', 'plain'],
      control: null,
      lacks: null,
    })
    expect(proposedFor(colours, about, [about]).lacks).equal('a plain copy')

    expect(aimsFor(colours, null, ['dyed', 'plain'], 24)).deep.equal([
      { of: 'label', disc: 'dyed', figure: 'fade' },
    ])
    // of two of them it asks their order, as it says nothing else
    expect(aimsFor(colours, ['dyed', 'plain'], ['dyed', 'plain'], 24)).deep.equal([
      { of: 'order', a: 'dyed', b: 'plain' },
    ])
  })
})
