import { angleWords, powerWords } from '../throw/words.ts'
import { STILL_AIR } from '../flight/air.ts'
import { fullSpeedWith } from '../flight/arm.ts'
import { landing } from '../flight/landing.ts'
import { cleanRelease } from '../flight/release.ts'
import { DEGREE } from '../flight/units.ts'
import { THROW_SD } from '../rating/evidence.ts'
import type { FlownDisc } from './likeness.ts'
import { lengthOf, speedOf } from './statements.ts'
import type { Wording } from './statements.ts'

/** Releases, winds and powers among which the shot is looked for that tells two discs apart. */
const ANGLES = [15, 10, 5, 0, -5, -10, -15].map((deg) => deg * DEGREE)
const WINDS = [-5, -3, 0, 3, 5]
const POWERS = [1, 0.85]

/** The shot at which two discs land farthest apart, against what an arm scatters. */
export interface TellingShot {
  readonly hyzerRad: number
  /** Positive from behind. */
  readonly windAlongMps: number
  /** Share of full power. */
  readonly power: number
  readonly apartM: number
  /** Distance over the scatter of two throws. */
  readonly against: number
}

/** How far a landing moves with one standard deviation of each error of a throw, m, root of the sum of squares. */
function scatter(fly: (by: readonly number[]) => readonly [number, number], noise: number): number {
  const zero = THROW_SD.map(() => 0)
  return Math.sqrt(
    THROW_SD.reduce((s, sd, k) => {
      const moved = (sense: number) => fly(zero.map((_, i) => (i === k ? sense * sd * noise : 0)))
      const [up, down] = [moved(1), moved(-1)]
      return s + ((up[0] - down[0]) / 2) ** 2 + ((up[1] - down[1]) / 2) ** 2
    }, 0),
  )
}

/**
 * The one shot that tells two discs apart best.
 *
 * @param armMps full power of the arm with a disc of speed 9 (V₉)
 * @param noise the arm's noise against the usual, as a ratio of standard deviations
 */
export function tellingShot(a: FlownDisc, b: FlownDisc, armMps: number, noise = 1): TellingShot {
  const flyer = ({ numbers, body }: FlownDisc, power: number, hyzerRad: number, windAlongMps: number) => {
    return (by: readonly number[]): readonly [number, number] => {
      const release = cleanRelease(
        power * fullSpeedWith(armMps, numbers.speed) * Math.exp(by[0] ?? 0),
        hyzerRad + (by[2] ?? 0),
      )
      const { carryM, veerM } = landing(
        numbers,
        body,
        {
          ...release,
          launchRad: release.launchRad + (by[1] ?? 0),
          noseRad: release.noseRad + (by[3] ?? 0),
          azimuthRad: by[4] ?? 0,
        },
        { ...STILL_AIR, windAlongMps },
      )
      return [carryM, veerM]
    }
  }
  let best: TellingShot | undefined
  for (const power of POWERS)
    for (const windAlongMps of WINDS)
      for (const hyzerRad of ANGLES) {
        const [one, other] = [a, b].map((d) => flyer(d, power, hyzerRad, windAlongMps))
        const [x, y] = [one!([]), other!([])]
        const apartM = Math.hypot(x[0] - y[0], x[1] - y[1])
        const against = apartM / (Math.SQRT2 * scatter(one!, noise))
        if (!best || against > best.against) best = { hyzerRad, windAlongMps, power, apartM, against }
      }
  return best!
}

function shotWords({ hyzerRad, windAlongMps, power }: TellingShot, words: Wording): string {
  const angle = angleWords(Math.round(hyzerRad / DEGREE))
  const wind =
    windAlongMps === 0
      ? 'in still air'
      : `${windAlongMps < 0 ? 'into' : 'with'} ${speedOf(words)(Math.abs(windAlongMps))} of wind`
  return `${angle} ${wind} at ${powerWords(power)}`
}

/** The same as a sentence without its end, of two discs by name. */
export function tellsWords(shot: TellingShot, a: string, b: string, words: Wording): string {
  const what =
    shot.against < 1
      ? `No single throw tells ${a} from ${b}; nearest to it comes one`
      : `What tells ${a} from ${b} best is a throw`
  return `${what} ${shotWords(shot, words)}: they land ${lengthOf(words)(shot.apartM)} apart, ${shot.against.toFixed(1)} times what two throws scatter`
}
