import { LABEL_BOUNDS, order } from '../plan/aims.ts'
import type { Aim, LabelFigure } from '../plan/aims.ts'
import { aimsOf, asksOtherThanOrder } from '../plan/ask.ts'
import type { Ask } from '../plan/ask.ts'
import { contrastFor } from '../plan/contrasts.ts'
import { beliefOf, contrastVariance } from '../plan/information.ts'
import { busiestArm } from './flewLike.ts'
import { labelScale } from '../flight/side.ts'
import { sharesBetween } from '../rating/normal.ts'
import type { DiscRating, Estimate, Outcome } from '../rating/outcome.ts'
import type { FitState } from '../rating/state.ts'
import { ladderOf, openNeighbours, sureness } from './ladder.ts'
import { SETTLED } from './statements.ts'

/** What is still to be told of what is asked; the neighbours on the ladder, those still open if any are, once all of it is told. */
export function openAims(state: FitState, outcome: Outcome, ask: Ask): Aim[] {
  if (ask.pair === null && !asksOtherThanOrder(ask.kind)) return openNeighbours(state, outcome).map(order)
  const aims = aimsOf(ask, ladderOf(state, outcome), busiestArm(state)?.armMps)
  const open = aims.filter((aim) => surenessOf(state, outcome, aim) < SETTLED)
  return open.length > 0 ? open : openNeighbours(state, outcome).map(order)
}

/** How far a disc is off its label. */
export function offLabel({ observed, sd, published, stability }: DiscRating, figure: LabelFigure): Estimate {
  return figure === 'stability'
    ? { value: stability.value - labelScale(published).stability, sd: stability.sd }
    : { value: observed[figure] - published[figure], sd: sd[figure] }
}

/** How surely an aim is told already: the probability of the likeliest answer. */
function surenessOf(state: FitState, outcome: Outcome, aim: Aim): number {
  if (aim.of === 'order') return sureness(outcome, [aim.a, aim.b])
  if (aim.of !== 'label') {
    const belief = beliefOf(state)
    const contrast = contrastFor(state, belief, aim)
    return Math.max(
      ...sharesBetween(contrast.value, Math.sqrt(contrastVariance(belief, contrast)), contrast.bounds),
    )
  }
  const off = offLabel(
    outcome.discs.find((d) => d.disc === aim.disc)!,
    aim.figure,
  )
  return Math.max(...sharesBetween(off.value, off.sd, LABEL_BOUNDS))
}
