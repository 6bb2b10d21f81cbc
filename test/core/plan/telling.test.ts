import { mean, median, randomLcg, randomNormal, sum } from 'd3'
import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { fullSpeedWith } from '../../../core/flight/arm.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease, referenceSpeed } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { resolution, settling } from '../../../core/judge/resolve.ts'
import {
  beliefOf,
  informationOf,
  contrastVariance,
  contrastReachOf,
  variancesWith,
  withThrow,
} from '../../../core/plan/information.ts'
import { contrastFor, contrastOf } from '../../../core/plan/contrasts.ts'
import type { Candidate } from '../../../core/plan/information.ts'
import { HEADWIND, order } from '../../../core/plan/aims.ts'
import { aimsOf } from '../../../core/plan/ask.ts'
import { chanceSettled, tellingThrows, worthOf, wrongOrder } from '../../../core/plan/telling.ts'
import type { ThrowEvidence } from '../../../core/rating/evidence.ts'
import { offLabel, openAims } from '../../../core/judge/asked.ts'
import { unsettledNeighbours } from '../../../core/judge/ladder.ts'
import { sharesBetween } from '../../../core/rating/normal.ts'
import { fit } from '../../../core/rating/fit.ts'
import type { FitState } from '../../../core/rating/state.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { throwDisc } from '../../../core/simulate/thrower.ts'
import { promises, race } from '../../simulate/ahead.ts'
import { simulateSession } from '../../simulate/session.ts'

const kinds = [10, 0, -8].flatMap((deg) =>
  [-2.5, 2.5].map((windAlongMps) => ({
    arm: 'arm-0',
    power: 1,
    hyzerRad: deg * DEGREE,
    air: { ...STILL_AIR, windAlongMps },
    angleCalled: true,
  })),
)
const session = (seed: number, discs = 4, throws = 12) =>
  simulateSession({ seed, discs, throws, called: true, control: true })
const cells = (discs: readonly string[]): Candidate[] =>
  discs.flatMap((disc) => kinds.map((kind) => ({ ...kind, disc })))

describe('information of a throw', () => {
  const { evidence } = session(0.42)
  const state = fit(evidence)
  const belief = beliefOf(state)
  const contrast = contrastOf(state, belief, 'disc-1', 'disc-2')

  it('starts from what the fit believes', () => {
    const pair = outcomeOf(state).pairs.find((p) => p.a === 'disc-1' && p.b === 'disc-2')!
    expect(contrast.value).closeTo(pair.difference.value, 1e-9)
    expect(Math.sqrt(contrastVariance(belief, contrast))).closeTo(pair.difference.sd, 1e-9)
  })

  it('can be told before a throw is made, made, and taken back', () => {
    const info = informationOf(state, belief, { ...kinds[2]!, disc: 'disc-1' })
    const [told] = variancesWith(belief, info, contrastReachOf(belief, [contrast]))
    const made = withThrow(belief, info)
    expect(contrastVariance(made, contrast)).closeTo(told!, 1e-9)
    expect(told).lessThan(contrastVariance(belief, contrast))
    const back = withThrow(made, info, -1)
    back.covariance.forEach((v, i) => expect(v).closeTo(belief.covariance[i]!, 1e-8))
  })

  it('is about what a fit with those throws comes to', () => {
    const more = ['disc-1', 'disc-2'].flatMap((disc) => [0, 1, 2, 3].map((k) => ({ ...kinds[k]!, disc })))
    const foretold = more.reduce((b, c) => withThrow(b, informationOf(state, belief, c)), belief)
    const made = more.map((c, i): ThrowEvidence => {
      const at = evidence.discs.findIndex((d) => d.id === c.disc)
      const [glide, turn, fade] = state.numbers[at] as unknown as [number, number, number]
      const arm = {
        fullSpeedMps: referenceSpeed(9),
        habit: {
          lnSpeed: state.habits[0]![0]!,
          launchRad: state.habits[0]![1]!,
          hyzerRad: state.habits[0]![2]!,
          noseRad: state.habits[0]![3]!,
        },
        spread: { lnSpeed: 0, launchRad: 0, hyzerRad: 0, noseRad: 0, azimuthRad: 0 },
        wobble: 0,
      }
      const { landing } = throwDisc(
        { speed: 9, glide, turn, fade },
        evidence.discs[at]!.body,
        arm,
        c,
        c.air,
        randomLcg(0.5),
      )
      const { carryM, veerM } = landing
      const hyzerCalledRad = c.hyzerRad + arm.habit.hyzerRad
      return { ...c, id: `more-${i}`, carryM, veerM, hyzerCalledRad, counts: true }
    })
    const after = fit({ ...evidence, throws: [...evidence.throws, ...made] })
    const pair = outcomeOf(after).pairs.find((p) => p.a === 'disc-1' && p.b === 'disc-2')!
    expect(pair.difference.sd / Math.sqrt(contrastVariance(foretold, contrast))).within(0.75, 1.25)
  })

  it('counts an arm that has not thrown yet with all that is not known of it', () => {
    const stranger = [{ id: 'stranger', fullSpeedMps: 24 }]
    const wide = beliefOf(state, stranger)
    const of = (arm: string) =>
      contrastVariance(
        withThrow(wide, informationOf(state, wide, { ...kinds[2]!, arm, disc: 'disc-1' }, stranger)),
        contrast,
      )
    expect(of('arm-0')).lessThan(of('stranger'))
  })
})

