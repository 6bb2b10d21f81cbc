import { STILL_AIR } from '../flight/air.ts'
import { STANDARD_BODY } from '../flight/disc.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import { pathFeatures, pathPoints, tracePath } from '../flight/path.ts'
import type { PathFeatures, PlanPoint } from '../flight/path.ts'
import { fullSpeedWith } from '../flight/arm.ts'
import { cleanRelease, referenceSpeed } from '../flight/release.ts'
import { factorise } from '../rating/cholesky.ts'
import type { DiscOutcome } from '../rating/outcome.ts'
import { Z90 } from '../rating/normal.ts'

/** A disc's flight at the reference release in still reference air, and how far it may lie beside it. */
export interface CorrectedFlight {
  readonly disc: string
  readonly path: readonly PlanPoint[]
  /** 90 % band: the sides of the path at the same distances. */
  readonly band: readonly { readonly x: number; readonly low: number; readonly high: number }[]
  readonly features: PathFeatures
  /** Standard deviation of the carry, m. */
  readonly carrySd: number
  /** Release speed it is shown at, m/s. */
  readonly speedMps: number
  /** The same release flown by the published numbers. */
  readonly published: readonly PlanPoint[]
}

/** Share of carry at which paths are compared. */
const STATIONS = Array.from({ length: 41 }, (_, i) => i / 40)

/** How a corrected flight is thrown; without an arm every disc flies at the reference speed of its speed number. */
export interface ThrownHow {
  readonly hyzerRad: number
  /** V₉, m/s; null for each disc's reference speed. */
  readonly armMps: number | null
  /** From behind where positive, m/s. */
  readonly windAlongMps: number
}
/** The reference release in still air. */
export const AS_REFERENCE: ThrownHow = { hyzerRad: 0, armMps: null, windAlongMps: 0 }

const speedOf = ({ armMps }: ThrownHow, speedNumber: number) =>
  armMps === null ? referenceSpeed(speedNumber) : fullSpeedWith(armMps, speedNumber)

function flown(numbers: FlightNumbers, how: ThrownHow) {
  // reference flights are of a standard disc: what a disc weighs is part of how it is corrected
  const path = tracePath(numbers, STANDARD_BODY, cleanRelease(speedOf(how, numbers.speed), how.hyzerRad), {
    ...STILL_AIR,
    windAlongMps: how.windAlongMps,
  })
  const points = pathPoints(path, 90)
  let k = 0
  const plan = STATIONS.map((share): PlanPoint => {
    const x = share * path.carryM
    while (k + 2 < points.length && points[k + 1]!.x < x) k++
    const [a, b] = [points[k]!, points[k + 1]!]
    return { x, y: a.y + ((x - a.x) / (b.x - a.x)) * (b.y - a.y) }
  })
  return { path, plan }
}

/**
 * The corrected flight of a disc: its posterior mean numbers at the reference release in still reference air, or as somebody throws it.
 *
 * The band carries the posterior covariance of (glide, turn, fade) through the flight by one pair of flights
 * along each column of its Cholesky factor.
 */
export function correctedFlight(disc: DiscOutcome, how: ThrownHow = AS_REFERENCE): CorrectedFlight {
  const { path, plan } = flown(disc.observed, how)
  const factor = Float64Array.from(disc.covariance)
  factorise(factor, 3)
  const variance = new Float64Array(STATIONS.length)
  let carryVariance = 0
  for (let column = 0; column < 3; column++) {
    const moved = ([1, -1] as const).map((sense) => {
      const by = (row: number) => (row >= column ? sense * factor[row * 3 + column]! : 0)
      return flown(
        {
          speed: disc.observed.speed,
          glide: disc.observed.glide + by(0),
          turn: disc.observed.turn + by(1),
          fade: disc.observed.fade + by(2),
        },
        how,
      )
    }) as [ReturnType<typeof flown>, ReturnType<typeof flown>]
    STATIONS.forEach((_, i) => (variance[i]! += ((moved[0].plan[i]!.y - moved[1].plan[i]!.y) / 2) ** 2))
    carryVariance += ((moved[0].path.carryM - moved[1].path.carryM) / 2) ** 2
  }
  return {
    disc: disc.disc,
    path: plan,
    band: plan.map(({ x, y }, i) => {
      const half = Z90 * Math.sqrt(variance[i]!)
      return { x, low: y - half, high: y + half }
    }),
    features: pathFeatures(path),
    carrySd: Math.sqrt(carryVariance),
    speedMps: speedOf(how, disc.observed.speed),
    published: flown(disc.published, how).plan,
  }
}
