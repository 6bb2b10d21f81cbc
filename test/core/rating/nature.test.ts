import { expect } from 'chai'
import { mean, sum } from 'd3'
import { ARM_SLOPE } from '../../../core/flight/arm.ts'
import { SPIN_PER_MPS } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { windTurned } from '../../../core/judge/turnedWind.ts'
import { covarianceBorne } from '../../../core/rating/borne.ts'
import { AIM_LINE_SD, HABIT_SD } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { GUSTY_FROM, outcomeOf } from '../../../core/rating/outcome.ts'
import { AIM, BEARS_ON, HABIT, OF_DISC } from '../../../core/rating/places.ts'
import { calibrate } from '../../simulate/calibrate.ts'
import { simulateSession, UNLIKE } from '../../simulate/session.ts'
import type { SessionDesign } from '../../simulate/session.ts'

const seeds = (count: number) => Array.from({ length: count }, (_, k) => (0.0137 + 0.618 * (k + 1)) % 1)
const sessions = (design: Omit<SessionDesign, 'seed'>, count: number) =>
  seeds(count).map((seed) => simulateSession({ ...design, seed }))

describe('what a rating allows for', () => {
  it('finds by how much an outing was aimed off, and says how surely', () => {
    let held = 0
    const list = sessions({ called: true, control: true }, 14)
    for (const { evidence, aimRad } of list) {
      const state = fit(evidence)
      const borne = covarianceBorne(state, 0, { arm: 'arm-0' })
      const sd = Math.sqrt(borne[AIM * BEARS_ON + AIM]!)
      expect(sd).lessThan(0.75 * AIM_LINE_SD)
      if (Math.abs(state.aims[0]! - aimRad) < 1.645 * sd) held++
    }
    expect(held).least(11)
  })

  it('says that an outing was aimed off where it was, and hardly ever where it was not', () => {
    const told = (aimOffDeg: number | undefined, count = 6) =>
      sessions(
        { called: true, control: true, gusts: 0.6, ...(aimOffDeg !== undefined && { aimOffDeg }) },
        count,
      ).filter(({ evidence, aimRad }) =>
        outcomeOf(fit(evidence)).aims.some((a) => a.off && Math.sign(a.rightRad.value) === Math.sign(aimRad)),
      ).length
    expect(told(5)).least(4)
    expect(told(0.2)).equal(0)
    // as lines are that are paced out with usual care
    expect(told(undefined, 12)).most(1)
  })

  it('says that the wind differed more from its log than is usual where it did, and not where it did not', () => {
    const gusty = (turned: boolean, count: number) =>
      sessions({ called: true, gusts: 0.6, throws: 36, discs: 4 }, count).filter(
        ({ evidence }) =>
          outcomeOf(fit(turned ? windTurned(evidence, '', 'all') : evidence)).gusts >= GUSTY_FROM,
      ).length
    expect(gusty(false, 8)).equal(0)
    expect(gusty(true, 6)).least(4)
  })

  it('gives every outing an aim line of its own', () => {
    const [first, second] = sessions({ called: true, control: true, aimOffDeg: 3 }, 2)
    const throws = [first!, second!].flatMap(({ evidence }, o) =>
      evidence.throws.map((t) => ({
        ...t,
        id: `${o} ${t.id}`,
        disc: `${o} ${t.disc}`,
        outing: `outing ${o}`,
      })),
    )
    const discs = [first!, second!].flatMap(({ evidence }, o) =>
      evidence.discs.map((d) => ({ ...d, id: `${o} ${d.id}` })),
    )
    const state = fit({ discs, arms: first!.evidence.arms, throws })
    expect(state.outings).deep.equal(['outing 0', 'outing 1'])
    ;[first!, second!].forEach(({ aimRad }, o) => expect(Math.sign(state.aims[o]!)).equal(Math.sign(aimRad)))
  })

  it('turns an aim line the other way for a throw that fades to the other side', () => {
    const { evidence } = sessions({ called: true, control: true, aimOffDeg: 4 }, 1)[0]!
    const other = fit({ ...evidence, throws: evidence.throws.map((t) => ({ ...t, fadeSign: -1 as const })) })
    expect(other.aims[0]).closeTo(-fit(evidence).aims[0]!, 1e-9)
  })

  it('learns how an arm’s power grows with the class where it throws several, and leaves it alone where it does not', () => {
    const slopeOf = (design: Omit<SessionDesign, 'seed'>) => {
      const told = sessions(design, 9).map(({ evidence, arms }) => {
        const outcome = fit(evidence)
        const at = OF_DISC + HABIT.byClass
        const sd = Math.sqrt(covarianceBorne(outcome, 0, { arm: 'arm-0' })[at * BEARS_ON + at]!)
        return { sd, off: outcome.habits[0]![HABIT.byClass]! - (arms[0]!.classSlope! - ARM_SLOPE) }
      })
      return { sd: mean(told, (t) => t.sd)!, rms: Math.sqrt(mean(told, (t) => t.off ** 2)!) }
    }
    const several = slopeOf({ speeds: [2, 5, 7, 9, 11, 13], called: true, throws: 144 })
    const one = slopeOf({ called: true })
    expect(one.sd).closeTo(HABIT_SD[HABIT.byClass]!, 1e-9)
    expect(several.sd).lessThan(0.9 * HABIT_SD[HABIT.byClass]!)
    expect(several.rms).lessThan(1.6 * several.sd)
  })

  it('learns how an arm tilts drivers otherwise than mids, and does not take it for the discs', () => {
    const told = sessions({ speeds: [5, 12], hyzerByClassDeg: 4 / 7, gusts: 0.6 }, 14).map(
      ({ evidence, sides }) => {
        const state = fit(evidence)
        const outcome = outcomeOf(state)
        const settled = outcome.pairs.filter((p) => Math.max(p.pAMoreStable, 1 - p.pAMoreStable) >= 0.9)
        const gap = ({ a, b }: { a: string; b: string }) => sides.get(a)!.side - sides.get(b)!.side
        return {
          slope: state.habits[0]![HABIT.hyzerByClass]! / DEGREE,
          settled: settled.length,
          wrong: settled.filter((p) => p.pAMoreStable > 0.5 !== gap(p) > 0).length,
          held: mean(
            outcome.pairs,
            (p) => +(Math.abs(p.difference.value - gap(p)) < 1.645 * p.difference.sd),
          )!,
        }
      },
    )
    expect(mean(told, (t) => t.slope)).within(0.2, 0.7)
    expect(mean(told, (t) => t.held)).within(0.84, 0.97)
    const [settled, wrong] = [sum(told, (t) => t.settled), sum(told, (t) => t.wrong)]
    expect(settled).greaterThan(60)
    expect(wrong).lessThan(0.04 * settled)
    // an arm that threw one class says nothing of it
    const [one] = sessions({ called: true }, 1)
    expect(fit(one!.evidence).habits[0]![HABIT.hyzerByClass]).closeTo(0, 1e-9)
  })

  it('takes a spin that was measured as it is, and learns the arm’s where none was', () => {
    const told = sessions({ called: true, hang: true, control: true, throws: 144 }, 8).map(
      ({ evidence, arms }) => {
        const state = fit(evidence)
        return {
          found: state.habits[0]![HABIT.lnSpin]!,
          true_: Math.log(arms[0]!.spinPerMps! / SPIN_PER_MPS),
        }
      },
    )
    const together = mean(told, (t) => t.found * t.true_)!
    expect(together).greaterThan(0)
    const { evidence } = sessions({ called: true }, 1)[0]!
    const measured = fit({ ...evidence, throws: evidence.throws.map((t) => ({ ...t, spinRadps: 127 })) })
    expect(measured.habits[0]![HABIT.lnSpin]).closeTo(0, 1e-9)
  })

  it('sees in throws meant alike that nature is unlike the model, and is less sure for it', () => {
    const of = (design: Omit<SessionDesign, 'seed'>) =>
      mean(sessions({ called: true, ...design }, 9), ({ evidence }) => fit(evidence).discrepancy)!
    const [right, wrong] = [of({}), of({ unlike: UNLIKE })]
    expect(right).lessThan(0.08)
    expect(wrong).greaterThan(3 * right)
    const { evidence } = sessions({ called: true }, 1)[0]!
    const state = fit(evidence)
    const sure = outcomeOf({ ...state, discrepancy: 0 }).discs[0]!
    const unsure = outcomeOf({ ...state, discrepancy: 0.4 }).discs[0]!
    expect(unsure.side.sd).greaterThan(1.3 * sure.side.sd)
    expect(unsure.observed).deep.equal(sure.observed)
  })

  it('keeps orders true and intervals near what they say where all of it is wrong at once', () => {
    const c = calibrate('wrong', { called: true, unlike: UNLIKE, aimOffDeg: 3 }, 14, 40_000)
    expect(c.told.false / c.told.settled).lessThan(0.05)
    expect(c.held.difference[2]).within(0.82, 0.97)
    expect(c.held.side[2]).within(0.75, 0.97)
  })
})
