import { randomLcg, randomNormal, randomUniform } from 'd3'
import { STILL_AIR } from '../flight/air.ts'
import { STANDARD_BODY } from '../flight/disc.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import { REFERENCE_LAUNCH } from '../flight/release.ts'
import { DEGREE } from '../flight/units.ts'
import { labFlightOf } from '../lab/flight.ts'
import type { LabFlight } from '../lab/flight.ts'
import type { LabThrow, Setup } from '../lab/setup.ts'
import { QUESTIONS } from './question.ts'
import type { DrillQuestion, DrillKind, Truth } from './question.ts'

/** Nose so far up, or down, is seen as that at the easiest and at the hardest, degrees. */
const NOSE = { easy: 9, hard: 3 }
/** So many throws have the nose up besides, by so much: what eyes are often wrong about. */
const NOSE_UP = { share: 0.3, deg: [2.5, 6] } as const
/** So much more stable is one of two, on the scale of turn and fade. */
const APART = { easy: 3, hard: 0.4 }
/** So far from what was meant the one cause brings a throw aside, m: the others hardly at all. */
const ASIDE = { easy: 22, hard: 7 }
/** Tilted less a disc flies flat, degrees; so far from that it is not in doubt. */
const FLAT = 1
const CLEAR = { easy: 9, hard: 2.5 }
/** So much of a flight is shown before the landing is asked. */
const SHOWN = { easy: 0.8, hard: 0.45 }
/** Share of a flight that is shown before its landing is called, at a level. */
export const shownOfLanding = (level: number): number => between(SHOWN, level)
/** Wind that is about besides, m/s: from none to that. */
const BREEZE = 4
/** Deals that are tried until one is as it should be. */
const TRIES = 400
/** A flight shorter than that is not shown, m. */
const SHORTEST = 30

const between = ({ easy, hard }: { readonly easy: number; readonly hard: number }, level: number) =>
  easy + (hard - easy) * level

interface Dealt {
  readonly flights: readonly Setup[]
  readonly truth: Truth
  readonly shownPart?: number
}

