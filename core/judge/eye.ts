import { greatest, group, mean } from 'd3'
import { PER_M } from '../flight/side.ts'
import type { ThrowEvidence } from '../rating/evidence.ts'
import { pairOf } from '../rating/outcome.ts'
import type { Outcome } from '../rating/outcome.ts'
import type { FitState } from '../rating/state.ts'
import { sparse } from './behind.ts'
import { sureness } from './ladder.ts'
import { SETTLED } from './statements.ts'
import { CAUSES, explainThrow } from './why.ts'
import type { Cause } from './why.ts'

/** What looking at landings alone would have made of a disc, m to the fade side a 100 m. */
export interface SeenByEye {
  readonly disc: string
  readonly meanLanding: number
  /** Of its farthest throw. */
  readonly bestThrow: number
  readonly throws: number
}

/** Two discs that the eye would have put the wrong way round. */
export interface Misled {
  /** Which it takes for the more stable, and which is. */
  readonly taken: string
  readonly truly: string
  /** Probability that it is. */
  readonly probability: number
  readonly by: 'mean landing' | 'best throw'
  /** What misled it most, and by how much it moved the one to the fade side of the other, m. */
  readonly cause: Exclude<Cause, 'disc'>
  readonly causeM: number
}

export interface AgainstEye {
  /** In the order of their mean landings, the most stable first. */
  readonly seen: readonly SeenByEye[]
  readonly misled: readonly Misled[]
}

/**
 * What the mean landing of each disc, and its best throw, would have said of the order, and where that is surely wrong: by what
 * else than the disc those landings differ, cause by cause as each throw is explained.
 *
 * @param own the counted throws that are looked at
 */
export function againstEye(state: FitState, outcome: Outcome, own: readonly ThrowEvidence[]): AgainstEye {
  const control = new Set(state.evidence.discs.filter((d) => d.control).map((d) => d.id))
  const byDisc = group(
    own.filter((t) => !control.has(t.disc)),
    (t) => t.disc,
  )
  const side = (t: ThrowEvidence) => (PER_M * t.veerM) / Math.max(1, t.carryM)
  const farthest = (list: readonly ThrowEvidence[]) => greatest(list, (t) => t.carryM)!
  const seen = [...byDisc]
    .map(([disc, list]): SeenByEye => ({
      disc,
      meanLanding: mean(list, side)!,
      bestThrow: side(farthest(list)),
      throws: list.length,
    }))
    .sort((a, b) => b.meanLanding - a.meanLanding)
  const explained = new Map<string, Readonly<Record<Cause, number>>>()
  const causesOf = (disc: string, by: Misled['by']) => {
    const known = explained.get(`${by} ${disc}`)
    if (known) return known
    const list = byDisc.get(disc)!
    const looked = by === 'mean landing' ? sparse(list) : [farthest(list)]
    const whys = looked.map((t) => explainThrow(state, t))
    const means = Object.fromEntries(
      CAUSES.map((c) => [c, mean(whys, (w) => w.parts[c].veerM)!]),
    ) as unknown as Readonly<Record<Cause, number>>
    explained.set(`${by} ${disc}`, means)
    return means
  }
  const misled = seen.flatMap((a, i) =>
    seen.slice(i + 1).flatMap((b): Misled[] =>
      (['meanLanding', 'bestThrow'] as const).flatMap((key): Misled[] => {
        const [taken, other] = a[key] >= b[key] ? [a, b] : [b, a]
        const pair = pairOf(outcome, taken.disc, other.disc)
        const value = pair.a === taken.disc ? pair.difference.value : -pair.difference.value
        if (value >= 0 || sureness(outcome, [taken.disc, other.disc]) < SETTLED) return []
        const by = key === 'meanLanding' ? 'mean landing' : 'best throw'
        const [one, two] = [causesOf(taken.disc, by), causesOf(other.disc, by)]
        const others = CAUSES.filter((c): c is Misled['cause'] => c !== 'disc')
        const cause = greatest(others, (c) => one[c] - two[c])!
        return [
          {
            taken: taken.disc,
            truly: other.disc,
            probability: sureness(outcome, [taken.disc, other.disc]),
            by,
            cause,
            causeM: one[cause] - two[cause],
          },
        ]
      }),
    ),
  )
  return { seen, misled }
}
