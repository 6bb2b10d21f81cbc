import type { DiscOutcome, Outcome } from '../../../core/rating/outcome.ts'
import { probabilityAbove } from '../../../core/rating/outcome.ts'

interface Believed {
  readonly disc: string
  readonly turn: number
  readonly fade: number
  /** Standard deviation of turn and of fade, independent of one another. */
  readonly sd: number
  readonly throws?: number
  readonly published?: { readonly turn: number; readonly fade: number }
}

/** An outcome put together by hand: discs believed independently of one another. */
export function outcomeOfBelief(list: readonly Believed[]): Outcome {
  const discs = list.map(({ disc, turn, fade, sd, throws = 12, published }): DiscOutcome => {
    const v = sd * sd
    return {
      disc,
      published: { speed: 9, glide: 5, turn: -1, fade: 2, ...published },
      observed: { speed: 9, glide: 5, turn, fade },
      sd: { glide: sd, turn: sd, fade: sd },
      covariance: [v, 0, 0, 0, v, 0, 0, 0, v],
      stability: { value: turn + fade, sd: sd * Math.SQRT2 },
      throws,
      leftOut: 0,
    }
  })
  const n = discs.length
  const stabilityCovariance = new Float64Array(n * n)
  discs.forEach((d, i) => (stabilityCovariance[i * n + i] = d.stability.sd ** 2))
  return {
    discs,
    pairs: discs.flatMap((a, i) =>
      discs.slice(i + 1).map((b) => {
        const value = a.stability.value - b.stability.value
        const sd = Math.hypot(a.stability.sd, b.stability.sd)
        return { a: a.disc, b: b.disc, difference: { value, sd }, pAMoreStable: probabilityAbove(value, sd) }
      }),
    ),
    habits: [],
    throws: [],
    stabilityCovariance,
    settled: true,
  }
}
