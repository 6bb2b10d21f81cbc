import { randomNormal } from 'd3'
import { airDensity, REFERENCE_DENSITY } from '../../core/flight/air.ts'
import { STANDARD_BODY } from '../../core/flight/disc.ts'
import type { FlightNumbers } from '../../core/flight/disc.ts'
import { fadeSign, mirrored } from '../../core/flight/hand.ts'
import type { Hand, Stroke } from '../../core/flight/hand.ts'
import { pathPoints } from '../../core/flight/path.ts'
import { DEGREE } from '../../core/flight/units.ts'
import { throwDisc, USUAL_SPREAD } from '../../core/simulate/thrower.ts'
import type { SimulatedArm } from '../../core/simulate/thrower.ts'
import { gustSeed } from './anemometer.ts'
import type { ThrowPath } from '../../contract/trials.ts'
import type { FlightCamera } from './flightCamera.ts'
import type { RangeFinder, RangeReading } from './rangeFinder.ts'

/** What nature knows and nobody else: how discs really fly and arms really throw; undefined for what it never made. */
export interface Nature {
  readonly numbersOf: (code: string) => FlightNumbers | undefined
  readonly armOf: (thrower: string) => SimulatedArm | undefined
}

/** A throw that is asked for. */
export interface AskedOfVolunteer {
  readonly code: string
  readonly published: FlightNumbers
  readonly grams: number | null
  readonly thrower: string
  readonly hand: Hand
  readonly fullMps: number | null
  readonly stroke: Stroke
  readonly hyzerDeg: number
  readonly power: number
  /** Aim off the line, to the right; along it where null. */
  readonly aimDeg: number | null
  readonly windAlongMps: number | null
  readonly windAcrossMps: number | null
  readonly temperatureC: number | null
  readonly altitudeM: number | null
}

/** What those beside the tee saw of it. */
export interface VolunteerThrow {
  readonly range: RangeReading
  readonly hangS: number
  readonly hyzerCalledDeg: number
  readonly path: ThrowPath
}

/** A disc that nature never made flies about as its label says. */
const OFF_LABEL = 0.5
/** The disc meets another wind than the instrument, m/s. */
const ELSEWHERE = 0.4
const CALLED_SD_DEG = 1.2
const HANG_SD_S = 0.15
/** Full power with a disc of speed 9 of somebody nobody has measured. */
const ORDINARY_MPS = 24

const offLabel = (code: string, published: FlightNumbers): FlightNumbers => {
  const by = (key: string) => OFF_LABEL * 2 * (gustSeed(`${code} ${key}`) - 0.5) * 2
  return { ...published, turn: published.turn + by('turn'), fade: published.fade + by('fade') }
}

/** Somebody who throws what is asked for, and those beside the tee who see it. */
export interface Volunteer {
  readonly name: string
  throwIt(asked: AskedOfVolunteer): VolunteerThrow
}

/** A stand-in for somebody who throws: one flight, seen by a range finder, a stopwatch, an eye and a camera. */
export function volunteer(
  nature: Nature,
  finder: RangeFinder,
  camera: FlightCamera,
  uniform: () => number,
): Volunteer {
  const normal = randomNormal.source(uniform)()
  const throwIt = (asked: AskedOfVolunteer): VolunteerThrow => {
    const sign = fadeSign(asked.hand, asked.stroke)
    const arm = nature.armOf(asked.thrower) ?? {
      fullSpeedMps: asked.fullMps ?? ORDINARY_MPS,
      habit: { lnSpeed: 0, launchRad: 0, hyzerRad: 0, noseRad: 0 },
      spread: USUAL_SPREAD,
      wobble: 0.03,
    }
    const thrown = throwDisc(
      nature.numbersOf(asked.code) ?? offLabel(asked.code, asked.published),
      { ...STANDARD_BODY, massKg: (asked.grams ?? 175) / 1000 },
      asked.stroke === 'forehand' && asked.fullMps !== null ? { ...arm, fullSpeedMps: asked.fullMps } : arm,
      {
        power: asked.power,
        hyzerRad: asked.hyzerDeg * DEGREE,
        aimRad: mirrored(asked.aimDeg ?? 0, sign) * DEGREE,
      },
      {
        densityKgM3:
          asked.temperatureC === null
            ? REFERENCE_DENSITY
            : airDensity(asked.temperatureC, asked.altitudeM ?? 0),
        windAlongMps: (asked.windAlongMps ?? 0) + ELSEWHERE * normal(),
        windTowardFadeMps: mirrored(asked.windAcrossMps ?? 0, sign) + ELSEWHERE * normal(),
        shearExponent: 0,
      },
      uniform,
    )
    const points = pathPoints(thrown.path, 200)
    const { carryM, veerM, hangS } = thrown.landing
    return {
      range: finder.measure({ downM: carryM, rightM: mirrored(veerM, sign) }),
      hangS: Math.round(10 * (hangS + HANG_SD_S * normal())) / 10,
      hyzerCalledDeg: Math.round(thrown.release.hyzerRad / DEGREE + CALLED_SD_DEG * normal()),
      path: camera.film((s) => {
        const p = points[Math.round((s / hangS) * (points.length - 1))]
        return p && { downM: p.x, rightM: mirrored(p.y, sign), upM: p.z }
      }, hangS),
    }
  }
  return { name: 'Simulated volunteer', throwIt }
}
