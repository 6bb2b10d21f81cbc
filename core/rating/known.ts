import type { SheetThrow } from '../throw/sheetThrow.ts'
import type { Outcome } from './outcome.ts'
import { normalCdf } from './normal.ts'

/**
 * A trial may be read from its own throws, or from all that is known: with the throws of other trials that share discs with it.
 * Those teach what its discs are; whoever threw them that day has a habit of that day's, and the outing an aim line of its own.
 */
export const READ_FROM = ['this trial', 'all that is known'] as const
export type ReadFrom = (typeof READ_FROM)[number]

/** A throw of another trial, as evidence beside a trial's own. */
export const ofAnotherTrial = (line: SheetThrow): SheetThrow => ({ ...line, habitOf: line.outing ?? '' })

/**
 * What an outcome says of some of its discs, throws and arms alone.
 *
 * @param discs, throws, arms ids of those wanted
 */
export function outcomeAbout(
  outcome: Outcome,
  discs: ReadonlySet<string>,
  throws: ReadonlySet<string>,
  arms: ReadonlySet<string>,
): Outcome {
  const n = outcome.discs.length
  const places = outcome.discs.flatMap((d, i) => (discs.has(d.disc) ? [i] : []))
  return {
    ...outcome,
    discs: places.map((i) => outcome.discs[i]!),
    worn: outcome.worn.filter((w) => discs.has(w.disc)),
    pairs: outcome.pairs.filter((p) => discs.has(p.a) && discs.has(p.b)),
    habits: outcome.habits.filter((h) => arms.has(h.arm)),
    throws: outcome.throws.filter((t) => throws.has(t.throw)),
    sideCovariance: Float64Array.from(
      places.flatMap((a) => places.map((b) => outcome.sideCovariance[a * n + b]!)),
    ),
  }
}

/** A disc that flies otherwise in a trial than all its throws together say. */
export interface Disagreement {
  readonly disc: string
  /** Where it lands by this trial's throws less where it lands by all of them, m to the fade side a 100 m. */
  readonly finishM: number
  /** How sure it is that it is not chance. */
  readonly probability: number
}

/** From here on it is said: one disc in a hundred would be by chance. */
const SAID = 0.99

/**
 * Discs on which a trial and everything known disagree more than chance allows. What all throws say holds what this trial's say, so
 * that the variance of the difference is the difference of the variances.
 */
export function disagreements(here: Outcome, all: Outcome): Disagreement[] {
  return here.discs.flatMap((own): Disagreement[] => {
    const together = all.discs.find((d) => d.disc === own.disc)
    if (!together || own.throws === 0) return []
    const variance = own.side.sd ** 2 - together.side.sd ** 2
    if (!(variance > 1e-9)) return []
    const z = (own.side.value - together.side.value) / Math.sqrt(variance)
    const probability = 2 * normalCdf(Math.abs(z)) - 1
    return probability < SAID
      ? []
      : [{ disc: own.disc, finishM: own.finish.value - together.finish.value, probability }]
  })
}
