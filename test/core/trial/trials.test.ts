import { expect } from 'chai'
import { readThrowsCsv } from '../../../core/formats/throwsCsv.ts'
import { answerOf } from '../../../core/judge/answers/answerOf.ts'
import { cardOf } from '../../../core/judge/card.ts'
import type { Candidate } from '../../../core/plan/information.ts'
import type { TellingPlan } from '../../../core/plan/telling.ts'
import { armSpeed } from '../../../core/judge/flewLike.ts'
import { fit } from '../../../core/rating/fit.ts'
import { armId, evidenceOf, ratedDisc } from '../../../core/rating/fromSheet.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import { Trials } from '../../../core/trial/trials.ts'
import type { AskedAbout, Thrown } from '../../../core/trial/trials.ts'
import { sheetOfSession } from '../../simulate/sheet.ts'

const NOTHING: Thrown = { sheet: [], discs: [] }

function thrown(seed: number, throws = 24, discs = 3): Thrown {
  const read = readThrowsCsv(sheetOfSession({ seed, discs, throws, called: true }))
  if (!read.ok) throw new Error(JSON.stringify(read))
  const sheet = read.throws.map((t) => ({ ...t, throw: `${seed} ${t.throw}` }))
  return { sheet, discs: [...new Map(sheet.map((t) => [t.disc, ratedDisc(t)])).values()] }
}

/** Time that goes on by so much with every look at it, ms; whoever breathes lets others in. */
function trials(step = 0): Trials {
  let now = 0
  return new Trials({ now: () => (now += step), breathe: () => new Promise((r) => setTimeout(r, 0)) })
}

const about = ({ sheet, discs }: Thrown): AskedAbout => ({
  discs: discs.map((d) => d.id),
  convention: 'fresh',
  pair: null,
  words: { name: (code) => code },
  short: [],
  through: new Map(),
  thrown: new Map([[armId(sheet[0]!), 'Isolde']]),
})

