import { sum } from 'd3'
import { normalCdf } from '../rating/normal.ts'
import type { DiscOutcome, Estimate } from '../rating/outcome.ts'
import type { FitState } from '../rating/state.ts'
import type { ThrowTerm } from '../rating/throwTerm.ts'
import type { Use } from '../shelf/usualWear.ts'

/** What a day alone says of a disc, and how much it scattered against the others of the day. */
export interface DayOutcome extends DiscOutcome {
  readonly scatter: Estimate | null
}

/** One wild throw does not make a disc scatter: no throw counts for more than so many variances a figure. */
const WILD = 6
/** Fewer throws of a disc on a day say nothing of its scatter. */
const LEAST_THROWS = 4

/** How far some throws landed from where their discs are said to fly, in variances, and by how many figures. */
const missed = (terms: readonly ThrowTerm[]) => ({
  squares: sum(terms, (t) => Math.min(t.distance, WILD * t.seenRows)),
  figures: sum(terms, (t) => t.seenRows),
})

/**
 * How much the throws of each disc scattered against those of the others, of throws weighed together: the logarithm of the ratio
 * of standard deviations. Whatever made the whole day scatter, gusts or a tired arm, is the same to all of them.
 *
 * Of a mean of squares over n figures the logarithm has a variance of about 2/n, that of its root a quarter of it.
 *
 * @returns discs with enough throws beside enough of others
 */
export function discScatter({ evidence, terms }: FitState): ReadonlyMap<string, Estimate> {
  const counted = terms.filter((t) => t.evidence.counts)
  const scattered = new Map<string, Estimate>()
  for (const { id } of evidence.discs) {
    const own = counted.filter((t) => t.evidence.disc === id)
    const others = counted.filter((t) => t.evidence.disc !== id)
    if (own.length < LEAST_THROWS || others.length < LEAST_THROWS) continue
    const [mine, theirs] = [missed(own), missed(others)]
    // what a disc's own mean took of its scatter
    const free = Math.max(1, mine.figures - 2)
    scattered.set(id, {
      value: 0.5 * Math.log(mine.squares / free / (theirs.squares / theirs.figures)),
      sd: Math.sqrt(0.5 / free + 0.5 / theirs.figures),
    })
  }
  return scattered
}

/** A test of a disc's scatter: what it had been through by then. */
export interface ScatterTest {
  readonly use: Use
  readonly scatter: Estimate
}
/** What a disc's scatter does between tests that nothing explains, of the logarithm. */
const BETWEEN_SD = 0.1

/** How much more a disc scatters at its last test than at those before, and how surely it is more. */
export interface Growth {
  readonly times: number
  readonly probability: number
}

/**
 * How a disc's scatter has grown; undefined before it was tested on two days with something in between.
 *
 * @param tests in any order
 */
export function growthOf(tests: readonly ScatterTest[]): Growth | undefined {
  const sorted = tests.toSorted((a, b) => a.use.throws - b.use.throws)
  const last = sorted.at(-1)
  const before = sorted.filter((t) => t !== last && t.use.throws < last!.use.throws)
  if (!last || before.length === 0) return undefined
  const of = (list: readonly ScatterTest[]) => {
    const weighed = list.map(({ scatter: { value, sd } }) => ({
      value,
      weight: 1 / (sd ** 2 + BETWEEN_SD ** 2),
    }))
    const total = sum(weighed, (w) => w.weight)
    return { value: sum(weighed, (w) => w.weight * w.value) / total, variance: 1 / total }
  }
  const [then, now] = [of(before), of([last])]
  const grown = now.value - then.value
  return {
    times: Math.exp(grown),
    probability: normalCdf(grown / Math.sqrt(then.variance + now.variance)),
  }
}

/** Scatter has grown where it is this much more, as surely as that. */
const GROWN = { times: 1.2, probability: 0.9 }
export const hasGrown = (growth: Growth | undefined): growth is Growth =>
  growth !== undefined && growth.times >= GROWN.times && growth.probability >= GROWN.probability
