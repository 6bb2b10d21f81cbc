import { randomLcg, randomNormal, randomUniform } from 'd3'
import type { FlightNumbers } from '../../core/flight/disc.ts'
import { stabilityBy } from '../../core/flight/side.ts'
import { WEAR_TURNS } from '../../core/shelf/usualWear.ts'
import type { CarriedDisc } from '../../core/rotation/doing.ts'
import { FLOWN, flownBy } from '../../core/rotation/job.ts'
import type { Job } from '../../core/rotation/job.ts'
import { LN_HIT_SD, LN_WEAR_SD, RETEST_SD, Wear } from '../../core/rotation/wear.ts'
import { PLASTIC_KINDS, usualDrop, WEAR_CURVES } from '../../core/shelf/usualWear.ts'
import type { WornDisc } from '../../core/rotation/wear.ts'
import type { PlasticKind, Use } from '../../core/shelf/usualWear.ts'

/** A disc with the life it really leads. */
export interface Life {
  readonly id: string
  readonly kind: PlasticKind
  readonly blend: string
  readonly published: FlightNumbers
  /** Its numbers when it is new, and how much faster than usual it wears. */
  readonly whenNew: FlightNumbers
  readonly pace: number
  /** Throws that a hard hit really is worth to it. */
  readonly hitThrows: number
  readonly use: Use
  readonly tests: WornDisc['tests']
}

const LABEL: FlightNumbers = { speed: 9, glide: 5, turn: -0.5, fade: 2 }
/** How far discs are from their labels when new, one number. */
const LABEL_SD = 0.35
/** The same of stability, as it is believed. */
export const LABEL_STABILITY = { value: LABEL.turn + LABEL.fade, sd: 0.6 }

/** How it really flies after so much use. */
export function numbersAfter({ kind, pace, whenNew, hitThrows }: Life, use: Use): FlightNumbers {
  const lost = pace * usualDrop(kind, use, hitThrows)
  return { ...whenNew, turn: whenNew.turn - WEAR_TURNS * lost, fade: whenNew.fade - (1 - WEAR_TURNS) * lost }
}

/**
 * Lives of discs, in so many blends, with tests now and then.
 *
 * @param faster how much faster than believed plastics of a kind wear
 */
export function lives(
  seed: number,
  blends: number,
  discsEach: number,
  faster: (kind: PlasticKind) => number = () => 1,
): Life[] {
  const random = randomLcg(seed)
  const normal = randomNormal.source(random)(0, 1)
  const uniform = randomUniform.source(random)
  const kindOff = new Map(PLASTIC_KINDS.map((k) => [k, LN_WEAR_SD.kind * normal()]))
  const hitOff = new Map(PLASTIC_KINDS.map((k) => [k, LN_HIT_SD * normal()]))
  return Array.from({ length: blends }, (_, b) => {
    const kind = PLASTIC_KINDS[b % PLASTIC_KINDS.length]!
    const ofBlend = kindOff.get(kind)! + LN_WEAR_SD.blend * normal()
    return Array.from({ length: discsEach }, (__, d): Life => {
      const life = {
        id: `${b}-${d}`,
        kind,
        blend: `blend ${b}`,
        published: LABEL,
        whenNew: { ...LABEL, turn: LABEL.turn + LABEL_SD * normal(), fade: LABEL.fade + LABEL_SD * normal() },
        pace: faster(kind) * Math.exp(ofBlend + LN_WEAR_SD.disc * normal()),
        hitThrows: WEAR_CURVES[kind].hitThrows * Math.exp(hitOff.get(kind)!),
        use: { throws: Math.round(uniform(20, 500)()), hardHits: Math.round(uniform(0, 6)()) },
        tests: [],
      }
      // some were never tested again
      const count = Math.floor(uniform(0, 4)())
      return {
        ...life,
        tests: Array.from({ length: count }, (___, i) => {
          const share = count === 1 ? uniform(0, 1)() : i / (count - 1)
          const use = {
            throws: Math.round(share * life.use.throws),
            hardHits: Math.round(share * life.use.hardHits),
          }
          const sd = uniform(0.12, 0.4)()
          const really = stabilityBy(LABEL, numbersAfter(life, use))
          return { use, stability: { value: really + normal() * Math.hypot(sd, RETEST_SD), sd } }
        }),
      }
    })
  }).flat()
}

/** A disc as its wear is told. */
export const worn = ({ id, kind, blend, tests }: Life): WornDisc => ({
  id,
  kind,
  blend,
  tests,
  label: LABEL_STABILITY,
})
export const wearOf = (all: readonly Life[]): Wear =>
  new Wear(all.map(worn).filter((d) => d.tests.length > 0))

/** The same discs as the rotation comes to know them. */
export function carried(all: readonly Life[]): CarriedDisc[] {
  const wear = wearOf(all)
  return all.map((life) => ({
    id: life.id,
    published: life.published,
    numbers: life.published,
    covariance: [0.04, 0, 0, 0, 0.06, -0.05, 0, -0.05, 0.06],
    kind: life.kind,
    use: life.use,
    ways: wear.waysOf(worn(life)),
  }))
}

/** Whether it really does a job after so much use. */
export function does(life: Life, use: Use, { throwing, wanted, within }: Job): boolean {
  const flown = flownBy(numbersAfter(life, use), throwing)
  return flown !== undefined && FLOWN.every((part) => Math.abs(flown[part] - wanted[part]) <= within[part])
}
