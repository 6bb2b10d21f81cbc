import type { Evidence, ThrowEvidence } from '../rating/evidence.ts'
import { fit } from '../rating/fit.ts'
import { lnLikelihood } from '../rating/likelihood.ts'
import { ERROR } from '../rating/places.ts'
import type { FitState } from '../rating/state.ts'
import type { ThrowTerm } from '../rating/throwTerm.ts'
import { outingKey } from '../rating/warm.ts'

/** Ways a wind is logged the wrong way round: all of it, that of one leg, or the side it came from. */
export const TURNS = ['all', 'out', 'back', 'across'] as const
export type Turn = (typeof TURNS)[number]

/** Whose wind it is, in a sentence. */
export const TURNED_WORDS: Readonly<Record<Turn, string>> = {
  all: 'the wind',
  out: 'the wind of the throws on the way out',
  back: 'the wind of the throws on the way back',
  across: 'the side the wind came from',
}

/** A wind that reads as if it was logged the wrong way round. */
export interface TurnedWind {
  readonly outing: string
  readonly turn: Turn
  /** How much better all throws go together with it turned round: twice the ln of how many times likelier. */
  readonly better: number
  /** Throws whose wind it is. */
  readonly throws: readonly string[]
}

/**
 * From here on it is said. Of simulated sessions whose wind was logged right, the most that turning it made better was 5, and 8
 * where only the side it came from was turned, of which throws tell little; see `npm run calibrate:wind`.
 */
export const SAID_FROM: Readonly<Record<Turn, number>> = { all: 8, out: 8, back: 8, across: 12 }
/** A wind that hardly blew, m/s, is not worth turning; nor is that of fewer throws. */
const LEAST = { mps: 0.8, throws: 6 }
/** With more throws than this an outing is looked at by itself. */
const MOST_TOGETHER = 400
/**
 * Where winds were logged right, what throws met besides has nothing to do with them; where they were not, it blew against them.
 * Only what blew by this share of the logged wind against it is weighed again, which takes time.
 */
const AGAINST = -0.02

/** Whether a throw's wind is turned round. */
const isTurned = ({ leg }: ThrowEvidence, turn: Turn): boolean =>
  turn === 'all' || turn === 'across' || leg === turn

/** Evidence with the wind of an outing turned round. */
export function windTurned(evidence: Evidence, outing: string, turn: Turn): Evidence {
  const throws = evidence.throws.map((t): ThrowEvidence => {
    if (outingKey(t) !== outing || !isTurned(t, turn)) return t
    const { windAlongMps, windTowardFadeMps } = t.air
    return {
      ...t,
      air: {
        ...t.air,
        windAlongMps: turn === 'across' ? windAlongMps : -windAlongMps,
        windTowardFadeMps: -windTowardFadeMps,
      },
    }
  })
  return { ...evidence, throws }
}

/** Mean size of what would be turned round, m/s. */
function blown(throws: readonly ThrowEvidence[], turn: Turn): number {
  const size = ({ air }: ThrowEvidence) =>
    turn === 'across' ? Math.abs(air.windTowardFadeMps) : Math.hypot(air.windAlongMps, air.windTowardFadeMps)
  return throws.length === 0 ? 0 : throws.reduce((s, t) => s + size(t), 0) / throws.length
}

/** What throws seem to have met besides the logged wind, as a share of it: −2 where it blew just the other way. */
function besides(terms: readonly ThrowTerm[], turn: Turn): number {
  let [with_, all] = [0, 0]
  for (const { evidence, latent } of terms) {
    const { windAlongMps: along, windTowardFadeMps: toFade } = evidence.air
    if (turn !== 'across') {
      with_ += latent[ERROR.along]! * along
      all += along ** 2
    }
    with_ += latent[ERROR.toFade]! * toFade
    all += toFade ** 2
  }
  return all === 0 ? 0 : with_ / all
}

/**
 * Outings whose wind reads as if it was logged the wrong way round: weighed again with it turned, all throws go together so much
 * better that chance hardly does it. Either telling is searched from where the other came to rest, too.
 *
 * @param outings those looked at; all of them unless told otherwise
 * @returns of each such outing the turn that makes most of it
 */
export function turnedWinds(
  state: FitState,
  outings: ReadonlySet<string> = new Set(state.outings),
): TurnedWind[] {
  const counted = state.terms.filter((t) => t.evidence.counts)
  const together = counted.length <= MOST_TOGETHER
  return [...outings].flatMap((outing) => {
    const own = counted.filter((t) => outingKey(t.evidence) === outing)
    let logged: FitState | undefined
    const asLogged = () =>
      (logged ??= together
        ? state
        : fit({ ...state.evidence, throws: state.evidence.throws.filter((t) => outingKey(t) === outing) }))
    const found = TURNS.flatMap((turn): TurnedWind[] => {
      const terms = own.filter((t) => isTurned(t.evidence, turn))
      const throws = terms.map((t) => t.evidence)
      if (throws.length < LEAST.throws || blown(throws, turn) < LEAST.mps) return []
      // all of it is one leg's where there is but one
      if ((turn === 'out' || turn === 'back') && throws.length === own.length) return []
      if (besides(terms, turn) > AGAINST) return []
      const better = betterTurned(asLogged(), outing, turn)
      return better < SAID_FROM[turn] ? [] : [{ outing, turn, better, throws: throws.map((t) => t.id) }]
    })
    const [best] = found.sort((a, b) => b.better - a.better)
    return best ? [best] : []
  })
}

/** Twice the ln of how many times likelier all that was seen is with the wind of an outing turned round. */
export function betterTurned(logged: FitState, outing: string, turn: Turn): number {
  const evidence = windTurned(logged.evidence, outing, turn)
  const turned = fit(evidence)
  const most = (a: FitState, b: FitState) => Math.max(lnLikelihood(a), lnLikelihood(b))
  return (
    2 * (most(turned, fit(evidence, { warm: logged })) - most(logged, fit(logged.evidence, { warm: turned })))
  )
}
