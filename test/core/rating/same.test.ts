import { expect } from 'chai'
import fc from 'fast-check'
import { judgeClaim } from '../../../core/judge/claims.ts'
import { answerOf } from '../../../core/judge/answers/answerOf.ts'
import { ranksOf } from '../../../core/judge/card.ts'
import type { Evidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf, pairOf } from '../../../core/rating/outcome.ts'
import { judgeSaid } from '../../../core/review/judged.ts'
import { unitsOf, wordingOf } from '../../../web/data/units.ts'
import { seedOf, simulateSession } from '../../simulate/session.ts'

const some = fc.record({
  seed: fc.integer({ min: 0, max: 10_000 }).map(seedOf),
  throws: fc.integer({ min: 6, max: 28 }),
  discs: fc.integer({ min: 2, max: 5 }),
  throwers: fc.constantFrom(1, 2),
  called: fc.boolean(),
  gusts: fc.constant(0.6),
})
/** Two hundred of each are looked at by npm run calibrate:same. */
const RUNS = { numRuns: 14 }

/** Sides and probabilities by disc, whatever order they come in. */
function told(evidence: Evidence) {
  const outcome = outcomeOf(fit(evidence))
  return {
    discs: new Map(outcome.discs.map((d) => [d.disc, d])),
    more: (a: string, b: string) => {
      const pair = pairOf(outcome, a, b)
      return pair.a === a ? pair.pAMoreStable : 1 - pair.pAMoreStable
    },
  }
}
/** Nothing has moved: a probability by half a point, a side by a fiftieth of its standard deviation. */
function expectSame(one: Evidence, other: Evidence, as: (disc: string) => string = (d) => d): void {
  const [a, b] = [told(one), told(other)]
  for (const { id } of one.discs) {
    const [x, y] = [a.discs.get(id)!.side, b.discs.get(as(id))!.side]
    expect(y.value, `side of ${id}`).closeTo(x.value, 0.02 * x.sd)
    expect(y.sd, `sd of ${id}`).closeTo(x.sd, 0.02 * x.sd)
    for (const { id: than } of one.discs)
      if (than !== id) expect(b.more(as(id), as(than)), `${id} than ${than}`).closeTo(a.more(id, than), 0.005)
  }
}

describe('the same throws', () => {
  it('say the same in whichever order they, their discs and their arms come', () => {
    fc.assert(
      fc.property(some, fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })), (design, draws) => {
        const { evidence } = simulateSession(design)
        const mixed = <T>(list: readonly T[]): T[] =>
          list
            .map((it_) => [draws.next().value as number, it_] as const)
            .sort((a, b) => a[0] - b[0])
            .map(([, it_]) => it_)
        expectSame(evidence, {
          discs: mixed(evidence.discs),
          arms: mixed(evidence.arms),
          throws: mixed(evidence.throws),
        })
      }),
      RUNS,
    )
  })

  it('say the same under other names', () => {
    fc.assert(
      fc.property(some, (design) => {
        const { evidence } = simulateSession(design)
        const as = (id: string) => `${[...id].toReversed().join('')}, as others call it`
        expectSame(
          evidence,
          {
            discs: evidence.discs.map((d) => ({ ...d, id: as(d.id) })),
            arms: evidence.arms.map((a) => ({ ...a, id: as(a.id) })),
            throws: evidence.throws.map((t) => ({
              ...t,
              ...{ id: as(t.id), disc: as(t.disc), arm: as(t.arm), outing: 'another day' },
            })),
          },
          as,
        )
      }),
      RUNS,
    )
  })

  it('say the same whatever order their fields are written in, few throws or hundreds', () => {
    const turned = <T>(value: T): T =>
      Array.isArray(value)
        ? (value.map((v: unknown) => turned(v)) as T)
        : value !== null && typeof value === 'object'
          ? (Object.fromEntries(
              Object.entries(value)
                .toReversed()
                .map(([key, v]) => [key, turned(v)]),
            ) as T)
          : value
    for (const throws of [12, 28, 600]) {
      const { evidence } = simulateSession({ seed: 0.37, throws, discs: 4, gusts: 0.6 })
      expectSame(evidence, turned(evidence))
      expectSame(evidence, { ...evidence, throws: evidence.throws.toReversed() })
    }
  })

  it('say the same of a left hand, mirrored, and where throws that do not count lie among them', () => {
    fc.assert(
      fc.property(some, (design) => {
        const { evidence } = simulateSession(design)
        const [first] = evidence.throws
        expectSame(evidence, {
          ...evidence,
          throws: [
            { ...first!, id: 'slipped', carryM: 20, counts: false },
            // in the frame of the throw all but the aim line is mirrored already
            ...evidence.throws.map((t) => ({
              ...t,
              fadeSign: t.fadeSign === -1 ? (1 as const) : (-1 as const),
            })),
          ],
        })
      }),
      RUNS,
    )
  })

  it('say the same whatever was weighed before, and once some were taken away and put back', () => {
    fc.assert(
      fc.property(some, (design) => {
        const { evidence } = simulateSession(design)
        const before = outcomeOf(fit(evidence))
        fit({ ...evidence, throws: evidence.throws.slice(0, -5) })
        expect(outcomeOf(fit(evidence))).deep.equal(before)
      }),
      RUNS,
    )
  })
})

describe('one thing', () => {
  it('has one number: in the answer, on the ladder, and where a review or a claim says it', () => {
    for (let k = 0; k < 12; k++) {
      const { evidence } = simulateSession({ seed: seedOf(500 + k), throws: 18, discs: 3, gusts: 0.6 })
      const state = fit(evidence)
      const outcome = outcomeOf(state)
      const discs = evidence.discs.map((d) => d.id)
      const ranks = ranksOf(outcome, new Set())
      const words = wordingOf(unitsOf('metric'), (code) => code)
      for (const order of [discs, discs.toReversed()]) {
        const asked = { state, outcome, discs: order, pair: null, convention: 'turn + fade', words } as never
        const answer = answerOf('molds', {
          ...(asked as object),
          arms: [],
          short: [],
          through: new Map(),
        } as never)
        const { claim } = answer
        for (const { disc, shares } of ranks) {
          const said = judgeSaid(state, outcome, { says: 'is the most stable', disc } as never, order, [])
          expect(said.probability).closeTo(Math.min(0.9999, Math.max(0.0001, shares[0]!)), 1e-9)
          if (claim?.says === 'most stable' && claim.disc === disc)
            expect(answer.probability).equal(said.probability)
        }
      }
      for (const a of discs)
        for (const b of discs) {
          if (a === b) continue
          const pair = pairOf(outcome, a, b)
          const p = pair.a === a ? pair.pAMoreStable : 1 - pair.pAMoreStable
          const claim = { disc: a, says: 'is-more-stable-than', than: b, by: 0 } as never
          expect(judgeClaim(state, claim, []).probability).closeTo(p, 1e-9)
        }
    }
  })
})
