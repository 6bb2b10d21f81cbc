// npm run calibrate:lab: how far the chance that the lab states lies from the real one, with and without whoever throws.
import { pathToFileURL } from 'node:url'
import { STILL_AIR } from '../../core/flight/air.ts'
import { ARM_SLOPE } from '../../core/flight/arm.ts'
import { SPIN_PER_MPS } from '../../core/flight/release.ts'
import type { FlightNumbers } from '../../core/flight/disc.ts'
import { chanceOf, cloudOf } from '../../core/lab/cloud.ts'
import type { Obstacle } from '../../core/lab/field.ts'
import { labFlightOf } from '../../core/lab/flight.ts'
import { FLAT_THROW } from '../../core/lab/setup.ts'
import type { LabDisc, Setup } from '../../core/lab/setup.ts'
import { armsShown } from '../../core/lab/who.ts'
import type { ArmKnown } from '../../core/lab/who.ts'
import { numbersCovariance } from '../../core/rating/discrepancy.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import { fit } from '../../core/rating/fit.ts'
import { HABIT, OF_HABIT } from '../../core/rating/places.ts'
import type { SimulatedArm } from '../../core/simulate/thrower.ts'
import { seedOf, simulateSession } from './session.ts'

const FLIGHTS = 600
/** Three fields about where a disc lands by its label: a green, a line of water beside it, a gap on the way. */
function fieldsAbout({ downM, sideM }: { readonly downM: number; readonly sideM: number }): Obstacle[][] {
  return [
    [{ kind: 'zone', at: { downM, sideM }, radiusM: 12 }],
    [
      {
        kind: 'line',
        from: { downM: 0, sideM: sideM + 8 },
        to: { downM: 160, sideM: sideM + 8 },
        water: true,
      },
    ],
    [-1, 1].map((side) => ({
      kind: 'tree' as const,
      at: { downM: 0.6 * downM, sideM: 0.3 * sideM + 6 * side },
      radiusM: 1.5,
      heightM: 15,
    })),
  ]
}

/** An arm as it truly is. */
function truly({ habit, classSlope, spinPerMps, hyzerSlopeRad }: SimulatedArm): ArmKnown {
  const is = new Array<number>(OF_HABIT).fill(0)
  is[HABIT.lnSpeed] = habit.lnSpeed
  is[HABIT.launch] = habit.launchRad
  is[HABIT.hyzer] = habit.hyzerRad
  is[HABIT.nose] = habit.noseRad
  is[HABIT.byClass] = (classSlope ?? ARM_SLOPE) - ARM_SLOPE
  is[HABIT.lnSpin] = Math.log((spinPerMps ?? SPIN_PER_MPS) / SPIN_PER_MPS)
  is[HABIT.hyzerByClass] = hyzerSlopeRad ?? 0
  return { habit: is, covariance: new Array<number>(OF_HABIT ** 2).fill(0) }
}

/** How far stated chances lie from real ones, root mean square, with whoever throws in them and without. */
export function chancesOff(sessions: number): {
  readonly withWho: number
  readonly without: number
  readonly count: number
} {
  const sums = { withWho: 0, without: 0, count: 0 }
  for (let k = 0; k < sessions; k++) {
    const { evidence, truth, arms } = simulateSession({
      seed: seedOf(9000 + k),
      called: true,
      gusts: 0.6,
      discs: 4,
      throws: 48,
    })
    const state = fit(evidence)
    const who: ArmKnown = armsShown(state)[0]!
    const arm = arms[0]!
    const thrown = (disc: LabDisc, by?: ArmKnown): Setup => ({
      disc,
      throw: { ...FLAT_THROW, armMps: arm.fullSpeedMps, ...(by && { who: by }) },
      air: STILL_AIR,
    })
    evidence.discs.forEach((rated: RatedDisc, d) => {
      const [glide, turn, fade] = state.numbers[d] as unknown as [number, number, number]
      const { published, body } = rated
      const known = {
        numbers: { ...published, glide, turn, fade },
        covariance: [...numbersCovariance(state, d, d)],
        body,
      }
      const exactly = (numbers: FlightNumbers) => ({ numbers, covariance: null, body })
      const landed = labFlightOf(thrown(exactly(published)))!.landed
      for (const field of fieldsAbout(landed)) {
        const chance = (setup: Setup) => chanceOf(cloudOf(setup, field, FLIGHTS), field).both
        const real = chance(thrown(exactly(truth.get(rated.id)!), truly(arm)))
        sums.withWho += (chance(thrown(known, who)) - real) ** 2
        sums.without += (chance(thrown(known)) - real) ** 2
        sums.count++
      }
    })
  }
  return {
    withWho: Math.sqrt(sums.withWho / sums.count),
    without: Math.sqrt(sums.without / sums.count),
    count: sums.count,
  }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const { withWho, without, count } = chancesOff(Number(process.argv[2] ?? 60))
  const points = (v: number) => `${(100 * v).toFixed(1)} points`
  console.log(
    `${count} stated chances lie ${points(withWho)} from the real ones with whoever throws in them, ${points(without)} without.`,
  )
  if (withWho > 0.1) process.exitCode = 1
}
