import { DEGREE, FOOT } from '../flight/units.ts'
import type { Evidence, ThrowEvidence } from '../rating/evidence.ts'
import { fit } from '../rating/fit.ts'
import { lnForetold } from '../rating/foretold.ts'
import type { FitState } from '../rating/state.ts'
import { outingKey } from '../rating/warm.ts'

/** Ways a throw is logged as what it was not: another disc, the other side, the other angle, or a distance in another unit. */
export type Slip =
  | { readonly kind: 'disc'; readonly disc: string }
  | { readonly kind: 'side' }
  | { readonly kind: 'angle' }
  /** Feet where metres were asked for, or metres where feet were. */
  | { readonly kind: 'feet' | 'metres' }
/** A way to slip, whatever it was. */
export type SlipKind = Slip['kind']

/** A throw that reads as if it was logged wrong, and how. */
export interface SlippedThrow {
  readonly throw: string
  readonly slip: Slip
  /** That it was logged so, all it may have been weighed against each other. */
  readonly probability: number
}

/** How often a throw is logged so, as is believed before it is looked at. */
const RATE: Readonly<Record<SlipKind, number>> = {
  disc: 0.03,
  side: 0.01,
  angle: 0.01,
  feet: 0.005,
  metres: 0.005,
}
/** Somebody is asked from here on: whoever is asked may say yes too easily, and a throw that was right would be made wrong. */
export const ASKED_FROM = 0.8
/** An angle nearer to flat than this is the same either way, rad. */
const LEAST_ANGLE = 4 * DEGREE
/** How many times larger a distance was than it was logged. */
export const SCALE = { feet: FOOT, metres: 1 / FOOT } as const
/** With more throws than this an outing is looked at by itself. */
const MOST_TOGETHER = 400
/** So many throws are looked at closely, those first that read most as something else: each takes a fit of all others. */
const CLOSELY = 6
/** Closely looked at is what reads so many times likelier as something else, as ln, with the throw still among the others. */
const LEAST_LN = 1

/** The throw as it was, had it been logged with a slip. */
export function withoutSlip(t: ThrowEvidence, slip: Slip): ThrowEvidence {
  const turned = (sign: number, size: number): ThrowEvidence => ({
    ...t,
    carryM: size * t.carryM,
    veerM: sign * size * t.veerM,
    ...(t.mid && { mid: { downM: size * t.mid.downM, veerM: sign * size * t.mid.veerM } }),
  })
  switch (slip.kind) {
    case 'disc':
      return { ...t, disc: slip.disc }
    case 'side':
      return turned(-1, 1)
    case 'angle':
      return {
        ...t,
        hyzerRad: -t.hyzerRad,
        ...(t.hyzerCalledRad !== undefined && { hyzerCalledRad: -t.hyzerCalledRad }),
      }
    case 'feet':
    case 'metres':
      return turned(1, SCALE[slip.kind])
  }
}

/** What a throw may have been instead; a recorded path knows how far and where. */
function slipsOf(t: ThrowEvidence, discs: readonly string[]): Slip[] {
  return [
    ...discs.flatMap((disc): Slip[] => (disc === t.disc ? [] : [{ kind: 'disc', disc }])),
    ...(t.path ? [] : ([{ kind: 'side' }, { kind: 'feet' }, { kind: 'metres' }] as const)),
    ...(Math.abs(t.hyzerRad) < LEAST_ANGLE ? [] : ([{ kind: 'angle' }] as const)),
  ]
}

/** What a throw reads as by what a fit knows: the likeliest slip, how probable it is, and ln of how much likelier than as it was logged. */
function readAs(state: FitState, t: ThrowEvidence, discs: readonly string[]) {
  const slips = slipsOf(t, discs)
  const others = discs.filter((d) => d !== t.disc).length
  const own = lnForetold(state, t)
  // a stretch of ground counts by its size: what is spread over more of it is less likely anywhere on it
  const shrunk = (kind: SlipKind) => (kind === 'feet' || kind === 'metres' ? 2 * Math.log(SCALE[kind]) : 0)
  const told = slips.map((slip) => {
    const ln = lnForetold(state, withoutSlip(t, slip)) + shrunk(slip.kind) - own
    const rate = slip.kind === 'disc' ? RATE.disc / others : RATE[slip.kind]
    return { slip, ln, weight: rate * Math.exp(Math.min(ln, 500)) }
  })
  const [best] = told.toSorted((a, b) => b.weight - a.weight)
  const all = told.reduce((s, { weight }) => s + weight, 1)
  return best && { ...best, probability: best.weight / all }
}

const isOwn = (throws: ReadonlySet<string> | undefined, t: ThrowEvidence) =>
  t.counts && (throws === undefined || throws.has(t.id))

/**
 * Throws that read as if they were logged wrong: by what all the others say, where they landed is so much likelier of another disc, on
 * the other side, from the other angle, or in another unit. What throws do anyway, branches among it, is weighed against it by the
 * tails of how throws scatter.
 *
 * @param throws those looked at; all that count unless told otherwise
 * @param discs those that may have been thrown instead; all that were, unless told otherwise
 * @returns the surest first
 */
export function slippedThrows(
  state: FitState,
  throws?: ReadonlySet<string>,
  discs: readonly string[] = [
    ...new Set(state.evidence.throws.filter((t) => isOwn(throws, t)).map((t) => t.disc)),
  ],
): SlippedThrow[] {
  const close = state.terms
    // a throw where it is expected is none
    .filter(
      ({ evidence: t, distance, count, arm }) => isOwn(throws, t) && distance > count * state.scales[arm]!,
    )
    .flatMap(({ evidence }) => {
      const best = readAs(state, evidence, discs)
      return best && best.ln > LEAST_LN ? [{ evidence, ln: best.ln }] : []
    })
    .sort((a, b) => b.ln - a.ln)
    .slice(0, CLOSELY)
  return close
    .flatMap(({ evidence: t }): SlippedThrow[] => {
      const best = readAs(fit(othersOf(state.evidence, t)), t, discs)
      return best && best.probability >= ASKED_FROM
        ? [{ throw: t.id, slip: best.slip, probability: best.probability }]
        : []
    })
    .sort((a, b) => b.probability - a.probability)
}

/** All throws but one; of very many those of its outing. */
function othersOf(evidence: Evidence, { id, outing }: ThrowEvidence): Evidence {
  const { throws } = evidence
  const together = throws.length <= MOST_TOGETHER
  return {
    ...evidence,
    throws: throws.filter(
      (t) => t.id !== id && t.counts && (together || outingKey(t) === outingKey({ outing })),
    ),
  }
}
