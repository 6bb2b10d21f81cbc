import { z } from 'zod'
import { STABILITY_WORDS } from '../core/judge/words.ts'
import type { LabelGap } from '../core/judge/label.ts'
import type { WearRate } from '../core/judge/wear.ts'
import type { Inspection, WearNote } from './inspection.ts'
import { DISC_CLASSES, WEAR_STATES } from './shelf.ts'
import type { Disc, Maker, Mold, Plastic, Run } from './shelf.ts'

export const SHELF_SORTS = [
  'kin',
  'code',
  'numbers',
  'weight',
  'wear',
  'stability',
  'throws',
  'last',
] as const
export const TESTED = ['yes', 'no'] as const
/** Days since the last test that are asked for. */
export const AGES = [30, 90, 365] as const
export const PAGE_SIZE = 60

/** Which discs of the shelf, in which order; everything travels in the address. */
export const ShelfQuery = z.object({
  find: z.string().max(200).default(''),
  class: z.enum(DISC_CLASSES).optional(),
  plastic: z.string().max(120).optional(),
  wear: z.enum(WEAR_STATES).optional(),
  /** By what the throws say, or the numbers in force where there are none. */
  word: z.enum(STABILITY_WORDS).optional(),
  tested: z.enum(TESTED).optional(),
  /** Last thrown so many days ago or longer. */
  age: z.coerce.number().pipe(z.literal(AGES)).optional(),
  removed: z.literal('1').optional(),
  sort: z.enum(SHELF_SORTS).default('kin'),
  down: z.literal('1').optional(),
  page: z.coerce.number().int().min(0).max(10_000).default(0),
})

/** What all throws logged so far say of a disc. */
export interface Rating {
  readonly glide: number
  readonly turn: number
  readonly fade: number
  /** Of (glide, turn, fade), row by row. */
  readonly covariance: readonly number[]
}

/** Turn + fade of a rating, with its standard deviation. */
export const stabilityOf = (r: Rating) => ({
  value: r.turn + r.fade,
  sd: Math.sqrt(Math.max(0, r.covariance[4]! + r.covariance[8]! + 2 * r.covariance[5]!)),
})

/** A line of the shelf. */
export interface ShelfRow {
  readonly disc: Disc
  readonly maker: Maker
  readonly mold: Mold
  readonly plastic: Plastic
  readonly run: Run | null
  readonly rating: Rating | null
  /** Counted throws. */
  readonly throws: number
  readonly lastThrownAt: string | null
}

export interface ShelfPage {
  readonly rows: readonly ShelfRow[]
  /** Discs found, on all pages. */
  readonly total: number
  /** Ids of all of them, for choosing every disc found. */
  readonly ids: readonly string[]
  /** Discs taken off the shelf. */
  readonly removed: number
  /** Plastics there are, for the filter. */
  readonly plastics: readonly string[]
  /** True while newer throws are being weighed than the ratings show. */
  readonly behind: boolean
}

/** One day’s throws weighed on their own: a re-test. */
export interface TestDay {
  readonly day: string
  readonly throws: number
  readonly stability: number
  readonly sd: number
}

/** A throw as its disc’s page shows it. */
export interface DiscThrow {
  readonly id: string
  readonly trialId: string
  readonly thrownAt: string
  readonly thrower: string
  readonly hyzerDeg: number
  readonly power: number
  readonly carryM: number
  /** Off the aim line, to the fade side. */
  readonly veerM: number
  readonly counts: boolean
  readonly whyNot: string | null
}

export interface LikeDisc {
  readonly discId: string
  readonly distanceM: number
  readonly overlaps: boolean
}

/** Everything known of one disc. */
export interface DiscRecord {
  readonly row: ShelfRow
  readonly behind: boolean
  readonly photo: boolean
  readonly inspections: readonly Inspection[]
  readonly wearNotes: readonly WearNote[]
  readonly trials: readonly {
    readonly id: string
    readonly name: string
    readonly throws: number
    readonly leftOut: number
    readonly last: string
  }[]
  readonly tests: readonly TestDay[]
  /** The latest throws of it, newest first. */
  readonly throws: readonly DiscThrow[]
  readonly likeness: {
    readonly speedMps: number
    readonly spreadM: number
    readonly most: readonly LikeDisc[]
    readonly least: readonly LikeDisc[]
  } | null
  /** What wear does to this plastic, learned from its re-tests; stability a hundred throws and a hard hit. */
  readonly wear: {
    readonly rate: WearRate
    /** Throws since new, logged here and noted, and hard hits. */
    readonly throws: number
    readonly hardHits: number
    /** Of leaving its stability word by half a number. */
    readonly forecast: {
      readonly inSlotNow: number
      /** Throws; null further ahead than anybody plans. */
      readonly earliest: number | null
      readonly leavesAfterThrows: number | null
      readonly latest: number | null
    } | null
  }
  /** Where the throws of this plastic speak against its numbers in force. */
  readonly disagreements: readonly LabelGap[]
}

/** What practitioners read from a rim, counted over the shelf. */
export interface InspectedDisc {
  readonly row: ShelfRow
  readonly inspection: Inspection
}
