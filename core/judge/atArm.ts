import { STILL_AIR } from '../flight/air.ts'
import { STANDARD_BODY } from '../flight/disc.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import { tracePath, veerAt } from '../flight/path.ts'
import { cleanRelease, referenceSpeed } from '../flight/release.ts'

/** Shape of a flight: its side at 60 % of the carry and at landing, as shares of the carry. */
export interface Shape {
  readonly at60: number
  readonly atEnd: number
}

/** Shape of a disc thrown flat and cleanly in still reference air. */
export function shapeAt(numbers: FlightNumbers, speedMps: number): Shape {
  const path = tracePath(numbers, STANDARD_BODY, cleanRelease(speedMps), STILL_AIR)
  return { at60: veerAt(path, 0.6 * path.carryM) / path.carryM, atEnd: path.veerM / path.carryM }
}

/** A disc as it seems at a given release speed. */
export interface SeemingNumbers {
  readonly numbers: FlightNumbers
  readonly speedMps: number
  /** False where no disc thrown at its reference speed shows quite this shape; the nearest is given. */
  readonly exact: boolean
}

const SEARCH = { turn: [-7, 4], fade: [-3, 9] } as const
const clamp = (v: number, [low, high]: readonly [number, number]) => Math.max(low, Math.min(high, v))

/**
 * The numbers a disc seems to have at a release speed: those of the disc that, thrown at the reference speed of its
 * speed number, shows the same shape. At the disc's own reference speed they are its own numbers.
 *
 * Two equations in turn and fade (glide is kept), solved by Newton's method with a damped step.
 *
 * @param speedMps release speed, m/s
 */
export function numbersAtSpeed(numbers: FlightNumbers, speedMps: number): SeemingNumbers {
  const wanted = shapeAt(numbers, speedMps)
  const own = referenceSpeed(numbers.speed)
  const off = (turn: number, fade: number): [number, number] => {
    const s = shapeAt({ ...numbers, turn, fade }, own)
    return [s.at60 - wanted.at60, s.atEnd - wanted.atEnd]
  }
  const size = ([a, b]: readonly [number, number]) => Math.hypot(a, b)
  let { turn, fade } = numbers
  let now = off(turn, fade)
  const H = 1e-3
  for (let i = 0; i < 40 && size(now) > 1e-9; i++) {
    const [dTurn, dFade] = [off(turn + H, fade), off(turn, fade + H)]
    const [a, b] = [(dTurn[0] - now[0]) / H, (dFade[0] - now[0]) / H]
    const [c, d] = [(dTurn[1] - now[1]) / H, (dFade[1] - now[1]) / H]
    const det = a * d - b * c
    if (Math.abs(det) < 1e-14) break
    const [st, sf] = [(-d * now[0] + b * now[1]) / det, (c * now[0] - a * now[1]) / det]
    let better = false
    for (let share = Math.min(1, 1.5 / Math.hypot(st, sf)); share > 1e-3; share /= 2) {
      const [t, f] = [clamp(turn + share * st, SEARCH.turn), clamp(fade + share * sf, SEARCH.fade)]
      const next = off(t, f)
      if (size(next) >= size(now)) continue
      ;[turn, fade, now, better] = [t, f, next, true]
      break
    }
    if (!better) break
  }
  return { numbers: { ...numbers, turn, fade }, speedMps, exact: size(now) < 1e-4 }
}