describe('telling throws', () => {
  const pairs: [string, string][] = [
    ['disc-1', 'disc-2'],
    ['disc-2', 'disc-3'],
  ]
  const aims = pairs.map(order)

  it('are as good as the best of all sets, searched one by one', () => {
    for (const seed of [0.13, 0.57, 0.81]) {
      const state = fit(session(seed).evidence)
      const candidates = cells(['disc-1', 'disc-2', 'disc-3']).filter((_, i) => i % 4 === 0)
      const found = tellingThrows(state, aims, candidates, 3)
      let best = Number.POSITIVE_INFINITY
      candidates.forEach((a, i) =>
        candidates.slice(i).forEach((b, j) =>
          candidates.slice(i + j).forEach((c) => {
            best = Math.min(best, worthOf(state, aims, [a, b, c]).wrongAfter)
          }),
        ),
      )
      expect(found.wrongAfter).closeTo(worthOf(state, aims, found.throws).wrongAfter, 1e-9)
      expect(found.wrongAfter - best).lessThan(0.03 * (found.wrongNow - best) + 1e-5)
    }
  })

  it('are worth more than as many throws spread evenly', () => {
    for (const seed of [0.13, 0.57, 0.81]) {
      const state = fit(session(seed).evidence)
      const discs = ['disc-0', 'disc-1', 'disc-2', 'disc-3']
      const even = cells(discs)
      const telling = tellingThrows(state, aims, cells(discs), even.length)
      expect(telling.wrongAfter).lessThan(worthOf(state, aims, even).wrongAfter)
      expect(telling.wrongAfter).lessThan(telling.wrongNow)
    }
  })

  it('serve a question about labels: its numbers are told apart from within half of what is published', () => {
    const state = fit(session(0.13).evidence)
    const label = aimsOf({ kind: 'label', pair: null }, ['disc-1'])
    expect(label.map((a) => a.of === 'label' && a.figure)).deep.equal(['stability', 'glide', 'turn', 'fade'])
    // what is believed of each is what the fit says of it
    const disc = outcomeOf(state).discs.find((d) => d.disc === 'disc-1')!
    const start = beliefOf(state)
    for (const aim of label) {
      const contrast = contrastFor(state, start, aim)
      const off = offLabel(disc, aim.of === 'label' ? aim.figure : 'glide')
      expect(contrast.value).closeTo(off.value, 1e-9)
      expect(Math.sqrt(contrastVariance(start, contrast))).closeTo(off.sd, 1e-9)
    }
    const all = cells(['disc-0', 'disc-1', 'disc-2', 'disc-3'])
    const telling = tellingThrows(state, label, all, 24)
    const even = worthOf(state, label, all)
    expect(telling.wrongAfter).lessThan(telling.wrongNow)
    expect(telling.wrongAfter).lessThan(even.wrongAfter)
    const own = telling.throws.filter((t) => t.disc === 'disc-1').length
    expect(own).greaterThan(12)
    telling.aims.forEach(({ sdNow, sdAfter }) => expect(sdAfter).lessThan(sdNow))
  })

  it('are worth what the field says further throws of a pair are worth', () => {
    const state = fit(session(0.13).evidence)
    const kinds = [10, 0, -8].map((deg) => ({
      ...{ arm: 'arm-0', power: 1, hyzerRad: (deg * Math.PI) / 180, air: STILL_AIR, angleCalled: true },
    }))
    for (const [a, b] of [
      ['disc-1', 'disc-2'],
      ['disc-0', 'disc-3'],
      ['disc-2', 'disc-3'],
    ] as const)
      for (const { throws, chance } of settling(state, a, b, kinds).chances) {
        const { meant } = settling(state, a, b, kinds)
        const plan = worthOf(state, [order([a, b])], meant.slice(0, throws))
        expect(plan.aims[0]!.chanceSettled).closeTo(chance, 1e-6)
      }
  })

  const flownBy = (
    state: FitState,
    disc: string,
    armMps: number,
    windAlongMps: number,
    by: readonly number[],
  ) => {
    const i = state.evidence.discs.findIndex((d) => d.id === disc)
    const { published, body } = state.evidence.discs[i]!
    const [glide, turn, fade] = state.numbers[i]!
    return landing(
      { speed: published.speed, glide: glide! + by[0]!, turn: turn! + by[1]!, fade: fade! + by[2]! },
      body,
      cleanRelease(fullSpeedWith(armMps, published.speed)),
      { ...STILL_AIR, windAlongMps },
    ).veerM
  }

  it('serve a question about other arms, and one about the wind, in metres of flights', () => {
    const { evidence } = session(0.13)
    const state = fit(evidence)
    const start = beliefOf(state)
    const arms = aimsOf({ kind: 'arms', pair: null }, ['disc-1', 'disc-2'])
    expect(arms).lengthOf(6)
    for (const aim of arms) {
      if (aim.of !== 'finish') throw new Error(aim.of)
      const contrast = contrastFor(state, start, aim)
      expect(contrast.value).closeTo(flownBy(state, aim.disc, aim.armMps, 0, [0, 0, 0]), 1e-9)
      // a little more of every number moves the finish as the places say
      const weight = contrast.places.reduce((s, [, w]) => s + w, 0)
      const moved = flownBy(state, aim.disc, aim.armMps, 0, [0.02, 0.02, 0.02]) - contrast.value
      expect(moved).closeTo(0.02 * weight, 0.02 + 0.1 * Math.abs(moved))
      expect(contrastVariance(start, contrast)).greaterThan(contrast.floor)
    }
    const cost = (disc: string) =>
      (flownBy(state, disc, 25, 0, [0, 0, 0]) - flownBy(state, disc, 25, -HEADWIND, [0, 0, 0])) / HEADWIND
    const [alone] = aimsOf({ kind: 'wind', pair: null }, ['disc-1'], 25)
    expect(contrastFor(state, start, alone!).value).closeTo(cost('disc-1'), 1e-9)
    const wind = aimsOf({ kind: 'wind', pair: null }, ['disc-1', 'disc-2', 'disc-3'], 25)
    for (const aim of wind) {
      if (aim.of !== 'holds') throw new Error(aim.of)
      const { value } = contrastFor(state, start, aim)
      expect(value).closeTo(Math.abs(cost(aim.a)) - Math.abs(cost(aim.b)), 1e-9)
    }
    const all = cells(['disc-0', 'disc-1', 'disc-2', 'disc-3'])
    for (const aims of [arms, wind]) {
      const telling = tellingThrows(state, aims, all, 24)
      expect(telling.wrongAfter).most(worthOf(state, aims, all).wrongAfter + 1e-9)
      telling.aims.forEach(({ sdNow, sdAfter }) => expect(sdAfter).lessThan(sdNow))
    }
    // those asked about are thrown, the ones beside them hardly
    const own = tellingThrows(state, arms, all, 24).throws.filter((t) =>
      ['disc-1', 'disc-2'].includes(t.disc),
    )
    expect(own.length).greaterThan(14)
    expect(() => contrastFor(state, start, { of: 'wind', disc: 'nobody', armMps: 25 })).throw(RangeError)
  })

  it('are as narrow once thrown as they said: where discs finish for other arms', () => {
    const ratios: number[] = []
    for (const seed of [0.21, 0.43, 0.67, 0.87]) {
      const { evidence } = session(seed, 4, 48)
      const half = fit({ ...evidence, throws: evidence.throws.slice(0, 24) })
      const aims = aimsOf({ kind: 'arms', pair: null }, ['disc-1', 'disc-2'])
      const rest = evidence.throws
        .slice(24)
        .map((t): Candidate => ({ ...t, angleCalled: t.hyzerCalledRad !== undefined }))
      const expected = worthOf(half, aims, rest)
      const whole = fit(evidence)
      const belief = beliefOf(whole)
      expected.aims.forEach(({ aim, sdNow, sdAfter }) => {
        const sd = Math.sqrt(contrastVariance(belief, contrastFor(whole, belief, aim)))
        expect(sdAfter).lessThan(sdNow)
        ratios.push(Math.log(sd / sdAfter))
      })
    }
    expect(mean(ratios)).within(-0.25, 0.25)
  })

  it('are asked for what is open of the question, and for neighbours once it is told', () => {
    const { evidence } = session(0.34, 4, 12)
    const state = fit(evidence)
    const outcome = outcomeOf(state)
    const open = unsettledNeighbours(state, outcome)
    expect(open.length).greaterThan(0)
    const every = { kind: 'molds', pair: null } as const
    expect(openAims(state, outcome, every)).deep.equal(open.map(order))
    const pair = open[0]!
    expect(openAims(state, outcome, { kind: 'molds', pair })).deep.equal([order(pair)])
    // a pair that is told, or names a disc that is not asked about, leaves the neighbours
    const told = outcome.pairs.find(
      (p) => Math.abs(p.pAMoreStable - 0.5) > 0.45 && p.a !== 'disc-0' && p.b !== 'disc-0',
    )!
    expect(openAims(state, outcome, { kind: 'molds', pair: [told.a, told.b] })).deep.equal(open.map(order))
    for (const aim of openAims(state, outcome, { kind: 'label', pair: null })) {
      expect(aim.of).equal('label')
      if (aim.of !== 'label') continue
      const off = offLabel(
        outcome.discs.find((d) => d.disc === aim.disc)!,
        aim.figure,
      )
      expect(Math.max(...sharesBetween(off.value, off.sd, [-0.5, 0.5]))).lessThan(0.9)
    }
  })

  it('take no throws where there is nothing to ask', () => {
    const state = fit(session(0.3).evidence)
    expect(tellingThrows(state, [], cells(['disc-1']), 5).throws).deep.equal([])
    expect(tellingThrows(state, aims, [], 5).throws).deep.equal([])
  })

  it('name for one pair the throw that narrows it most, even where one throw turns no order round', () => {
    for (const [seed, throws] of [
      [0.21, 12],
      [0.34, 72],
      [0.55, 72],
      [0.86, 144],
    ] as const) {
      const state = fit(session(seed, 4, throws).evidence)
      const ids = state.evidence.discs.map((d) => d.id)
      const all = cells(ids)
      const start = beliefOf(state)
      for (const [i, a] of ids.entries())
        for (const b of ids.slice(i + 1)) {
          const contrast = contrastOf(state, start, a, b)
          const left = (c: Candidate) =>
            contrastVariance(withThrow(start, informationOf(state, start, c)), contrast)
          const least = Math.min(...all.map(left))
          const [named] = tellingThrows(state, [order([a, b])], all, 1).throws
          // a pair that is certain has nothing to narrow: any throw is as good
          if (Math.abs(contrast.value) / Math.sqrt(contrastVariance(start, contrast)) < 3.5)
            expect(left(named!), `${seed} ${a} ${b}`).closeTo(least, 1e-6 * least + 1e-9)
        }
    }
  })

  it('settle the pair asked about with a third fewer throws than an even plan, in simulated sessions', () => {
    const { even, telling, wrong } = race(24, 1)
    expect(median(telling)).most((2 / 3) * median(even)!)
    expect(sum(telling)).lessThan((2 / 3) * sum(even))
    // looked at after every throw, a pair is stated wrongly now and then: one in ten is due
    expect(wrong.telling).most(4)
  })
})

