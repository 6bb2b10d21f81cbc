import { expect } from 'chai'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { possibly, probabilityOf } from '../../../core/judge/answers/answer.ts'
import type { Asked } from '../../../core/judge/answers/answer.ts'
import type { Answered } from '../../../core/judge/answers/answerOf.ts'
import { answerOf } from '../../../core/judge/answers/answerOf.ts'
import { straightArm } from '../../../core/judge/answers/arms.ts'
import { numberDraws, traitDraws } from '../../../core/judge/answers/draws.ts'
import { sideTrait } from '../../../core/judge/answers/traits.ts'
import type { ShortPlay } from '../../../core/judge/answers/shortGame.ts'
import { plasticContrasts } from '../../../core/judge/effects.ts'
import { boundsOf, stabilityWord } from '../../../core/judge/words.ts'
import { guessKind } from '../../../core/plan/guess.ts'
import { QUESTION_KINDS, questionOf } from '../../../core/plan/questions.ts'
import { pairOf } from '../../../core/rating/outcome.ts'
import { NOTHING_OF_SHORT } from '../../../core/throw/short.ts'
import { deviation, mean } from 'd3'
import { askedOf, told, TRIALS } from '../../simulate/answers.ts'
import { seedOf, simulateSession } from '../../simulate/session.ts'
import { toldOfWorld, WORLDS } from '../../simulate/themselves.ts'
import type { SessionDesign } from '../../simulate/session.ts'

const asked = (design: SessionDesign, also: Partial<Asked> = {}) => ({
  ...askedOf(simulateSession(design).evidence),
  ...also,
})

describe('answers, of made-up trials whose truth is known', () => {
  for (const question of Object.keys(TRIALS) as (keyof typeof TRIALS)[])
    it(`to “${question}” are false no more often than they say`, () => {
      // what the wind does is seldom settled
      const { settled, wrong, due } = told(question, question === 'wind' ? 36 : 20, 50)
      expect(settled, 'settled').greaterThan(3)
      // of so few a handful more than is due may be wrong: three standard deviations
      expect(wrong).most(due + 3 * Math.sqrt(due + 0.5))
    })
})

describe('the sentences that may be an answer', () => {
  for (const question of Object.keys(TRIALS) as (keyof typeof TRIALS)[])
    it(`to “${question}” begin with what is said or leaned to, and are the same with a throw and without it`, () => {
      let answered = 0
      // few throws settle little, many settle much
      for (const throws of [6, TRIALS[question].throws!])
        for (const seed of [0.21, 0.45, 0.63]) {
          const { evidence } = simulateSession({ ...TRIALS[question], throws, seed })
          const answer = answerOf(question, askedOf(evidence))
          const [first] = answer.possible
          // weights that came out alike cannot be compared
          if (answer.probability === undefined) {
            expect(answer.possible).deep.equal([])
            continue
          }
          answered++
          expect(first!.probability, first!.says).closeTo(answer.probability, 1e-9)
          const said = answer.possible.map((s) => s.says)
          expect(new Set(said).size, 'said once').equal(said.length)
          for (const s of answer.possible) expect(s.probability, s.says).within(0, 1)
          // figures move with every throw; the sentence does not
          expect(first!.says).not.match(/\d\.\d m /)
          const gone = evidence.throws[0]!.id
          const other = answerOf(
            question,
            askedOf({ ...evidence, throws: evidence.throws.filter((t) => t.id !== gone) }),
          )
          const then = probabilityOf(other, first!.says)
          expect(then, first!.says).within(0, 1)
          if (other.possible[0]!.says === first!.says) expect(then).closeTo(other.probability!, 1e-9)
          // what holds of one sentence and of its opposite is all there is
          if (question === 'weight' || question === 'wear') {
            const [a, b] = said.filter((t) => /more stable|less stable/.test(t))
            expect(probabilityOf(answer, a!)! + probabilityOf(answer, b!)!).closeTo(1, 1e-9)
          }
        }
      expect(answered).greaterThan(1)
    })

  it('are none where nothing can be said, and refuse one that is not among them', () => {
    const nothing = answerOf('ground', { ...asked({ seed: 0.3, throws: 6 }), short: [] })
    expect(nothing.possible).deep.equal([])
    expect(probabilityOf(nothing, 'Ash skips farther than Elm')).equal(undefined)
    expect(() => possibly('it rains', [{ says: 'it snows', probability: 1 }])).throw(RangeError, 'it rains')
  })
})

