import { STILL_AIR } from '../flight/air.ts'
import { fullSpeedWith } from '../flight/arm.ts'
import { SEEN_NUMBERS } from '../flight/disc.ts'
import { landing } from '../flight/landing.ts'
import { cleanRelease } from '../flight/release.ts'
import { labelScale, stabilityAt } from '../flight/side.ts'
import { discrepancyBetween } from '../rating/discrepancy.ts'
import { OF_DISC } from '../rating/places.ts'
import { sideIn } from '../rating/sides.ts'
import type { FitState } from '../rating/state.ts'
import { HEADWIND, LABEL_BOUNDS, ORDER_BOUNDS } from './aims.ts'
import type { Aim, LabelFigure } from './aims.ts'
import type { Belief, Contrast } from './information.ts'

/** Place of a disc in a belief. */
function placeOf(belief: Belief, disc: string): number {
  const at = belief.discs.indexOf(disc)
  if (at < 0) throw new RangeError(`${disc} is not among the discs of this fit.`)
  return at
}

/** How much further to the fade side one disc flies than another, as the fit has it. */
export function contrastOf(state: FitState, belief: Belief, a: string, b: string): Contrast {
  const [i, j] = [placeOf(belief, a), placeOf(belief, b)]
  const [one, other] = [sideIn(state, i), sideIn(state, j)]
  return {
    value: one.side - other.side,
    bounds: ORDER_BOUNDS,
    floor: floorOf(state, [i, one.sideBy], [j, other.sideBy]),
    places: [
      ...one.sideBy.map((w, k) => [i * OF_DISC + k, w] as const),
      ...other.sideBy.map((w, k) => [j * OF_DISC + k, -w] as const),
    ],
  }
}

/** How far a figure of a disc is off its label, as the fit has it. */
function labelContrast(state: FitState, belief: Belief, disc: string, figure: LabelFigure): Contrast {
  const i = placeOf(belief, disc)
  const { published } = state.evidence.discs[i]!
  const model = discrepancyBetween(state, i, i)
  if (figure === 'stability') {
    const scale = labelScale(published)
    const { side, sideBy } = sideIn(state, i)
    const weights = sideBy.map((w) => w / scale.perNumber)
    return {
      value: stabilityAt(scale, side) - scale.stability,
      bounds: LABEL_BOUNDS,
      floor: weights.reduce((s, w, k) => s + w * w * model[k]!, 0),
      places: weights.map((w, k) => [i * OF_DISC + k, w] as const),
    }
  }
  const k = SEEN_NUMBERS.indexOf(figure)
  return {
    value: state.numbers[i]![k]! - published[figure],
    bounds: LABEL_BOUNDS,
    floor: model[k]!,
    places: [[i * OF_DISC + k, 1]],
  }
}

type Weighted = readonly [disc: number, weights: readonly [number, number, number]]
function floorOf(state: FitState, [a, one]: Weighted, [b, other]: Weighted): number {
  const of = (x: number, y: number) => discrepancyBetween(state, x, y)
  const [own, its, both] = [of(a, a), of(b, b), of(a, b)]
  return one.reduce(
    (s, w, k) => s + w * w * own[k]! + other[k]! ** 2 * its[k]! - 2 * w * other[k]! * both[k]!,
    0,
  )
}

/** Step of the differences, of a number. */
const NUDGE = 0.05

/** A figure of a disc’s flights at what the fit has it at, and how it follows glide, turn and fade. */
interface Followed {
  readonly value: number
  readonly by: readonly [number, number, number]
}

/** Finish of a flight flat and clean at the full power of an arm, m to the fade side, as a function of the numbers. */
function finishOf(state: FitState, at: number, armMps: number, windAlongMps: number): Followed {
  const { published, body } = state.evidence.discs[at]!
  const [glide, turn, fade] = state.numbers[at] as unknown as [number, number, number]
  const flown = (k: number, by: number) =>
    landing(
      {
        speed: published.speed,
        glide: glide + (k === 0 ? by : 0),
        turn: turn + (k === 1 ? by : 0),
        fade: fade + (k === 2 ? by : 0),
      },
      body,
      cleanRelease(fullSpeedWith(armMps, published.speed)),
      { ...STILL_AIR, windAlongMps },
    ).veerM
  const slope = (k: number) => (flown(k, NUDGE) - flown(k, -NUDGE)) / (2 * NUDGE)
  return { value: flown(0, 0), by: [slope(0), slope(1), slope(2)] }
}

/** How far a m/s of headwind takes the finish to the turn side, m. */
function windCost(state: FitState, at: number, armMps: number): Followed {
  const [still, against] = [finishOf(state, at, armMps, 0), finishOf(state, at, armMps, -HEADWIND)]
  const by = (k: 0 | 1 | 2) => (still.by[k] - against.by[k]) / HEADWIND
  return { value: (still.value - against.value) / HEADWIND, by: [by(0), by(1), by(2)] }
}

/** The same without its sense: what a disc that holds its line has little of. */
function unsigned({ value, by }: Followed): Followed {
  const sign = value < 0 ? -1 : 1
  return { value: sign * value, by: [sign * by[0], sign * by[1], sign * by[2]] }
}

/** A figure of one disc, or what it is more than that of another, asked on which side of nought it lies. */
function followed(
  state: FitState,
  one: readonly [number, Followed],
  other?: readonly [number, Followed],
): Contrast {
  const places = ([at, { by }]: readonly [number, Followed], sign: number) =>
    by.map((w, k) => [at * OF_DISC + k, sign * w] as const)
  const model = discrepancyBetween(state, one[0], one[0])
  return {
    value: one[1].value - (other?.[1].value ?? 0),
    bounds: ORDER_BOUNDS,
    floor: other
      ? floorOf(state, [one[0], one[1].by], [other[0], other[1].by])
      : one[1].by.reduce((s, w, k) => s + w * w * model[k]!, 0),
    places: [...places(one, 1), ...(other ? places(other, -1) : [])],
  }
}

/**
 * What an aim asks about, as the fit has it.
 *
 * @throws RangeError when a disc of it is not among the discs of the fit
 */
export function contrastFor(state: FitState, belief: Belief, aim: Aim): Contrast {
  switch (aim.of) {
    case 'order':
      return contrastOf(state, belief, aim.a, aim.b)
    case 'label':
      return labelContrast(state, belief, aim.disc, aim.figure)
    case 'finish': {
      const at = placeOf(belief, aim.disc)
      return followed(state, [at, finishOf(state, at, aim.armMps, 0)])
    }
    case 'wind': {
      const at = placeOf(belief, aim.disc)
      return followed(state, [at, windCost(state, at, aim.armMps)])
    }
    case 'holds': {
      const cost = (disc: string) => {
        const at = placeOf(belief, disc)
        return [at, unsigned(windCost(state, at, aim.armMps))] as const
      }
      return followed(state, cost(aim.a), cost(aim.b))
    }
  }
}
