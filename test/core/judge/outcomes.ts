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
    // on a scale on which one number is one metre
    const side = { value: turn + fade, sd: sd * Math.SQRT2 }
    return {
      disc,
      published: { speed: 9, glide: 5, turn: -1, fade: 2, ...published },
      observed: { speed: 9, glide: 5, turn, fade },
      sd: { glide: sd, turn: sd, fade: sd },
      covariance: [v, 0, 0, 0, v, 0, 0, 0, v],
      side,
      finish: { value: 2 * side.value, sd: 2 * side.sd },
      stability: side,
      throws,
      leftOut: 0,
    }
  })
  const n = discs.length
  const sideCovariance = new Float64Array(n * n)
  discs.forEach((d, i) => (sideCovariance[i * n + i] = d.side.sd ** 2))
  return {
    discs,
    pairs: discs.flatMap((a, i) =>
      discs.slice(i + 1).map((b) => {
        const value = a.side.value - b.side.value
        const sd = Math.hypot(a.side.sd, b.side.sd)
        return {
          a: a.disc,
          b: b.disc,
          difference: { value, sd },
          finish: { value: 2 * value, sd: 2 * sd },
          pAMoreStable: probabilityAbove(value, sd),
        }
      }),
    ),
    worn: [],
    habits: [],
    aims: [],
    throws: [],
    sideCovariance,
    converged: true,
    gusts: 1,
    fadeSide: 'left',
  }
}