describe('the engine of trials', () => {
  it('says what a fit of the same throws says: one thing has one number', async () => {
    const of = thrown(0.31)
    const engine = trials()
    const reading = (await engine.weigh('one', of, NOTHING))!
    const state = fit(evidenceOf(of.sheet, of.discs))
    const outcome = outcomeOf(state)
    expect(reading.outcome.pairs).deep.equal(outcome.pairs)
    expect(reading.firstFrom).equal(undefined)
    expect(reading.asThrown).to.have.length(of.sheet.length)
    expect(engine.paths('one')).deep.equal(reading.asThrown)
    const arms = [{ name: 'Isolde', armMps: armSpeed(state, armId(of.sheet[0]!))! }]
    for (const question of ['numbers', 'molds', 'arms'] as const)
      expect(engine.answered('one', question, about(of)), question).deep.equal(
        answerOf(question, { ...about(of), state, outcome, arms }),
      )
    // a card of the same trial draws its flights from the same numbers
    const card = cardOf(state, (code) => code)
    expect(card.flights.map((f) => [f.disc, f.features.carryM])).have.deep.members(
      reading.corrected.map((f) => [f.disc, f.features.carryM]),
    )
  })

  it('reads a trial with what was thrown elsewhere, and speaks of its own discs and throws alone', async () => {
    const [own, other] = [thrown(0.31, 12, 2), thrown(0.62, 24, 3)]
    const engine = trials()
    const alone = (await engine.weigh('one', own, NOTHING))!
    const together = (await engine.weigh('all', own, other))!
    expect(together.outcome.discs.map((d) => d.disc)).have.members(own.discs.map((d) => d.id))
    expect(together.asThrown.map((t) => t.throw)).have.members(own.sheet.map((t) => t.throw))
    const sdOf = (r: Reading) => r.outcome.discs[0]!.stability.sd
    expect(sdOf(together)).lessThan(sdOf(alone))
    expect(engine.behind('all', [own.discs[0]!.id]).length).greaterThan(0)
  })

  it('tells an answer to somebody who threw none of it: their arm is flown, to the side they see', async () => {
    const of = thrown(0.31)
    const engine = trials()
    await engine.weigh('one', of, NOTHING)
    const told = (fadeSide: 'left' | 'right', armMps?: number) => {
      const listener = { name: 'you', fadeSide, ...(armMps !== undefined && { armMps }) }
      const { picture, besides } = engine.answered('one', 'arms', { ...about(of), listener })!
      if (picture.kind !== 'arms') throw new Error(picture.kind)
      return { rows: picture.rows, besides: besides.join('. ') }
    }
    const [left, right] = [told('left', 20.5), told('right', 20.5)]
    expect(left.rows.filter((r) => r.arm === 'you').map((r) => r.armMps)).deep.equal([20.5])
    // the same flight, mirrored in its words
    expect(left.rows).deep.equal(right.rows)
    const aside = (words: string) => words.match(/For you .*? finishes .*?(left|right)/)?.[1]
    expect([aside(left.besides), aside(right.besides)].sort()).deep.equal(['left', 'right'])
    // of whom only the hand is known no arm is flown
    expect(told('right').rows.some((r) => r.arm === 'you')).equal(false)
  })

  it('ends a fit that another of the same trial took the place of, and no other', async () => {
    const engine = trials(1000)
    const shares: number[] = []
    const [first, second, elsewhere] = await Promise.all([
      engine.weigh('one', thrown(0.31), NOTHING, (s) => shares.push(s)),
      engine.weigh('one', thrown(0.62), NOTHING),
      engine.weigh('two', thrown(0.31), NOTHING),
    ])
    expect(first).equal(undefined)
    expect(second!.outcome.discs).to.have.length(3)
    expect(elsewhere!.serial).not.equal(second!.serial)
    expect(shares[0]).within(0, 1)
  })

  it('shows a first reading of very many throws, and answers from all of them', async () => {
    const of = thrown(0.31, 620, 4)
    const engine = trials()
    const firsts: Reading[] = []
    const reading = (await engine.weigh('one', of, NOTHING, undefined, (r) => firsts.push(r)))!
    expect(firsts.map((f) => f.firstFrom)).deep.equal([90])
    expect(reading.firstFrom).equal(undefined)
    // the next first reading begins where this answer ended, with all that is there
    await engine.weigh('one', of, NOTHING, undefined, (r) => firsts.push(r))
    expect(firsts[1]!.firstFrom).equal(of.sheet.length)
    expect(firsts[1]!.outcome.pairs[0]!.pAMoreStable).closeTo(reading.outcome.pairs[0]!.pAMoreStable, 0.005)
  })

  it('answers as if a throw had not been made', async () => {
    const of = thrown(0.31)
    const engine = trials()
    await engine.weigh('one', of, NOTHING)
    const [gone, ...rest] = of.sheet
    const without = engine.answeredWithout('one', gone!.throw, 'molds', about(of))!
    await engine.weigh('rest', { ...of, sheet: rest }, NOTHING)
    const never = engine.answered('rest', 'molds', about(of))!
    expect(without.throws).equal(never.throws)
    expect(without.probability).closeTo(never.probability!, 1e-9)
  })

  it('weighs a plan against an even one, and the throws that would tell most', () => {
    const of = thrown(0.31, 12)
    const arm = { id: armId(of.sheet[0]!), fullSpeedMps: 25 }
    const candidates: Candidate[] = of.discs.flatMap((d) =>
      [10, 0, -8].map((deg) => ({
        disc: d.id,
        arm: arm.id,
        power: 1,
        hyzerRad: deg * DEGREE,
        air: STILL_AIR,
        angleCalled: true,
      })),
    )
    const question = { planned: candidates.slice(0, 3), even: candidates, candidates, arms: [arm] }
    const { planned, even, settles, telling } = trials().planned(of, question, 9, 'same-release', {
      kind: 'molds',
      pair: ['Disc 0', 'Disc 1'],
    })
    // the pair is asked about; what every pair comes to is told beside it
    expect(planned.aims.map((a) => a.aim)).deep.equal([{ of: 'order', a: 'Disc 0', b: 'Disc 1' }])
    expect(settles.aims).to.have.length(3)
    expect(telling.throws).to.have.length(9)
    for (const t of telling.throws) expect(candidates).include(t)
    const left = (p: TellingPlan) => p.wrongAfter
    expect(left(even)).lessThan(left(planned))
    // of as many throws none tell more than those that tell most
    expect(left(telling)).lessThan(left(even))
  })

  it('has no answer about a trial that was never rated', () => {
    const engine = trials()
    expect(engine.answered('none', 'molds', about(thrown(0.31)))).equal(undefined)
    expect(engine.settle('none', { kind: 'molds', pair: null })).deep.equal({
      settlings: [],
      limit: undefined,
    })
    for (const list of [
      engine.corrected('none', {} as never),
      engine.paths('none'),
      engine.slips('none', []),
      engine.turnedWinds('none'),
      engine.behind('none', []),
    ])
      expect(list).deep.equal([])
    expect(engine.why('none', 'x')).equal(undefined)
    expect(engine.spreads('none', ['a', 'b'], 'x')).deep.equal([undefined, undefined])
  })
})
