import { sideSlopesOf } from '../flight/side.ts'
import type { SideSlopes } from '../flight/side.ts'
import type { FitState } from './state.ts'

const flown = new WeakMap<FitState, Map<number, SideSlopes>>()

/** Where a disc of a fit flies by its most believable numbers, and how that follows them; flown once a fit. */
export function sideIn(state: FitState, disc: number): SideSlopes {
  let known = flown.get(state)
  if (!known) flown.set(state, (known = new Map()))
  const before = known.get(disc)
  if (before) return before
  const [glide, turn, fade] = state.numbers[disc] as unknown as [number, number, number]
  const now = sideSlopesOf({ ...state.evidence.discs[disc]!.published, glide, turn, fade })
  known.set(disc, now)
  return now
}
