import { STILL_AIR } from '../flight/air.ts'
import { fullSpeedWith } from '../flight/arm.ts'
import { cleanRelease } from '../flight/release.ts'
import { DEGREE } from '../flight/units.ts'
import { numbersAtSpeed } from '../judge/atArm.ts'
import { findAngle } from '../judge/findAngle.ts'
import type { FoundAngle } from '../judge/findAngle.ts'
import { likest } from '../judge/likeness.ts'
import type { FlownDisc } from '../judge/likeness.ts'
import type { FitState } from '../rating/state.ts'
import type { Outcome } from '../rating/outcome.ts'

/** An angle, degrees of hyzer; or why there is none. */
type Angle = { readonly hyzer_deg: number } | { readonly none: string }

/** What each disc of a file is for an arm, as `rate --arm` prints it. */
export interface ArmReport {
  /** The arm's full power with a disc of speed 9. */
  readonly speed_mps: number
  readonly discs: readonly {
    readonly disc: string
    /** Its full power with this one. */
    readonly speed_mps: number
    /** The numbers it seems to have at that speed; not exact where no disc shows quite that shape. */
    readonly seems: { readonly turn: number; readonly fade: number; readonly exact: boolean }
    readonly stands_up_from: Angle
    readonly finishes_on_the_line_from: Angle
    /** Two throws of one disc lie this far apart. */
    readonly spread_m: number
    readonly likest: readonly {
      readonly disc: string
      readonly distance_m: number
      /** How much farther it carries. */
      readonly farther_m: number
      readonly same_shape: boolean
      readonly same_distance: boolean
      readonly overlaps: boolean
    }[]
  }[]
}

const to = (digits: number) => (v: number) => Math.round(v * 10 ** digits) / 10 ** digits + 0
/** Likest discs that are named. */
const LIKEST = 3

const angleOf = (found: FoundAngle): Angle =>
  found.found ? { hyzer_deg: to(1)(found.hyzerRad / DEGREE) } : { none: found.why }

/** Every disc at the full power of an arm (V₉), by its rated numbers: how it seems, which angles work, what flies most like it. */
export function armReport(state: FitState, outcome: Outcome, armMps: number): ArmReport {
  const flown = new Map<string, FlownDisc>(
    outcome.discs.map((d, i) => [d.disc, { numbers: d.observed, body: state.evidence.discs[i]!.body }]),
  )
  return {
    speed_mps: armMps,
    discs: outcome.discs.map(({ disc }) => {
      const own = flown.get(disc)!
      const speedMps = fullSpeedWith(armMps, own.numbers.speed)
      const seems = numbersAtSpeed(own.numbers, speedMps)
      const angle = (kind: 'stand up' | 'finish on the line') =>
        angleOf(findAngle(own.numbers, own.body, cleanRelease(speedMps), STILL_AIR, { kind }))
      const { spread, others } = likest(own, new Map([...flown].filter(([other]) => other !== disc)), armMps)
      return {
        disc,
        speed_mps: to(2)(speedMps),
        seems: { turn: to(2)(seems.numbers.turn), fade: to(2)(seems.numbers.fade), exact: seems.exact },
        stands_up_from: angle('stand up'),
        finishes_on_the_line_from: angle('finish on the line'),
        spread_m: to(2)(spread.pathM),
        likest: others.slice(0, LIKEST).map((o) => ({
          disc: o.disc,
          distance_m: to(2)(o.distanceM),
          farther_m: to(2)(o.fartherM),
          same_shape: o.sameShape,
          same_distance: o.sameDistance,
          overlaps: o.overlaps,
        })),
      }
    }),
  }
}

type Likest = ArmReport['discs'][number]['likest'][number]
const senses = ({ overlaps, same_shape, same_distance, farther_m }: Likest): string => {
  if (overlaps) return ', overlaps'
  if (same_shape)
    return `, the same shape, ${Math.abs(farther_m).toFixed(0)} m ${farther_m > 0 ? 'farther' : 'shorter'}`
  return same_distance ? ', as far in another shape' : ''
}

/** The same in sentences. */
export function armText(report: ArmReport): string {
  const figure = (v: number) => v.toFixed(1).replace('-', '−')
  const angle = (a: Angle) =>
    'none' in a
      ? a.none
      : a.hyzer_deg === 0
        ? 'flat'
        : `${Math.abs(a.hyzer_deg)}° ${a.hyzer_deg > 0 ? 'hyzer' : 'anhyzer'}`
  return [
    `Thrown by an arm of ${report.speed_mps} m/s with a disc of speed 9:`,
    '',
    ...report.discs.map(({ disc, seems, stands_up_from, finishes_on_the_line_from, likest: [first] }) =>
      [
        `${disc} seems ${figure(seems.turn)} / ${figure(seems.fade)}${seems.exact ? '' : ', nearly'}`,
        `stands up to flat: ${angle(stands_up_from)}`,
        `finishes on the line: ${angle(finishes_on_the_line_from)}`,
        first && `flies most like ${first.disc}, ${figure(first.distance_m)} m${senses(first)}`,
      ]
        .filter(Boolean)
        .join('; '),
    ),
  ].join('\n')
}