/** Draws discs, throws and winds as they are about. */
class Dealer {
  readonly #random: () => number
  readonly normal: () => number
  readonly #option: number
  constructor(
    seed: number,
    readonly level: number,
  ) {
    this.#random = randomLcg(seed)
    this.normal = randomNormal.source(this.#random)()
    this.#option = this.#random()
  }
  /** The option that is to be true: the same however often it is dealt, so that none is dealt less because it seldom comes out. */
  option(count: number): number {
    return Math.min(count - 1, Math.floor(count * this.#option))
  }
  within(low: number, high: number): number {
    return randomUniform.source(this.#random)(low, high)()
  }
  one<T>(of: readonly T[]): T {
    return of[Math.min(of.length - 1, Math.floor(this.#random() * of.length))]!
  }
  halves(low: number, high: number): number {
    return Math.round(2 * this.within(low, high)) / 2 + 0
  }
  numbers(): FlightNumbers {
    return {
      speed: this.one([4, 5, 7, 9, 11]),
      glide: this.halves(3.5, 5.5),
      turn: this.halves(-3.5, 0.5),
      fade: this.halves(0, 3.5),
    }
  }
  setup(change: Partial<LabThrow> = {}, numbers = this.numbers()): Setup {
    const breeze = BREEZE * this.level
    return {
      disc: { numbers, covariance: null, body: STANDARD_BODY },
      throw: {
        armMps: this.within(22, 28),
        power: this.within(0.85, 1),
        hyzerDeg: this.within(-12, 16),
        noseDeg: this.within(0, 1) < NOSE_UP.share ? this.within(...NOSE_UP.deg) : 1.5 * this.normal(),
        launchDeg: REFERENCE_LAUNCH / DEGREE + this.normal(),
        aimDeg: this.normal(),
        spin: 1,
        scatter: 1,
        ...change,
      },
      air: {
        ...STILL_AIR,
        windAlongMps: this.within(-breeze, breeze),
        windTowardFadeMps: this.within(-breeze, breeze),
      },
    }
  }
}

const flies = (flight: LabFlight | undefined): flight is LabFlight =>
  flight !== undefined && flight.landed.downM >= SHORTEST

/** One deal of each kind; undefined where it is not as it should be, and is dealt again. */
const DEALS: Record<DrillKind, (d: Dealer) => Dealt | undefined> = {
  angle(d) {
    const hyzerDeg = Math.round(d.within(-25, 30))
    return { flights: [d.setup({ hyzerDeg })], truth: { kind: 'range', value: hyzerDeg } }
  },
  turn(d) {
    const setup = d.setup()
    return { flights: [setup], truth: { kind: 'range', value: setup.disc.numbers.turn } }
  },
  fade(d) {
    const setup = d.setup()
    return { flights: [setup], truth: { kind: 'range', value: setup.disc.numbers.fade } }
  },
  nose(d) {
    const option = d.option(3)
    const noseDeg = [1, 0, -1][option]! * between(NOSE, d.level) + 0.6 * d.normal()
    return { flights: [d.setup({ noseDeg })], truth: { kind: 'shares', option } }
  },
  'more-stable'(d) {
    const option = d.option(2)
    const first = d.numbers()
    const apart = between(APART, d.level) * (option === 0 ? -1 : 1)
    const second = { ...first, turn: first.turn + 0.6 * apart, fade: first.fade + 0.4 * apart }
    if (second.turn < -5 || second.turn > 1 || second.fade < -0.5 || second.fade > 5) return undefined
    const [a, b] = [d.setup({ hyzerDeg: 3 }, first), d.setup({}, second)]
    // thrown alike but for what a hand does from throw to throw
    const like = { ...a.throw, hyzerDeg: 3 + 2 * d.level * d.normal(), noseDeg: 1.5 * d.normal() }
    const flights = [a, { ...b, throw: like }]
    return { flights, truth: { kind: 'shares', option } }
  },
  'stood-up'(d) {
    const setup = d.setup({ hyzerDeg: d.within(6, 28) })
    const flight = labFlightOf(setup)
    if (!flight) return undefined
    const least = Math.min(...flight.tiltDeg)
    const clear = between(CLEAR, d.level)
    const option = d.option(2)
    const isSo = option === 0 ? least <= FLAT : least >= FLAT + clear
    return isSo ? { flights: [setup], truth: { kind: 'shares', option } } : undefined
  },
  landing(d) {
    const setup = d.setup()
    const flight = labFlightOf(setup)
    return (
      flight && {
        flights: [setup],
        truth: { kind: 'circle', at: flight.landed },
        shownPart: shownOfLanding(d.level),
      }
    )
  },
  cause(d) {
    const option = d.option(3)
    const meant = d.setup({ noseDeg: 0, aimDeg: 0, hyzerDeg: 4 })
    const calm = { ...meant, air: STILL_AIR }
    const way = d.one([-1, 1])
    const { numbers } = calm.disc
    const changed: Setup =
      option === 0
        ? {
            ...calm,
            disc: {
              ...calm.disc,
              numbers: { ...numbers, turn: numbers.turn + 1.6 * way, fade: numbers.fade + way },
            },
          }
        : option === 1
          ? { ...calm, throw: { ...calm.throw, hyzerDeg: 4 + 12 * way, noseDeg: 1.5 * way } }
          : { ...calm, air: { ...STILL_AIR, windTowardFadeMps: 6 * way, windAlongMps: -3 * way } }
    const [was, is] = [labFlightOf(calm), labFlightOf(changed)]
    if (!was || !is) return undefined
    const aside = Math.abs(is.landed.sideM - was.landed.sideM)
    const wanted = between(ASIDE, d.level)
    if (aside < wanted || aside > 2.5 * wanted) return undefined
    return { flights: [calm, changed], truth: { kind: 'shares', option } }
  },
}

/**
 * A question of a kind and a level, made up; the same seed makes the same.
 *
 * @param seed 0…1
 * @param level 0…1
 * @throws RangeError where none comes out as it should
 */
export function drillQuestionOf(kind: DrillKind, level: number, seed: number): DrillQuestion {
  const d = new Dealer(seed, level)
  for (let i = 0; i < TRIES; i++) {
    const dealt = DEALS[kind](d)
    if (!dealt || !dealt.flights.every((f) => flies(labFlightOf(f)))) continue
    return {
      kind,
      level,
      flights: dealt.flights,
      // where the wind may have done it, it is not told
      windShown: kind !== 'cause' && level < 0.7,
      shownPart: dealt.shownPart ?? 1,
      truth: dealt.truth,
    }
  }
  throw new RangeError(`No flight was found to ask “${QUESTIONS[kind].asks}” about.`)
}
