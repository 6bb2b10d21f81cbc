import { expect } from 'chai'
import fc from 'fast-check'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { labelScale, stabilityAt } from '../../../core/flight/side.ts'
import { SHEET_RANGE } from '../../../core/throw/ranges.ts'
import { correctedFlight } from '../../../core/judge/corrected.ts'
import { effectsOf, plasticContrasts, varianceShares } from '../../../core/judge/effects.ts'
import { forecastThrow } from '../../../core/judge/forecast.ts'
import { pathAsThrown } from '../../../core/rating/asThrown.ts'
import { settling } from '../../../core/judge/resolve.ts'
import { statements } from '../../../core/judge/statements.ts'
import { explainThrow } from '../../../core/judge/why.ts'
import { AIR_CALLS } from '../../../core/rating/calls.ts'
import { MEASURING_METHODS } from '../../../core/throw/method.ts'
import type { Evidence, ThrowEvidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf, rankDistribution } from '../../../core/rating/outcome.ts'
import { simulateSession } from '../../simulate/session.ts'

const within = ([min, max]: readonly [number, number]) => fc.double({ min, max, noNaN: true })
const radians = (range: readonly [number, number]) => within(range).map((d) => (d * Math.PI) / 180)
const maybe = <T>(a: fc.Arbitrary<T>) => fc.option(a, { nil: undefined })

const numbers = fc.record({
  speed: within(SHEET_RANGE.speed),
  glide: within(SHEET_RANGE.glide),
  turn: within(SHEET_RANGE.turn),
  fade: within(SHEET_RANGE.fade),
})
const disc = fc.record({
  published: numbers,
  massKg: within(SHEET_RANGE.weightG).map((g) => g / 1000),
  control: fc.boolean(),
  kin: maybe(
    fc.record({
      mold: fc.constantFrom('Ash', 'Birch'),
      plastic: fc.constantFrom('soft', 'hard'),
      wear: within([0, 1]),
    }),
  ),
})
const thrown = fc.record({
  disc: fc.nat(3),
  arm: fc.nat(1),
  power: within(SHEET_RANGE.power),
  hyzerRad: radians(SHEET_RANGE.hyzerDeg),
  densityKgM3: within([0.6, 1.6]),
  windAlongMps: within(SHEET_RANGE.windAlongMps),
  windTowardFadeMps: within(SHEET_RANGE.windAcrossMps),
  // an instrument that stood still all the time says 0
  windSdMps: maybe(fc.oneof(fc.constant(0), within(SHEET_RANGE.windSdMps))),
  spinRadps: maybe(within(SHEET_RANGE.spinRpm).map((rpm) => (rpm * 2 * Math.PI) / 60)),
  carryM: within(SHEET_RANGE.carryM),
  veerM: within(SHEET_RANGE.rightM),
  method: maybe(fc.constantFrom(...MEASURING_METHODS)),
  midShare: maybe(within([0.05, 0.95])),
  midVeerM: within(SHEET_RANGE.midRightM),
  hangS: maybe(within(SHEET_RANGE.hangS)),
  apexM: maybe(within(SHEET_RANGE.apexM)),
  releaseSpeedMps: maybe(within(SHEET_RANGE.releaseSpeedMps)),
  hyzerCalledRad: maybe(radians(SHEET_RANGE.hyzerCalledDeg)),
  noseCalledRad: maybe(radians(SHEET_RANGE.noseCalledDeg)),
  calls: fc.subarray([...AIR_CALLS]),
  path: maybe(
    fc.array(fc.tuple(within([-5, 300]), within([-150, 150]), within([-10, 60])), { maxLength: 12 }),
  ),
  counts: fc.boolean(),
})
const pathOf = (points: readonly (readonly [number, number, number])[]) => ({
  downM: points.map((p) => p[0]),
  veerM: points.map((p) => p[1]),
  upM: points.map((p) => p[2]),
})
/** The same runs every time; FUZZ_SEED and FUZZ_RUNS try others. */
const SEED = Number(process.env['FUZZ_SEED'] ?? 20261125)
const RUNS = Number(process.env['FUZZ_RUNS'] ?? 160)

/** Anything the field sheet lets through, sense or no sense. */
const evidences = fc
  .record({
    discs: fc.array(disc, { minLength: 1, maxLength: 4 }),
    throws: fc.array(thrown, { maxLength: 12 }),
    fullSpeeds: fc.tuple(maybe(within(SHEET_RANGE.fullSpeedMps)), maybe(within(SHEET_RANGE.fullSpeedMps))),
  })
  .map(({ discs, throws, fullSpeeds }): Evidence => {
    const present = <K extends string, V>(key: K, v: V | undefined) => (v === undefined ? {} : { [key]: v })
    return {
      discs: discs.map(({ massKg, kin, control, published }, i) => ({
        id: `d${i}`,
        published,
        body: { ...STANDARD_BODY, massKg },
        ...present('kin', kin),
        ...(control && { control }),
      })),
      arms: fullSpeeds.map((v, i) => ({ id: `a${i}`, ...present('fullSpeedMps', v) })),
      throws: throws.map(
        (t, i): ThrowEvidence =>
          ({
            id: `t${i}`,
            disc: `d${t.disc % discs.length}`,
            arm: `a${t.arm}`,
            power: t.power,
            hyzerRad: t.hyzerRad,
            air: {
              densityKgM3: t.densityKgM3,
              windAlongMps: t.windAlongMps,
              windTowardFadeMps: t.windTowardFadeMps,
              shearExponent: 0,
            },
            carryM: t.carryM,
            veerM: t.veerM,
            counts: t.counts,
            ...present('method', t.method),
            ...present('windSdMps', t.windSdMps),
            ...present('spinRadps', t.spinRadps),
            ...(t.midShare !== undefined && { mid: { downM: t.midShare * t.carryM, veerM: t.midVeerM } }),
            ...present('hangS', t.hangS),
            ...present('apexM', t.apexM),
            ...present('releaseSpeedMps', t.releaseSpeedMps),
            ...present('hyzerCalledRad', t.hyzerCalledRad),
            ...present('noseCalledRad', t.noseCalledRad),
            calls: t.calls,
            ...present('path', t.path && pathOf(t.path)),
          }) as ThrowEvidence,
      ),
    }
  })

