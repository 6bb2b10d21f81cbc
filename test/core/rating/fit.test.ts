import { DISC_PRIOR_SD } from '../../../core/rating/evidence.ts'
import { labelScale, sideSlopesOf } from '../../../core/flight/side.ts'
import { POINT } from '../../../core/rating/places.ts'
import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease, referenceSpeed } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { fit, FitCancelled, fitting } from '../../../core/rating/fit.ts'
import type { Evidence, RatedDisc, ThrowEvidence } from '../../../core/rating/evidence.ts'
import { flyPoint, linearise, SEEN } from '../../../core/rating/linear.ts'
import { outcomeOf, rankDistribution } from '../../../core/rating/outcome.ts'
import { fadeSign, mirrored } from '../../../core/flight/hand.ts'
import type { Hand } from '../../../core/flight/hand.ts'
import { evidenceOf } from '../../../core/rating/fromSheet.ts'
import { NOTHING_OBSERVED, present } from '../../../core/throw/observed.ts'
import type { SheetThrow } from '../../../core/throw/sheetThrow.ts'
import { simulateSession } from '../../simulate/session.ts'

const published = { speed: 9, glide: 5, turn: -1, fade: 2 }
const disc = (id: string, numbers = published): RatedDisc => ({ id, published: numbers, body: STANDARD_BODY })
const arm = { id: 'arm', fullSpeedMps: referenceSpeed(9) }

/** A throw that lands exactly where a disc of these numbers would, thrown exactly as meant. */
function exactThrow(id: string, discId: string, numbers = published, hyzerRad = 0): ThrowEvidence {
  const { carryM, veerM } = landing(
    numbers,
    STANDARD_BODY,
    cleanRelease(referenceSpeed(9), hyzerRad),
    STILL_AIR,
  )
  return { id, disc: discId, arm: 'arm', power: 1, hyzerRad, air: STILL_AIR, carryM, veerM, counts: true }
}

/** A throw as a backhand of some hand is written down: sides to the thrower’s right, degrees. */
function lineOf(t: ThrowEvidence, hand: Hand): SheetThrow {
  const sign = fadeSign(hand, 'backhand')
  return present({
    ...NOTHING_OBSERVED,
    throw: t.id,
    thrower: 'Odile',
    hand,
    stroke: 'backhand' as const,
    disc: t.disc,
    ...published,
    fullSpeedMps: 26,
    power: t.power,
    hyzerDeg: t.hyzerRad / DEGREE,
    hyzerCalledDeg: t.hyzerCalledRad === undefined ? null : t.hyzerCalledRad / DEGREE,
    windAlongMps: t.air.windAlongMps,
    windAcrossMps: mirrored(t.air.windTowardFadeMps, sign),
    carryM: t.carryM,
    rightM: mirrored(t.veerM, sign),
    counts: t.counts,
  })
}

const evidence = (discs: RatedDisc[], throws: ThrowEvidence[]): Evidence => ({ discs, arms: [arm], throws })

