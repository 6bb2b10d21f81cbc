import { groups as byKey, mean, range, sum } from 'd3'
import { labelScale } from '../../flight/side.ts'
import { DISC_PRIOR_SD } from '../../rating/evidence.ts'
import { SHARE } from '../../rating/kin.ts'
import type { SpreadLevel } from '../../rating/kin.ts'
import { normalCdf } from '../../rating/normal.ts'
import { sideIn } from '../../rating/sides.ts'
import type { FitState } from '../../rating/state.ts'
import { discOf } from '../../rating/asThrown.ts'
import { apart, sideTrait } from './traits.ts'

/** Discs of one plastic or of one run. */
export type DiscsOfOne = readonly string[]

/** How sure it is that one plastic (or run) is more stable than another, beyond the discs of them that were thrown. */
export interface Themselves {
  /** That it is, as such. */
  readonly probability: number
  /** That the next disc of the one is more stable than the next of the other. */
  readonly next: number
}

/**
 * How much groups differ, and how much copies within them, is believed no closer than this: to a factor of 1.8 either way as standard
 * deviations go, 1.2 in the logarithms of the variances. With 1 it is said too easily where a plastic changes nothing, with 1.5 hardly
 * ever where it does.
 */
const LN_SD = 1.2
/** Where the variances are looked at, in those standard deviations. */
const GRID = range(-2.5, 2.51, 0.25)

/** What throws alone say of something that was believed with some variance: the belief taken out of what is known. */
function seenAlone(value: number, variance: number, believed: number) {
  const share = Math.max(0.02, 1 - variance / believed)
  return { value: value / share, variance: variance / share }
}

/** Variance of the side of discs of one label that was believed before any throw, m² in a 100 m: as a whole, beside how it divides. */
function believedVariance(state: FitState, discs: readonly string[]): number {
  return mean(discs, (id) =>
    sideIn(state, discOf(state, id).at).sideBy.reduce((s, w, k) => s + (w * DISC_PRIOR_SD[k]!) ** 2, 0),
  )!
}

const kinOf = (state: FitState, id: string) => discOf(state, id).disc.kin
const labelSide = (state: FitState, id: string) => labelScale(discOf(state, id).disc.published).side

/** One disc beyond its label against others beyond theirs, m in a 100 m. */
function beyondLabels(state: FitState, discs: DiscsOfOne, others: DiscsOfOne) {
  const of = (ids: DiscsOfOne) => ids.map((id) => sideTrait(state, id))
  const { value, sd } = apart(state, of(discs), of(others))
  const label = (ids: DiscsOfOne) => mean(ids, (id) => labelSide(state, id))!
  return { value: value - label(discs) + label(others), variance: sd * sd }
}

/** How much copies of one run, worn alike, differ: what the whole evidence says of it. */
interface Spread {
  /** Copies less one. */
  readonly free: number
  /** Squares of what they lie off their mean, by throws alone. */
  readonly squares: number
  /** What of those squares is not known of any one disc. */
  readonly unknown: number
}

function copiesApart(state: FitState, own: number): Spread[] {
  const kin = state.evidence.discs.filter((d) => d.kin?.plastic !== undefined && !d.control)
  const copies = byKey(kin, ({ kin }) => [kin!.mold, kin!.plastic, kin!.run, kin!.wear].join('\n'))
  return copies.flatMap(([, discs]): Spread[] => {
    const n = discs.length
    if (n < 2) return []
    const ids = discs.map((d) => d.id)
    const seen = ids.map((id) => {
      const off = beyondLabels(
        state,
        [id],
        ids.filter((o) => o !== id),
      )
      // against the mean of the others: n ÷ (n − 1) of the distance from the mean of all
      return seenAlone(off.value, off.variance, (own * n) / (n - 1))
    })
    return [
      {
        free: n - 1,
        squares: sum(seen, (s) => (s.value * (n - 1)) ** 2) / n ** 2,
        unknown: mean(seen, (s) => (s.variance * (n - 1)) / n)!,
      },
    ]
  })
}

/**
 * Plastics (or runs) themselves against each other, of which a few discs were thrown: what is seen is the group's in part, and the
 * discs' own in the rest. How much groups differ and how much copies do is believed ({@link SHARE}) with an uncertainty of its own,
 * learnt from every copy in the evidence and from how far apart the groups lie, and what follows is weighed over all of it: a normal
 * model of random effects, with both variances on a grid.
 *
 * @param groups discs of each, two groups at least
 * @param levels of kin that the groups are of
 * @returns of two of the groups, by their places: how sure it is of the first
 */
export function themselves(
  state: FitState,
  groups: readonly DiscsOfOne[],
  levels: readonly SpreadLevel[],
): (a: number, b: number) => Themselves {
  const all = believedVariance(state, groups.flat())
  const ofGroups = all * sum(levels, (l) => SHARE[l])
  const ofRuns = levels.includes('run') ? 0 : all * SHARE.run
  const ofDiscs = all * SHARE.disc
  const runsOf = (discs: DiscsOfOne) => new Set(discs.map((id) => kinOf(state, id)?.run)).size
  /** What the mean of a group's discs is off by for being of these discs, of one unit of what copies differ. */
  const own = groups.map((discs) => ofRuns / runsOf(discs) + ofDiscs / discs.length)
  const labels = groups.map((discs) => mean(discs, (id) => labelSide(state, id))!)
  const seen = groups.map((discs, i) => {
    const others = groups.filter((_, j) => j !== i)
    const each = others.map((o) => beyondLabels(state, discs, o))
    const among = ofGroups + mean(own)!
    // each group against the others in turn, half of whose variance is its own
    return seenAlone(
      mean(each, (e) => e.value)!,
      mean(each, (e) => e.variance)! / 2,
      among,
    )
  })
  // what it is off the mean of all groups
  const at = seen.map((s) => (s.value * (groups.length - 1)) / groups.length)
  const copies = copiesApart(state, ofDiscs)
  const looks = GRID.flatMap((x) =>
    GRID.map((y) => {
      const [g, o] = [ofGroups * Math.exp(LN_SD * x), Math.exp(LN_SD * y)]
      const spread = own.map((v, i) => o * v + seen[i]!.variance)
      const weights = spread.map((v) => 1 / (g + v))
      const total = sum(weights)
      const middle = sum(weights, (w, i) => w * at[i]!) / total
      let ln = -(x * x + y * y) / 2 - Math.log(total) / 2
      weights.forEach((w, i) => (ln += (Math.log(w) - w * (at[i]! - middle) ** 2) / 2))
      for (const { free, squares, unknown } of copies) {
        const v = o * ofDiscs + unknown
        ln -= (free * Math.log(v) + squares / v) / 2
      }
      const kept = spread.map((v) => g / (g + v))
      return { ln, g, o, kept, middle, middleVariance: 1 / total }
    }),
  )
  const most = Math.max(...looks.map((l) => l.ln))
  const shares = looks.map((l) => Math.exp(l.ln - most))
  const whole = sum(shares)
  return (a, b) => {
    let [probability, next] = [0, 0]
    looks.forEach(({ g, o, kept, middle, middleVariance }, k) => {
      const [one, other] = [kept[a]!, kept[b]!]
      const value = labels[a]! - labels[b]! + (other - one) * middle + one * at[a]! - other * at[b]!
      const variance = g * (2 - one - other) + (other - one) ** 2 * middleVariance
      const share = shares[k]! / whole
      probability += share * normalCdf(value / Math.sqrt(variance))
      next += share * normalCdf(value / Math.sqrt(variance + 2 * o * (ofRuns + ofDiscs)))
    })
    return { probability, next }
  }
}
