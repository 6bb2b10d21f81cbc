import type { DiscClass } from '../../shelf/kinds.ts'

/** A disc of the shelf, as far as a question cares. */
export interface ProposedDisc {
  readonly id: string
  readonly mold: string
  readonly plastic: string
  readonly run: string | null
  readonly discClass: DiscClass
  /** Step of its wear, 0 new. */
  readonly wear: number
  readonly grams: number | null
  readonly speed: number
  /** Turn + fade, from throws where there are any, else as published. */
  readonly stability: number
  /** Counted throws so far. */
  readonly throws: number
}

/** What discs can differ in, from far kin to near. */
export const LINEAGE = ['mold', 'plastic', 'run', 'wear'] as const
export type DiffersIn = (typeof LINEAGE)[number]

/** What a disc nobody weighed weighs, as near as is known, g. */
export const USUAL_GRAMS = 175

/** Orders by several figures, the first that differs counts. */
export const byFigures =
  <T>(...keys: ((x: T) => number)[]) =>
  (a: T, b: T) =>
    keys.reduce((d, key) => d || key(a) - key(b), 0)

/** How far the wear of a disc is from that of another, steps. */
export const wearFrom = (about: ProposedDisc) => (d: ProposedDisc) => Math.abs(d.wear - about.wear)
/** How far its weight is from that of another, g; what nobody weighed weighs what is usual. */
export const gramsFrom = (about: ProposedDisc) => (d: ProposedDisc) =>
  Math.abs((d.grams ?? USUAL_GRAMS) - (about.grams ?? USUAL_GRAMS))

/** Discs in the order of how much they are as worn and as heavy as another. */
export const nearest = (discs: readonly ProposedDisc[], about: ProposedDisc): ProposedDisc[] =>
  [...discs].sort(byFigures(wearFrom(about), gramsFrom(about)))

/** Those of the same mold in the same plastic. */
export const sameBlend = (discs: readonly ProposedDisc[], about: ProposedDisc): ProposedDisc[] =>
  discs.filter((d) => d.mold === about.mold && d.plastic === about.plastic)

/** One disc of each value of a key, the first in the order given. */
export function oneOfEach(list: readonly ProposedDisc[], key: (d: ProposedDisc) => string): ProposedDisc[] {
  const found = new Map<string, ProposedDisc>()
  for (const d of list) if (!found.has(key(d))) found.set(key(d), d)
  return [...found.values()]
}