/** Every number anywhere in a value is finite. */
function expectFinite(value: unknown, at = ''): void {
  if (typeof value === 'number') expect(Number.isFinite(value), `${at} is ${value}`).equal(true)
  else if (ArrayBuffer.isView(value)) expectFinite([...(value as Float64Array)], at)
  else if (Array.isArray(value)) value.forEach((v, i) => expectFinite(v, `${at}[${i}]`))
  else if (value !== null && typeof value === 'object')
    for (const [k, v] of Object.entries(value)) expectFinite(v, `${at}.${k}`)
}

/** Rates, judges and says all there is to say; nothing may throw and every number must be one. */
function answer(evidence: Evidence) {
  const state = fit(evidence)
  const outcome = outcomeOf(state)
  expectFinite(outcome, 'outcome')
  for (const d of outcome.discs) {
    expect(d.sd.turn).greaterThan(0)
    expect(d.stability.sd).greaterThan(0)
    expectFinite(correctedFlight(d), 'corrected')
  }
  for (const p of outcome.pairs) expect(p.pAMoreStable).within(0, 1)
  const said = statements(outcome, rankDistribution(outcome, new Set(), 50), {
    name: (d) => d,
  })
  for (const s of said) expect(`${s.text} ${s.detail}`).not.match(/NaN|undefined/)
  expectFinite([effectsOf(state), plasticContrasts(state), varianceShares(state)], 'effects')
  for (const t of evidence.throws.slice(0, 2)) {
    expectFinite(explainThrow(state, t), 'why')
    expectFinite(pathAsThrown(state, t), 'path')
    expectFinite(forecastThrow(state, t), 'forecast')
  }
  return { state, outcome }
}

describe('an answer whatever is thrown', () => {
  it('is finite and calm for anything the sheet lets through', () => {
    fc.assert(
      fc.property(evidences, (e) => void answer(e)),
      { numRuns: RUNS, seed: SEED, endOnFailure: true },
    )
  })

  it('is the prior for one disc without throws and for throws that are all left out', () => {
    const { evidence } = simulateSession({ seed: 0.2, throws: 12, discs: 2 })
    const without = answer({ ...evidence, throws: [] })
    const leftOut = answer({ ...evidence, throws: evidence.throws.map((t) => ({ ...t, counts: false })) })
    for (const { outcome } of [without, leftOut]) expect(outcome.discs[0]!.sd.turn).closeTo(0.8, 1e-6)
  })

  it('is honest about one throw, one disc, identical throws and a thrower with one throw', () => {
    const { evidence } = simulateSession({ seed: 0.4, throws: 12, discs: 1, throwers: 2 })
    const [first] = evidence.throws
    const one = answer({ ...evidence, throws: [first!] }).outcome.discs[0]!
    const none = answer({ ...evidence, throws: [] }).outcome.discs[0]!
    expect(one.stability.sd).within(0.5, none.stability.sd + 1e-9)
    const same = answer({ ...evidence, throws: evidence.throws.map((t) => ({ ...first!, id: t.id })) })
    expect(same.outcome.discs[0]!.stability.sd).greaterThan(0.2)
    const odd = evidence.throws.map((t, i) => ({ ...t, arm: i === 0 ? 'arm-1' : 'arm-0' }))
    const habits = answer({ ...evidence, throws: odd }).outcome.habits
    expect(habits[1]!.hyzerRad.sd).greaterThan(habits[0]!.hyzerRad.sd)
  })

  it('finds its way from a label that is off by four', () => {
    let [held, all, missed, gaps] = [0, 0, 0, 0]
    for (const seed of [0.1, 0.3, 0.5, 0.7]) {
      const { evidence, sides } = simulateSession({
        seed,
        called: true,
        hang: true,
        control: true,
        throws: 96,
      })
      const discs = evidence.discs.map((d, i) =>
        i === 2
          ? { ...d, published: { ...d.published, turn: d.published.turn + 2, fade: d.published.fade + 2 } }
          : d,
      )
      const d = answer({ ...evidence, discs }).outcome.discs[2]!
      const label = labelScale(d.published)
      const true_ = stabilityAt(label, sides.get('disc-2')!.side)
      const off = Math.abs(d.stability.value - true_)
      missed += off
      gaps += Math.abs(label.stability - true_)
      all++
      if (off < 2.6 * d.stability.sd) held++
    }
    expect(missed).lessThan(0.25 * gaps)
    expect(held).least(all - 1)
  })

  it('says what would settle a pair, or that nothing would, without throws as with them', () => {
    const { evidence } = simulateSession({ seed: 0.6, throws: 12, discs: 2 })
    const kinds = [{ arm: 'arm-0', power: 1, hyzerRad: 0, air: evidence.throws[0]!.air }]
    for (const throws of [[], evidence.throws]) {
      const s = settling(fit({ ...evidence, throws }), 'disc-0', 'disc-1', kinds)
      expect(s.alike).within(0, 1)
      for (const { chance } of s.chances) expect(chance).within(0, 1)
      expect(s.resolution).greaterThan(0)
    }
  })
})