describe('fit', () => {
  it('returns the published numbers and the prior when nothing has been thrown', () => {
    const outcome = outcomeOf(fit(evidence([disc('a'), disc('b')], [])))
    expect(outcome.converged).equal(true)
    expect(outcome.discs[0]!.observed).deep.equal(published)
    expect(outcome.discs[0]!.sd.turn).closeTo(0.8, 1e-9)
    // how far where it flies may lie from its label, by what is believed of its numbers
    const { sideBy } = sideSlopesOf(published)
    const sd = Math.hypot(...sideBy.map((by, k) => by * DISC_PRIOR_SD[k]!))
    expect(outcome.discs[0]!.side.sd).closeTo(sd, 1e-9)
    expect(outcome.discs[0]!.stability.sd).closeTo(sd / labelScale(published).perNumber, 1e-9)
    expect(outcome.discs[0]!.stability.value).closeTo(published.turn + published.fade, 1e-9)
    expect(outcome.pairs[0]!.pAMoreStable).equal(0.5)
  })

  it('stays at the label when throws land just as the label says', () => {
    const throws = [10, 0, -8].flatMap((deg, i) =>
      [0, 1, 2, 3].map((k) => exactThrow(`${i}-${k}`, 'a', published, deg * DEGREE)),
    )
    const [a] = outcomeOf(fit(evidence([disc('a')], throws))).discs
    // flights scatter less where they bend less, which throws without any scatter speak for a little
    for (const key of ['glide', 'turn', 'fade'] as const)
      expect(Math.abs(a!.observed[key] - published[key]) / a!.sd[key]).lessThan(0.5)
    expect(a!.sd.turn).lessThan(0.8)
  })

  it('moves toward the truth, and further with more throws', () => {
    const truth = { ...published, turn: -2.5 }
    const gap = (n: number) => {
      const throws = Array.from({ length: n }, (_, k) =>
        exactThrow(`${k}`, k % 2 ? 'a' : 'known', k % 2 ? truth : published, [10, 0, -8][k % 3]! * DEGREE),
      )
      const [a] = outcomeOf(fit(evidence([disc('a'), { ...disc('known'), control: true }], throws))).discs
      return { gap: Math.abs(a!.observed.turn - truth.turn), sd: a!.sd.turn }
    }
    const [few, many] = [gap(6), gap(60)]
    expect(many.gap).lessThan(few.gap)
    expect(many.gap).lessThan(0.4)
    expect(many.sd).lessThan(few.sd)
  })

  it('leaves throws that do not count out of the numbers but still forecasts them', () => {
    const base = [0, 1, 2, 3].map((k) => exactThrow(`${k}`, 'a'))
    const branch = { ...exactThrow('branch', 'a'), carryM: 30, veerM: -15, counts: false }
    const without = outcomeOf(fit(evidence([disc('a')], base)))
    const withIt = outcomeOf(fit(evidence([disc('a')], [...base, branch])))
    expect(withIt.discs[0]!.observed.turn).closeTo(without.discs[0]!.observed.turn, 1e-9)
    expect(withIt.discs[0]!.leftOut).equal(1)
    const told = withIt.throws.find((t) => t.throw === 'branch')!
    expect(told.weight).equal(0)
    expect(told.expected.carryM).closeTo(base[0]!.carryM, 3)
    expect(told.residual.carryM).lessThan(-50)
  })

  it('gives a bad throw nobody flagged little weight', () => {
    const { evidence: e } = simulateSession({ seed: 0.125 })
    const spoiled = e.throws.map((t, i) => (i === 7 ? { ...t, carryM: 35, veerM: 20 } : t))
    const outcome = outcomeOf(fit({ ...e, throws: spoiled }))
    const weights = outcome.throws.map((t) => t.weight)
    expect(weights[7]).lessThan(0.4)
    expect(weights.filter((w) => w > 0.6).length).greaterThan(60)
  })

  it('rates a left-hander’s throws as it rates their mirror image, thrown by a right-hander', () => {
    const { evidence: e } = simulateSession({ seed: 0.375, throws: 24 })
    const sheet = (hand: Hand) => e.throws.map((t): SheetThrow => lineOf(t, hand))
    const rated = (lines: readonly SheetThrow[]) => outcomeOf(fit(evidenceOf(lines, e.discs)))
    const [right, left] = [sheet('right'), sheet('left')]
    right.forEach((t, i) => {
      expect(left[i]!.rightM + t.rightM).equal(0)
      expect((left[i]!.windAcrossMps ?? 0) + (t.windAcrossMps ?? 0)).equal(0)
    })
    expect(rated(left).discs).deep.equal(rated(right).discs)
    // the same sides thrown by the other hand are other throws
    const wrong = right.map((t) => ({ ...t, hand: 'left' as const }))
    const turns = (list: readonly SheetThrow[]) => rated(list).discs.map((d) => d.observed.turn)
    const [asThrown, otherHand] = [turns(right), turns(wrong)]
    expect(Math.max(...asThrown.map((t, i) => Math.abs(t - otherHand[i]!)))).greaterThan(0.5)
  })

  it('starts warm from an earlier fit and ends where a cold start ends', () => {
    const { evidence: e } = simulateSession({ seed: 0.625 })
    const before = fit({ ...e, throws: e.throws.slice(0, -1) })
    const frozen = before.numbers.map((n) => [...n])
    const warm = fit(e, { warm: before })
    const cold = fit(e)
    expect(warm.iterations).at.most(cold.iterations)
    const sds = outcomeOf(cold).discs.map((d) => [d.sd.glide, d.sd.turn, d.sd.fade])
    warm.numbers.forEach((n, i) =>
      n.forEach((v, k) => expect(Math.abs(v - cold.numbers[i]![k]!) / sds[i]![k]!).lessThan(0.3)),
    )
    expect(before.numbers.map((n) => [...n])).deep.equal(frozen)
  })

  it('moves nothing for a throw that does not count, warm as it started, and still explains it', () => {
    const { evidence: e } = simulateSession({ seed: 0.625, throws: 24 })
    const before = fit(e)
    const branch = { ...e.throws[0]!, id: 'branch', carryM: 30, counts: false }
    const after = fit({ ...e, throws: [...e.throws, branch] }, { warm: before })
    const [was, is] = [outcomeOf(before), outcomeOf(after)]
    expect(is.discs.map((d) => [d.observed, d.stability])).deep.equal(
      was.discs.map((d) => [d.observed, d.stability]),
    )
    expect(is.pairs).deep.equal(was.pairs)
    expect(is.throws.find((t) => t.throw === 'branch')).include({ weight: 0 })
    // and one that counts moves something
    const counted = fit({ ...e, throws: [...e.throws, { ...branch, counts: true }] }, { warm: before })
    expect(outcomeOf(counted).discs[0]!.observed).not.deep.equal(was.discs[0]!.observed)
  })

  it('learns a habit and says how sure it is', () => {
    const biased = Array.from({ length: 30 }, (_, k) => ({
      ...exactThrow(`${k}`, 'known', published, [10, 0, -8][k % 3]! * DEGREE),
      hyzerCalledRad: ([10, 0, -8][k % 3]! + 4) * DEGREE,
    }))
    const [habit] = outcomeOf(fit(evidence([{ ...disc('known'), control: true }], biased))).habits
    expect(habit!.hyzerRad.value).greaterThan(2 * DEGREE)
    expect(habit!.hyzerRad.sd).lessThan(1 * DEGREE)
    expect(habit!.throws).equal(30)
  })

  it('goes a round at a time for whoever wants to breathe in between, to the same end', () => {
    const { evidence: e } = simulateSession({ seed: 0.5, throws: 24 })
    const steps = fitting(e)
    const shares: number[] = []
    let step = steps.next()
    for (; !step.done; step = steps.next()) shares.push(step.value)
    expect(shares.length).greaterThan(3)
    shares.forEach((s, i) => expect(s).within(shares[i - 1] ?? 0, 1))
    expect(outcomeOf(step.value).discs).deep.equal(outcomeOf(fit(e)).discs)
    // and let be half-way without a trace
    const other = fitting(e)
    other.next()
    other.return(step.value)
    expect(outcomeOf(fit(e)).discs).deep.equal(outcomeOf(step.value).discs)
  })

  it('can be stopped, and says which throw names what is not there', () => {
    const { evidence: e } = simulateSession({ seed: 0.5 })
    expect(() => fit(e, { onProgress: () => false })).throw(FitCancelled)
    const stray = { ...e.throws[0]!, disc: 'nobody' }
    expect(() => fit({ ...e, throws: [stray] })).throw(RangeError, /nobody/)
    expect(() => fit({ ...e, throws: [{ ...stray, disc: 'disc-0', arm: 'no-arm' }] })).throw(
      RangeError,
      /no-arm/,
    )
  })

  it('answers with finite numbers whatever it is thrown', () => {
    const odd: Partial<ThrowEvidence>[] = [
      { carryM: 0.5, veerM: 0 },
      { carryM: 180, veerM: 90 },
      { carryM: 20, veerM: -60 },
      { hyzerRad: 1.2 },
      { power: 0.2, carryM: 5 },
      { hangS: 15 },
      { mid: { downM: 150, veerM: 4 } },
    ]
    for (const change of odd) {
      const throws = [{ ...exactThrow('odd', 'a'), ...change }, exactThrow('usual', 'a')]
      const outcome = outcomeOf(fit(evidence([disc('a')], throws)))
      const [a] = outcome.discs
      expect(
        Object.values({ ...a!.observed, ...a!.sd }).every(Number.isFinite),
        JSON.stringify(change),
      ).equal(true)
    }
  })

  it('gives ranks that add up to one, most stable first', () => {
    const { evidence: e } = simulateSession({ seed: 0.875 })
    const outcome = outcomeOf(fit(e))
    const ranks = rankDistribution(outcome, new Set(), 500).map((r) => r.shares)
    for (const row of ranks) expect(row.reduce((s, p) => s + p, 0)).closeTo(1, 1e-9)
    for (let r = 0; r < ranks.length; r++) expect(ranks.reduce((s, row) => s + row[r]!, 0)).closeTo(1, 1e-9)
    const top = outcome.discs.reduce(
      (best, d, i, all) => (d.stability.value > all[best]!.stability.value ? i : best),
      0,
    )
    expect(ranks[top]![0]).equal(Math.max(...ranks.map((row) => row[0]!)))
    const aside = new Set([outcome.discs[0]!.disc])
    const others = rankDistribution(outcome, aside, 500)
    expect(others.map((r) => r.disc)).deep.equal(outcome.discs.slice(1).map((d) => d.disc))
    for (const { shares } of others) {
      expect(shares).length(outcome.discs.length - 1)
      expect(shares.reduce((s, p) => s + p, 0)).closeTo(1, 1e-9)
    }
  })
})

