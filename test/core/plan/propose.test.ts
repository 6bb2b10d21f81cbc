import { expect } from 'chai'
import fc from 'fast-check'
import { proposeDiscs } from '../../../core/plan/propose.ts'
import type { ProposedDisc } from '../../../core/plan/questions/picking.ts'
import { QUESTION_KINDS } from '../../../core/plan/questions.ts'

const disc = (id: string, change: Partial<ProposedDisc> = {}): ProposedDisc => ({
  id,
  mold: 'Tarn',
  plastic: 'Loam',
  run: null,
  discClass: 'fairway-driver',
  wear: 0,
  grams: 175,
  speed: 9,
  stability: 1,
  throws: 0,
  ...change,
})
const about = disc('about')

describe('what a question proposes', () => {
  it('is one disc of each other plastic, the nearest in wear and weight', () => {
    const shelf = [
      about,
      disc('slate worn', { plastic: 'Slate', wear: 2 }),
      disc('slate', { plastic: 'Slate', grams: 173 }),
      disc('amber', { plastic: 'Amber' }),
      disc('loam too'),
      disc('other mold', { mold: 'Skel', plastic: 'Slate', throws: 30 }),
    ]
    const { discs, control, lacks } = proposeDiscs('plastics', about, shelf)
    expect(discs).members(['about', 'slate', 'amber', 'other mold'])
    expect(control).equal('other mold')
    expect(lacks).equal(null)
  })

  it('is every other run, wear or weight of the same plastic', () => {
    const shelf = [
      about,
      disc('run 2', { run: 'second' }),
      disc('worn', { wear: 2 }),
      disc('light', { grams: 168 }),
      disc('near', { grams: 174 }),
      disc('slate', { plastic: 'Slate', wear: 2, run: 'third', grams: 160 }),
    ]
    expect(proposeDiscs('runs', about, shelf).discs).deep.equal(['about', 'run 2'])
    expect(proposeDiscs('wear', about, shelf).discs).deep.equal(['about', 'worn'])
    expect(proposeDiscs('weight', about, shelf).discs).deep.equal(['about', 'light'])
  })

  it('is the nearest molds of the class, and for wind the one that holds its line best', () => {
    const shelf = [
      about,
      disc('far', { mold: 'Far', speed: 13 }),
      disc('skel', { mold: 'Skel', stability: 3 }),
      disc('harro', { mold: 'Harro', stability: 1.2 }),
      disc('putter', { mold: 'Orms', discClass: 'putter', speed: 3 }),
    ]
    expect(proposeDiscs('molds', about, shelf).discs).deep.equal(['about', 'harro', 'skel', 'far'])
    expect(proposeDiscs('wind', about, shelf).discs).deep.equal(['about', 'skel'])
  })

  it('says what the shelf lacks', () => {
    expect(proposeDiscs('plastics', about, [about]).lacks).equal('another plastic of Tarn')
    expect(proposeDiscs('label', about, [about]).lacks).equal(null)
  })

  it('always has the disc asked about first, each disc once, the control disc among them', () => {
    const any = fc.record({
      mold: fc.constantFrom('Tarn', 'Skel', 'Orms'),
      plastic: fc.constantFrom('Loam', 'Slate'),
      run: fc.constantFrom(null, 'first', 'second'),
      discClass: fc.constantFrom('putter', 'approach', 'fairway-driver'),
      wear: fc.nat(3),
      grams: fc.constantFrom(null, 165, 170, 175),
      speed: fc.constantFrom(3, 9, 12),
      stability: fc.double({ min: -3, max: 4, noNaN: true }),
      throws: fc.nat(40),
    })
    fc.assert(
      fc.property(
        fc.array(any, { minLength: 1, maxLength: 25 }),
        fc.constantFrom(...QUESTION_KINDS),
        (list, kind) => {
          const shelf = list.map((d, i) => ({ ...d, id: `d${i}` }))
          const { discs, control } = proposeDiscs(kind, shelf[0]!, shelf)
          expect(discs[0]).equal('d0')
          expect(new Set(discs).size).equal(discs.length)
          if (control !== null) expect(discs).include(control)
          expect(control === 'd0').equal(false)
        },
      ),
    )
  })
})
