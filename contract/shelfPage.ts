import type { FlightNumbers } from '../core/flight/disc.ts'
import { labelScale } from '../core/flight/side.ts'
import { SEEN_NUMBERS } from '../core/flight/disc.ts'
import { z } from 'zod'
import { STABILITY_WORDS } from '../core/judge/words.ts'
import { PLASTIC_KINDS } from '../core/shelf/usualWear.ts'
import { Inspection, WearNote } from './inspection.ts'
import { Day, Disc, DISC_CLASSES, Id, Maker, Mold, oneOf, Plastic, Run, WEAR_STATES } from './shelf.ts'
import { WearForetold, WearUse } from './wear.ts'

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
export const Rating = z.object({
  glide: z.number(),
  turn: z.number(),
  fade: z.number(),
  /** Of (glide, turn, fade), row by row. */
  covariance: z.array(z.number()).length(9),
  /** Where it flies and where it lands, m to the fade side a 100 m of carry, and their standard deviations. */
  side: z.number(),
  sideSd: z.number(),
  finish: z.number(),
  finishSd: z.number(),
  /** The side on the scale of turn + fade, by the label it was weighed with. */
  stability: z.number(),
  stabilitySd: z.number(),
})

/** Stability of a rating, with its standard deviation. */
export const stabilityOf = (r: Rating) => ({ value: r.stability, sd: r.stabilitySd })
/** Where a disc flies, m to the fade side a 100 m: as its throws say, or by its numbers where there are none. */
export const sideOfRow = ({ rating }: Pick<ShelfRow, 'rating'>, inForce: FlightNumbers): number =>
  rating ? rating.side : labelScale(inForce).side
/** Where it flies and where it lands, with their standard deviations. */
export const sideOfRating = (r: Rating) => ({
  side: { value: r.side, sd: r.sideSd },
  finish: { value: r.finish, sd: r.finishSd },
})

/** A line of the shelf. */
export const ShelfRow = z.object({
  disc: Disc,
  maker: Maker,
  mold: Mold,
  plastic: Plastic,
  run: Run.nullable(),
  rating: Rating.nullable(),
  /** Counted throws. */
  throws: z.int(),
  lastThrownAt: z.string().nullable(),
})

export const ShelfPage = z.object({
  rows: z.array(ShelfRow),
  /** Discs found, on all pages. */
  total: z.int(),
  /** Ids of all of them, for choosing every disc found. */
  ids: z.array(Id),
  /** Discs taken off the shelf. */
  removed: z.int(),
  /** Plastics there are, for the filter. */
  plastics: z.array(z.string()),
  /** True while newer throws are being weighed than the ratings show. */
  behind: z.boolean(),
  /** Throws that no arithmetic holds: what is shown was rated without them. */
  notWeighed: z.array(z.object({ throwId: Id, trialId: Id, discId: Id, code: z.string(), why: z.string() })),
})
export type NotWeighed = z.infer<typeof ShelfPage>['notWeighed']

/** One day’s throws weighed on their own: a re-test. */
const TestDay = z.object({ day: Day, throws: z.int(), stability: z.number(), sd: z.number() })

/** A throw as its disc’s page shows it. */
const DiscThrow = z.object({
  id: Id,
  trialId: Id,
  thrownAt: z.string(),
  thrower: z.string(),
  hyzerDeg: z.number(),
  power: z.number(),
  carryM: z.number(),
  /** Off the aim line, to the fade side. */
  veerM: z.number(),
  counts: z.boolean(),
  whyNot: z.string().nullable(),
})

/** A disc by how it flies beside another; see judge/likeness.ts. */
const LikeDisc = z.object({
  discId: Id,
  distanceM: z.number(),
  fartherM: z.number(),
  sameShape: z.boolean(),
  sameDistance: z.boolean(),
  overlaps: z.boolean(),
})

/** The discs of the shelf that fly most and least like one. */
export const DiscLikeness = z.object({
  /** Full power with a disc of speed 9 of the arm that flights are compared at. */
  armMps: z.number(),
  /** Of two throws of one disc. */
  spread: z.object({ pathM: z.number(), shapeM: z.number(), carryM: z.number() }),
  most: z.array(LikeDisc),
  least: z.array(LikeDisc),
})
/** The same as it is asked for; null where the shelf has no other disc that is rated. */
export const LikenessRead = z.object({ weighing: z.boolean(), likeness: DiscLikeness.nullable() })

/** Everything known of one disc. */
export const DiscRecord = z.object({
  row: ShelfRow,
  behind: z.boolean(),
  /** Its days and what it flies like are still being weighed: what is told of them is not all. */
  weighing: z.boolean(),
  photo: z.boolean(),
  inspections: z.array(Inspection),
  wearNotes: z.array(WearNote),
  trials: z.array(z.object({ id: Id, name: z.string(), throws: z.int(), leftOut: z.int(), last: Day })),
  tests: z.array(TestDay),
  /** The latest throws of it, newest first. */
  throws: z.array(DiscThrow),
  likeness: DiscLikeness.nullable(),
  wear: WearUse.extend({
    kind: oneOf(PLASTIC_KINDS),
    /** Null while test days are being weighed, and of a disc that is off the shelf. */
    foretold: WearForetold.nullable(),
  }),
  /** Where the throws of this plastic speak against its numbers in force. */
  disagreements: z.array(
    z.object({
      number: z.enum(SEEN_NUMBERS),
      published: z.number(),
      seen: z.number(),
      probability: z.number(),
      throws: z.int(),
      discs: z.int(),
    }),
  ),
})

/** What practitioners read from a rim, counted over the shelf. */
export const InspectedDisc = z.object({ row: ShelfRow, inspection: Inspection })

/** Discs that answer a question, a control disc, and what the shelf lacks for it. */
export const Proposal = z.object({
  discs: z.array(Id),
  control: Id.nullable(),
  lacks: z.string().nullable(),
})

export type Proposal = z.infer<typeof Proposal>
export type Rating = z.infer<typeof Rating>
export type ShelfRow = z.infer<typeof ShelfRow>
export type ShelfPage = z.infer<typeof ShelfPage>
export type TestDay = z.infer<typeof TestDay>
export type DiscThrow = z.infer<typeof DiscThrow>
export type LikeDisc = z.infer<typeof LikeDisc>
export type LikenessRead = z.infer<typeof LikenessRead>
export type DiscRecord = z.infer<typeof DiscRecord>
export type InspectedDisc = z.infer<typeof InspectedDisc>
