import type { FitState } from './state.ts'

/** Something worked out of a disc of a fit, by its place, once a fit. */
export function perDisc<T>(work: (state: FitState, disc: number) => T): typeof work {
  const known = new WeakMap<FitState, Map<number, { readonly value: T }>>()
  return (state, disc) => {
    const discs = known.get(state) ?? new Map<number, { readonly value: T }>()
    known.set(state, discs)
    const before = discs.get(disc)
    if (before) return before.value
    const value = work(state, disc)
    discs.set(disc, { value })
    return value
  }
}
