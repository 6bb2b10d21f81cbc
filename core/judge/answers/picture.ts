import type { Estimate } from '../../rating/outcome.ts'
import type { PlanPoint } from '../../flight/path.ts'
import type { Convention } from '../../plan/questions.ts'

/** A published figure with what the throws say to it. */
export interface ClaimRow {
  readonly disc: string
  readonly figure: 'stability' | 'glide' | 'turn' | 'fade'
  readonly published: number
  readonly seen: Estimate
  /** The state its label describes, where the disc is in another: what is seen is then of the disc as it would be in that state. */
  readonly readAs?: Convention
  /** Probability to lie more than half a number below, within half, more than half above. */
  readonly below: number
  readonly within: number
  readonly above: number
}

/** A plastic, a run or a disc against the one named first: metres to the fade side in a flight of 100 m. */
export interface DifferenceRow {
  readonly name: string
  readonly discs: readonly string[]
  readonly side: Estimate
  /** The same of each of its discs. */
  readonly ticks: readonly { readonly disc: string; readonly value: number }[]
  readonly pMoreStable: number
  /** Of where it lands, and of how far it flies, m. */
  readonly finish: Estimate
  readonly carry: Estimate
}

/** How much of the finish of a disc against another is its mass, and how much is not, m a 100 m, at an arm. */
export interface WeightRow {
  readonly arm: string
  readonly armMps: number
  readonly massM: number
  readonly massCarryM: number
  readonly rest: Estimate
}

/** A disc thrown flat and clean in still air by one arm. */
export interface ArmRow {
  readonly arm: string
  readonly armMps: number
  /** Whether it is a thrower on file. */
  readonly thrower: boolean
  readonly path: readonly PlanPoint[]
  readonly carry: Estimate
  /** Widest to the turn side, negative there, and where it lands, m. */
  readonly turnedM: number
  readonly finish: Estimate
  /** The turn and fade it seems to have. */
  readonly turn: number
  readonly fade: number
  readonly exact: boolean
  readonly pFinishesToFade: number
}

/** A disc in a wind: positive from behind, and toward the fade side. */
export interface WindPoint {
  readonly alongMps: number
  readonly toFadeMps: number
  readonly carry: Estimate
  readonly finish: Estimate
  readonly path: readonly PlanPoint[]
}
export interface WindRow {
  readonly disc: string
  readonly points: readonly WindPoint[]
  /** Metres of finish toward the turn side a m/s of headwind costs. */
  readonly turnPerMps: Estimate
  /** Probability that it holds its line best of those asked about. */
  readonly pHoldsBest: number
}

/** A disc’s figure by how worn it is. */
export interface WearPoint {
  /** Throws it had been through, where that is known. */
  readonly through: number | undefined
  readonly disc: string
  /** 0 new … 1 beaten. */
  readonly wear: number
  readonly stability: Estimate
}

/** Throws of the short game of one disc. */
export interface DotRow {
  readonly disc: string
  readonly values: readonly number[]
  readonly mean: { readonly value: number; readonly low: number; readonly high: number } | undefined
}

/** What the picture of an answer shows; lengths in m, the fade side positive. */
export type Picture =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'claims'; readonly rows: readonly ClaimRow[] }
  | {
      readonly kind: 'differences'
      readonly base: string
      readonly rows: readonly DifferenceRow[]
      /** Half a number, in m a 100 m: closer than this is alike. */
      readonly alikeM: number
    }
  | {
      readonly kind: 'ladder'
      readonly order: readonly string[]
      /** Probability of each order of neighbours, from the top. */
      readonly neighbours: readonly number[]
    }
  | {
      readonly kind: 'weight'
      readonly light: string
      readonly heavy: string
      readonly rows: readonly WeightRow[]
    }
  | {
      readonly kind: 'arms'
      readonly disc: string
      readonly rows: readonly ArmRow[]
      readonly straightMps: Estimate | undefined
    }
  | { readonly kind: 'wind'; readonly rows: readonly WindRow[] }
  | {
      readonly kind: 'wear'
      readonly points: readonly WearPoint[]
      /** From new to beaten. */
      readonly change: Estimate
    }
  | {
      readonly kind: 'dots'
      readonly unit: 'm' | ''
      readonly zero: string
      readonly rows: readonly DotRow[]
    }