describe('linearised flight', () => {
  it('has the derivatives central differences have', () => {
    const flown = { speed: 9, body: STANDARD_BODY, densityKgM3: 1.2041, midX: 50, spinRadps: 0 }
    const p = Float64Array.of(5, -1.2, 2.1, Math.log(25), 0.18, 0.1, 0.02, 0.03, -2, 1, 0.05)
    const seen = new Float64Array(SEEN)
    const jacobian = new Float64Array(SEEN * POINT)
    linearise(flown, p, seen, jacobian)
    const h = [0.01, 0.01, 0.01, 1e-3, 1e-3, 1e-3, 1e-3, 1e-3, 0.02, 0.02, 1e-3]
    const [up, down] = [new Float64Array(SEEN), new Float64Array(SEEN)]
    for (let j = 0; j < POINT; j++) {
      const at = (d: number, into: Float64Array) => {
        const q = p.slice()
        q[j]! += d
        flyPoint(flown, q, into)
      }
      at(h[j]!, up)
      at(-h[j]!, down)
      for (const i of [0, 1, 2, 3]) {
        const central = (up[i]! - down[i]!) / (2 * h[j]!)
        const slack = 0.02 * Math.abs(central) + (i === 2 ? 0.05 : 0.6)
        expect(jacobian[i * POINT + j], `row ${i}, column ${j}`).closeTo(central, slack)
      }
    }
  })
})
