import { SPREAD_BELIEVED } from './beliefs.ts'
import { Indigestible, oddity } from './digest.ts'
import type { LeftOut } from './digest.ts'
import type { Evidence, RatedDisc, ThrowEvidence } from './evidence.ts'
import type { FitState } from './state.ts'
import { effectKey, effectPrior } from './kin.ts'
import type { Kinship } from './kin.ts'
import { SCALE_BELIEVED } from './noise.ts'
import { OF_HABIT } from './places.ts'
import { evidenceKey, makeTerm } from './throwTerm.ts'
import type { ThrowTerm } from './throwTerm.ts'
import { PACE } from './worn.ts'
import type { Worn } from './worn.ts'

/** Where a search starts: at what is believed, or where the fit of nearly the same throws has ended. */

/** From here on a throw's rows are looked at together. */
const MANY = 500
/** The outing a throw belongs to. */
export const outingKey = (t: Pick<ThrowEvidence, 'outing'>): string => t.outing ?? ''
/** Every outing of the throws, in the order in which they first appear. */
export const outingsOf = ({ throws }: Evidence): string[] => [...new Set(throws.map(outingKey))]

/** A term per throw. @throws Indigestible naming every throw that is none */
export function termsOf(evidence: Evidence, warm: FitState | undefined): ThrowTerm[] {
  const discAt = new Map(evidence.discs.map((d, i) => [d.id, i]))
  const armAt = new Map(evidence.arms.map((a, i) => [a.id, i]))
  const outingAt = new Map(outingsOf(evidence).map((o, i) => [o, i]))
  const before = new Map(warm?.terms.map((t) => [t.evidence.id, t]))
  const odd: LeftOut[] = []
  const made = evidence.throws.map((t) => {
    const disc = discAt.get(t.disc)
    const arm = armAt.get(t.arm)
    if (disc === undefined)
      throw new RangeError(`Throw ${t.id} names disc ${t.disc}, which is not among the discs.`)
    if (arm === undefined)
      throw new RangeError(`Throw ${t.id} names ${t.arm}, who is not among the throwers.`)
    const key = evidenceKey(t, evidence.discs[disc]!)
    const old = before.get(t.id)
    const many = evidence.throws.length > MANY
    let term: ThrowTerm
    try {
      term = makeTerm(t, evidence.discs[disc]!, disc, arm, outingAt.get(outingKey(t))!, key, many)
    } catch (e) {
      if (!(e instanceof RangeError)) throw e
      odd.push({ throw: t.id, why: oddity(t) })
      return undefined
    }
    if (!old) return term
    // the state of the earlier fit stays as it was: its arrays are copied, not shared
    term.latent.set(old.latent)
    if (old.key !== key || !old.flown) return term
    term.flownAt.set(old.flownAt)
    term.slopedAt.set(old.slopedAt)
    term.pull.set(old.pull)
    term.pulledAt.set(old.pulledAt)
    term.pulled = old.pulled
    term.lean.set(old.lean)
    term.seen.set(old.seen)
    term.jacobian.set(old.jacobian)
    term.slope.set(old.slope)
    term.flown = true
    return term
  })
  if (odd.length > 0) throw new Indigestible(odd)
  return made.filter((t) => t !== undefined)
}

export function startNumbers(disc: RatedDisc, warm: FitState | undefined): Float64Array {
  const before = warm?.evidence.discs.findIndex((d) => d.id === disc.id) ?? -1
  if (before >= 0) return warm!.numbers[before]!.slice()
  return Float64Array.of(disc.published.glide, disc.published.turn, disc.published.fade)
}

export function startEffect(
  { level, names }: Kinship['effects'][number],
  warm: FitState | undefined,
): Float64Array {
  const before =
    warm?.kinship.effects.findIndex((e) => effectKey(e.level, e.names) === effectKey(level, names)) ?? -1
  return before >= 0
    ? warm!.effects[before]!.slice()
    : Float64Array.from(effectPrior(level, SPREAD_BELIEVED).mean)
}

/** Aim lines of outings. */
export const startAims = (outings: readonly string[], warm: FitState | undefined): Float64Array =>
  Float64Array.from(outings, (o) => {
    const before = warm?.outings.indexOf(o) ?? -1
    return before >= 0 ? warm!.aims[before]! : 0
  })

/** Paces of wear, those of discs and then of blends. */
export function startPaces(
  worn: Worn,
  discs: readonly RatedDisc[],
  warm: FitState | undefined,
): Float64Array {
  const before = new Map(
    warm === undefined
      ? []
      : pacesNamed(warm.worn, warm.evidence.discs).map((key, i) => [key, warm.paces[i]!]),
  )
  return Float64Array.from(pacesNamed(worn, discs), (key) => before.get(key) ?? PACE.mean)
}
const pacesNamed = ({ discs: paced, blends }: Worn, discs: readonly RatedDisc[]): string[] => [
  ...paced.map((d) => `disc ${discs[d]!.id}`),
  ...blends.map((b) => `blend ${b.name}`),
]

/** Noise scales of the cameras of outings. */
export const startCameras = (outings: readonly string[], warm: FitState | undefined): Float64Array =>
  Float64Array.from(outings, (o) => {
    const before = warm?.outings.indexOf(o) ?? -1
    return before >= 0 ? warm!.cameras[before]! : SCALE_BELIEVED
  })

/** Habits and noise scales of arms. */
export function startArms({ arms }: Evidence, warm: FitState | undefined) {
  const before = (id: string, known: (at: number) => boolean = () => true) => {
    const at = warm?.evidence.arms.findIndex((b) => b.id === id) ?? -1
    return at >= 0 && known(at) ? at : -1
  }
  const habits = arms.map((a) => {
    const at = before(a.id, (i) => warm!.evidence.arms[i]!.fullSpeedMps === a.fullSpeedMps)
    return at >= 0 ? warm!.habits[at]!.slice() : new Float64Array(OF_HABIT)
  })
  const scales = Float64Array.from(arms, (a) => {
    const at = before(a.id)
    return at >= 0 ? warm!.scales[at]! : SCALE_BELIEVED
  })
  return { habits, scales }
}

/** Whether two pieces of evidence say the same of discs and arms: throws that do not count aside. */
export function sameEvidence(a: Evidence, b: Evidence): boolean {
  const told = ({ discs, arms, throws }: Evidence) =>
    JSON.stringify([discs, arms, throws.filter((t) => t.counts)])
  return told(a) === told(b)
}