describe('resolution and what would settle a pair', () => {
  it('is the difference that is right nine times in ten', () => {
    expect(resolution(1)).closeTo(1.2816, 1e-4)
  })

  it('names throws and their kind for an open pair, none for a settled one, none in reach for equals', () => {
    const known = { speed: 9, glide: 5, turn: -1, fade: 2 }
    const discs = [
      { id: 'a', published: known, body: STANDARD_BODY },
      { id: 'b', published: { ...known, turn: -2.2 }, body: STANDARD_BODY },
      { id: 'c', published: { ...known, turn: -3.8 }, body: STANDARD_BODY },
      { id: 'twin', published: known, body: STANDARD_BODY },
    ]
    const state = fit({ discs, arms: [{ id: 'arm-0', fullSpeedMps: referenceSpeed(9) }], throws: [] })
    const near = settling(state, 'a', 'b', kinds)
    expect(near.chances.map((c) => c.throws)).deep.equal([12, 24, 48])
    expect(near.chances[0]!.chance).within(0.2, 0.95)
    expect(near.kinds.reduce((n, k) => n + k.throws, 0)).equal(48)
    // the more throws the likelier; and what is chosen from more kinds is worth no less
    const chances = near.chances.map((c) => c.chance)
    expect(chances).deep.equal([...chances].sort((x, y) => x - y))
    const flat = settling(state, 'a', 'b', kinds.slice(2, 4))
    flat.chances.forEach(({ chance }, i) => expect(chance).most(chances[i]! + 1e-9))
    expect(settling(state, 'a', 'c', kinds)).deep.include({ chances: [], kinds: [] })
    // of one label and nothing thrown, either may be the more stable, or they are as good as alike
    const twin = settling(state, 'a', 'twin', kinds)
    expect(twin.alike).within(0.1, 0.6)
    expect(twin.chances[2]!.chance).within(0.3, 0.95)
  })

  it('gives the chance that a pair ends in the wrong order as often as it does', () => {
    const normal = randomNormal.source(randomLcg(0.6))()
    for (const [value, now, after] of [
      [0.4, 0.5, 0.12],
      [-0.9, 0.6, 0.5],
      [0.2, 1.5, 0.001],
    ] as const) {
      let wrong = 0
      for (let i = 0; i < 40_000; i++) {
        const mean = value + Math.sqrt(now - after) * normal()
        if (mean * (mean + Math.sqrt(after) * normal()) < 0) wrong++
      }
      expect(wrongOrder(value, now, after)).closeTo(wrong / 40_000, 0.008)
    }
    // nothing learnt: as sure as now; all learnt: never wrong; a coin tossed again: θ/π, sin²θ the share left
    expect(wrongOrder(0.7, 0.49, 0.49)).closeTo(0.15865525, 1e-7)
    expect(wrongOrder(0.7, 0.49, 0)).equal(0)
    expect(wrongOrder(0, 1, 0.25)).closeTo(1 / 6, 1e-9)
    expect(wrongOrder(9, 0.1, 0.05)).closeTo(0, 1e-12)
    expect(wrongOrder(0, 0, 0)).equal(0)
  })

  it('keeps what it promises: throws as they were meant settle a pair as often as stated', () => {
    for (const { throws, stated } of promises(60, 1000)) {
      const kept = stated.filter((s) => s.kept).length / stated.length
      // of 60, two standard deviations are 13 points
      expect(kept, `${throws} more`).closeTo(
        mean(stated, (s) => s.chance)!,
        0.13,
      )
    }
  })

  it('gives the chance that throws settle a pair as often as they do', () => {
    const normal = randomNormal.source(randomLcg(0.9))()
    const [value, now, after] = [0.4, 0.5, 0.12]
    let settled = 0
    for (let i = 0; i < 20_000; i++)
      if (Math.abs(value + Math.sqrt(now - after) * normal()) >= resolution(Math.sqrt(after))) settled++
    expect(chanceSettled(value, now, after)).closeTo(settled / 20_000, 0.012)
    expect(chanceSettled(1, 0.1, 0.1)).closeTo(1, 1e-9)
    expect(chanceSettled(0.1, 0.1, 0.1)).closeTo(0, 1e-9)
    // of a label: below, within or above half a number, each told with nine in ten
    for (const [off, before, left] of [
      [0.1, 0.3, 0.05],
      [0.9, 0.3, 0.05],
      [0.2, 0.4, 0.2],
    ] as const) {
      let told = 0
      for (let i = 0; i < 20_000; i++) {
        const mean = off + Math.sqrt(before - left) * normal()
        if (Math.max(...sharesBetween(mean, Math.sqrt(left), [-0.5, 0.5])) >= 0.9) told++
      }
      expect(chanceSettled(off, before, left, [-0.5, 0.5])).closeTo(told / 20_000, 0.012)
    }
  })
})