describe('draws of numbers', () => {
  it('scatter as the fit believes, and are the same each time', () => {
    const { state, outcome } = asked({ seed: 0.3, throws: 36, called: true })
    const ids = outcome.discs.map((d) => d.disc)
    const draws = numberDraws(state, ids)
    outcome.discs.forEach((d, i) => {
      const turns = draws.map((v) => v[3 * i + 1]!)
      expect(mean(turns)).closeTo(d.observed.turn, 0.05)
      expect(deviation(turns)! / d.sd.turn).within(0.94, 1.06)
    })
    const sides = traitDraws(state, ids, draws, sideTrait)
    const pair = pairOf(outcome, ids[0]!, ids[1]!)
    expect(deviation(sides.map((s) => s[0]! - s[1]!))! / pair.difference.sd).within(0.94, 1.06)
    expect(numberDraws(state, ids)[7]).deep.equal(draws[7])
  })
})

describe('an answer', () => {
  it('says whether a disc is true to its numbers, figure by figure, in the state its label describes', () => {
    const kin = [{ mold: 'Ash', plastic: 'soft', wear: 1 }]
    const q = asked({ seed: 0.8, kin, throws: 24, called: true })
    const fresh = answerOf('numbers', q)
    expect(fresh.picture.kind).equal('claims')
    if (fresh.picture.kind !== 'claims') return
    expect(fresh.picture.rows.map((r) => r.figure)).deep.equal(['stability', 'glide', 'turn', 'fade'])
    for (const r of fresh.picture.rows) expect(r.below + r.within + r.above).closeTo(1, 1e-6)
    const seasoned = answerOf('numbers', { ...q, convention: 'seasoned' })
    if (seasoned.picture.kind !== 'claims') return
    // a beaten disc is read as it would be, and every sentence that names it so says that
    expect(fresh.picture.rows.every((r) => r.readAs === 'fresh')).equal(true)
    expect(fresh.sentence).contain('Disc 0 (as it would be fresh)')
    expect(seasoned.picture.rows.every((r) => r.readAs === 'seasoned')).equal(true)
    const unworn = answerOf('numbers', asked({ seed: 0.8, discs: 1, throws: 24, called: true }))
    expect(unworn.sentence).not.contain('as it would be')
    // wear takes stability: of a beaten disc the one it was fresh was more stable than the one it was seasoned
    const of = (a: typeof fresh) =>
      a.picture.kind === 'claims' ? a.picture.rows.find((r) => r.figure === 'stability')!.seen.value : NaN
    expect(of(fresh)).greaterThan(of(seasoned))
    expect(fresh.besides.join())
      .contain('read as of a fresh disc')
      .match(/Read as of a seasoned disc: Disc 0 true in every number \d+ %/)
  })

  it('tells plastics apart, says what single discs cannot prove, and names what is open', () => {
    const kin = ['soft', 'firm', 'hard'].map((plastic) => ({ mold: 'Ash', plastic }))
    const q = asked({ seed: 0.3, kin, throws: 48, called: true })
    const answer = answerOf('plastics', q)
    expect(answer.settled).equal(true)
    expect(answer.probability).least(0.9)
    expect(answer.sentence).match(
      /^\w+ flies more stable than \w+: it finishes [\d.]+ m .*of the plastics themselves, by one disc each, \d+ %$/,
    )
    const { picture } = answer
    if (picture.kind !== 'differences') throw new Error(picture.kind)
    expect(picture.rows[0]!.side).deep.equal({ value: 0, sd: 0 })
    for (const r of picture.rows.slice(1)) {
      const pair = pairOf(q.outcome, r.discs[0]!, 'disc-0')
      const sign = pair.a === 'disc-0' ? -1 : 1
      // as the ladder has it, to the last digit
      expect(r.side.value).closeTo(sign * pair.difference.value, 1e-9)
      expect(r.side.sd).closeTo(pair.difference.sd, 1e-9)
      expect(r.finish.value).closeTo(sign * pair.finish.value, 1e-9)
      expect(r.finish.sd).closeTo(pair.finish.sd, 1e-9)
    }
    // of plastics nobody can be surer than of the discs, and of the next disc no surer than of the plastic
    const share = Number(/(\d+) %$/.exec(answer.sentence)![1]) / 100
    expect(share).most(answer.probability!)
    const [, itself, next] = /with (\d+) %, by one disc each; the next .* with (\d+) %$/.exec(
      answer.besides[0]!,
    )!
    expect(Number(itself) / 100).equal(share)
    const table = plasticContrasts(q.state).map((c) =>
      Math.round(100 * Math.max(c.pAMoreStable, 1 - c.pAMoreStable)),
    )
    expect(table).include(Number(itself))
    expect(Number(next)).most(Number(itself))
  })

  it('speak of the plastics themselves by several copies too, and hardly ever where plastics change nothing', () => {
    const world = (name: string) => WORLDS.find((w) => w.name === name)!
    for (const name of [
      'plastics that change nothing, one disc each',
      'plastics that change nothing, three discs each',
    ])
      expect(toldOfWorld(world(name), 12, 9000).themselves.said, name).most(2)
    const some = toldOfWorld(world('plastics, three discs each'), 40, 9500).themselves
    expect(some.said).greaterThan(0)
    expect(some.wrong).most(2)
    const kin = ['soft', 'soft', 'hard', 'hard'].map((plastic) => ({ mold: 'Ash', plastic }))
    const { sentence, besides } = answerOf('plastics', asked({ seed: 0.3, kin, throws: 48, called: true }))
    expect(`${sentence} ${besides.join(' ')}`).match(/2 discs each/)
  })

  it('puts molds in order, of all of them or of the pair it is about', () => {
    const q = asked({ seed: 0.42, discs: 4, throws: 48, called: true })
    const all = answerOf('molds', q)
    if (all.picture.kind !== 'ladder') throw new Error(all.picture.kind)
    const sides = all.picture.order.map((d) => q.outcome.discs.find((o) => o.disc === d)!.side.value)
    expect(sides).deep.equal([...sides].sort((a, b) => b - a))
    expect(all.besides.join()).match(/(What tells|No single throw tells)/)
    const two = answerOf('molds', { ...q, pair: ['disc-1', 'disc-3'] })
    if (two.picture.kind !== 'ladder') throw new Error(two.picture.kind)
    expect([...two.picture.order].sort()).deep.equal(['disc-1', 'disc-3'])
    expect(two.sentence).contain('Disc 1').contain('Disc 3')
  })

  it('says of molds which is the most stable, as it is asked, where only the least is sure', () => {
    const sentences = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8].flatMap((seed) => {
      const q = asked({ seed, discs: 3, throws: 12, called: true })
      const { claim, sentence } = answerOf('molds', q)
      return claim?.says === 'least stable' ? [sentence] : []
    })
    expect(sentences.length).greaterThan(0)
    for (const sentence of sentences)
      expect(sentence).match(/^Disc \d or Disc \d is the most stable; Disc \d is the least$/)
  })

  it('finds the arm at which a disc flies straight, and tells what it is to others', () => {
    const numbers = { speed: 9, glide: 5, turn: -2, fade: 1 }
    const straight = straightArm(numbers, STANDARD_BODY)!
    expect(straight).within(18, 31)
    expect(straightArm({ ...numbers, turn: 1, fade: 4 }, STANDARD_BODY)).equal(undefined)
    const q = asked(
      { seed: 0.2, discs: 1, throws: 24, called: true },
      { arms: [{ name: 'Wren', armMps: 20.4 }] },
    )
    const { picture, besides, figures } = answerOf('arms', q)
    if (picture.kind !== 'arms') throw new Error(picture.kind)
    expect(picture.rows.map((r) => r.armMps)).deep.equal([18, 20, 20.4, 22, 24, 26, 28, 31])
    const carries = picture.rows.map((r) => r.carry.value)
    expect(carries).deep.equal([...carries].sort((a, b) => a - b))
    expect(besides[0]).match(/^To arms of .* Disc 0 is itself, to within half a number/)
    expect(besides[1]).match(/^For Wren Disc 0 carries/)
    expect(figures['carry at 20.4 m/s']!.value).closeTo(picture.rows[2]!.carry.value, 1e-9)
  })

  it('says what the wind does, disc by disc, and whose line it moves least', () => {
    const q = asked({ seed: 0.6, discs: 3, throws: 72, called: true })
    const { picture, probability } = answerOf('wind', q)
    if (picture.kind !== 'wind') throw new Error(picture.kind)
    const best = Math.max(...picture.rows.map((r) => r.pHoldsBest))
    expect(probability).equal(best)
    for (const r of picture.rows) {
      const along = r.points.filter((p) => p.toFadeMps === 0)
      // a wind from behind carries farther, one in the face less far
      expect(along.at(-1)!.carry.value).greaterThan(along[0]!.carry.value)
    }
  })

  it('is the less sure of the wind the further off the model itself may be', () => {
    const q = asked({ seed: 0.6, discs: 3, throws: 72, called: true })
    const at = (discrepancy: number) => {
      const { picture } = answerOf('wind', { ...q, state: { ...q.state, discrepancy } })
      if (picture.kind !== 'wind') throw new Error(picture.kind)
      return picture.rows
    }
    const [right, wrong] = [at(0), at(0.4)]
    right.forEach((row, i) => {
      const points = (rows: typeof right) => rows[i]!.points.filter((p) => p.toFadeMps === 0)
      expect(wrong[i]!.turnPerMps.sd).greaterThan(1.5 * row.turnPerMps.sd)
      // the farther the wind from none, the more of it
      const more = points(wrong).map((p, k) => p.finish.sd - points(right)[k]!.finish.sd)
      expect(more[0]).greaterThan(more[3]!)
      expect(more.at(-1)).greaterThan(more[5]!)
    })
    expect(Math.max(...wrong.map((r) => r.pHoldsBest))).lessThan(Math.max(...right.map((r) => r.pHoldsBest)))
  })

  it('parts what mass explains from what is left over', () => {
    const kin = ['a', 'b'].map(() => ({ mold: 'Ash', plastic: 'hard' }))
    const q = asked({ seed: 0.31, kin, throws: 48, called: true })
    const { picture, figures } = answerOf('weight', q)
    if (picture.kind !== 'weight') throw new Error(picture.kind)
    expect(picture.rows[1]!.armMps).closeTo(0.8 * picture.rows[0]!.armMps, 1e-9)
    expect(figures['mass alone, finish']!.value).equal(picture.rows[0]!.massM)
    const same = q.state.evidence.discs.map((d) => ({ ...d, body: STANDARD_BODY }))
    const alike = { ...q, state: { ...q.state, evidence: { ...q.state.evidence, discs: same } } }
    expect(answerOf('weight', alike).sentence).equal(
      'No two copies of one plastic differ in weight: what the weight changes cannot be seen',
    )
  })

  it('says what wear does a hundred throws where the shelf counts them, and when a copy leaves its word', () => {
    const kin = [0, 1 / 3, 1].map((wear) => ({ mold: 'Ash', plastic: 'soft', wear }))
    const q = asked({ seed: 0.62, kin, throws: 48, called: true })
    const through = new Map([
      ['disc-0', 0],
      ['disc-1', 140],
      ['disc-2', 400],
    ])
    const { figures, besides, picture } = answerOf('wear', { ...q, through })
    const [all, hundred] = [figures['stability']!, figures['stability per hundred throws']!]
    expect(hundred.value).closeTo(all.value / 4, 1e-9)
    expect(hundred.high! - hundred.low!).closeTo((all.high! - all.low!) / 4, 1e-9)
    expect(besides[0]).match(
      /^A hundred throws change it by .*: Disc 0 had been through 0, Disc 2 through 400$/,
    )
    if (picture.kind !== 'wear') throw new Error(picture.kind)
    expect(picture.points.map((p) => p.through)).deep.equal([0, 140, 400])
    const newest = picture.points[0]!.stability.value
    const leaves = besides.find((b) => b.startsWith('At that pace'))
    if (stabilityWord(newest) === stabilityWord(newest + all.value)) expect(leaves).equal(undefined)
    else {
      const after = Number(leaves!.match(/(\d+) throws$/)![1])
      const there = newest + (hundred.value * after) / 100
      const { low, high } = boundsOf(stabilityWord(newest))
      expect(Math.min(Math.abs(there - low), Math.abs(there - high))).most(Math.abs(hundred.value) / 10)
    }
    // nearer to each other than fifty throws, and where nothing is counted, nothing is said of a hundred
    for (const few of [undefined, new Map([...through].map(([d, n]) => [d, n / 10]))]) {
      const said = answerOf('wear', { ...q, through: few })
      expect(said.figures).not.have.property('stability per hundred throws')
      expect(said.open[0]).contain('once the shelf counts')
    }
  })

  it('say that wear takes stability where throws say it, not for its being believed', () => {
    const kin = [0, 1 / 3, 2 / 3, 1].map((wear) => ({ mold: 'Ash', plastic: 'soft', wear }))
    const settled = (design: Partial<SessionDesign>) =>
      Array.from({ length: 40 }, (_, k) =>
        answerOf(
          'wear',
          asked({ kin, discs: 4, throws: 24, called: true, gusts: 0.6, ...design, seed: seedOf(3000 + k) }),
        ),
      ).filter((a) => a.settled).length
    const [worn, wearless] = [settled({}), settled({ wearless: true })]
    // of forty, four would be due; believing alone claimed eight
    expect(wearless).most(5)
    expect(worn).greaterThan(wearless + 2)
    // of few throws hardly anything is said, where belief alone was 85 % sure
    expect(settled({ throws: 4, called: false })).most(2)
  })

  const play = (disc: string, groundM: number): ShortPlay => ({
    ...NOTHING_OF_SHORT,
    disc,
    game: 'ground',
    groundM,
  })
  it('of the short game compares what was logged, and says what it is worth', () => {
    const q = asked({ seed: 0.5, discs: 2, throws: 4, called: true })
    const short = [6, 6.5, 7, 6.2]
      .map((m) => play('disc-0', m))
      .concat([1, 0.5, 1.4, 0.8].map((m) => play('disc-1', m)))
    const answer = answerOf('ground', { ...q, short })
    expect(answer.settled).equal(true)
    expect(answer.sentence).match(/^Disc 0 skips 5\.5 m \(.*\) farther than Disc 1$/)
    expect(answer.claim).deep.equal({ says: 'more', of: 'ground', disc: 'disc-0', than: 'disc-1' })
    expect(answer.besides[0]).equal('Land Disc 0 5.5 m shorter for the same end.')
    expect(answerOf('approach', { ...q, short }).sentence).contain('No approach')
  })

  it('claims nothing where nothing can be said', () => {
    const q = asked({ seed: 0.5, discs: 2, throws: 8, called: true })
    const says = (question: Answered, over: Partial<typeof q> = {}) => answerOf(question, { ...q, ...over })
    expect(says('plastics', { discs: ['disc-0'] })).deep.include({
      settled: false,
      claim: undefined,
      probability: undefined,
    })
    expect(says('molds', { discs: ['disc-0'] }).sentence).contain('Two discs at least')
    expect(says('wear').sentence).equal(
      'No two copies of one plastic are in different states: what wear has changed cannot be seen',
    )
    const unthrown = { ...q.state, evidence: { ...q.state.evidence, throws: [] } }
    for (const question of ['numbers', 'plastics', 'molds', 'arms', 'wind'] as const)
      expect(says(question, { state: unthrown }).sentence).contain('No throw of these discs counts yet')
  })
})

describe('what a trial asks', () => {
  const disc = { mold: 'Ash', plastic: 'soft' }
  it('is guessed from its words, else from what its discs differ in', () => {
    const two = [disc, { ...disc, plastic: 'hard' }]
    expect(guessKind('Does it fly to its numbers in both plastics?', two)).equal('label')
    expect(guessKind('What does the plastic change, and what has wear done?', two)).equal('plastics')
    expect(guessKind('What will it do for a slower arm?', two)).equal('arms')
    expect(guessKind('Which holds in the wind?', two)).equal('wind')
    for (const kind of QUESTION_KINDS) expect(guessKind(questionOf(kind).words, two), kind).equal(kind)
    expect(guessKind('Does it stop?', two)).equal('short-game')
    expect(guessKind('', two)).equal('plastics')
    expect(guessKind('', [disc])).equal('label')
    expect(guessKind('', [disc, { ...disc, mold: 'Birch' }])).equal('molds')
    expect(
      guessKind('', [
        { ...disc, run: '1' },
        { ...disc, run: '2' },
      ]),
    ).equal('runs')
    expect(
      guessKind('', [
        { ...disc, wear: 'new' },
        { ...disc, wear: 'worn' },
      ]),
    ).equal('wear')
  })
})
