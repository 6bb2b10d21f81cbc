import { z } from 'zod'
import { NUMBER_RANGE } from '../core/flight/disc.ts'
import { isDay, isInstant } from '../core/throw/day.ts'
import { DISC_CLASSES, DISC_CLASS_WORDS, SOURCES, SOURCE_WORDS } from '../core/shelf/kinds.ts'
import { WEAR_STATES } from '../core/shelf/wear.ts'
import { SHEET_RANGE } from '../core/throw/ranges.ts'

/** A UUID made by whoever makes the thing, so that a write sent twice is the same write. */
export const Id = z.uuid({ error: 'must be a UUID' })

const shown = (v: number) => String(v).replace('-', '−')

/** A number within a range, with a sentence that says what would be right. */
export const within = ([low, high]: readonly [number, number], unit = '') =>
  z
    .number({ error: `must be a number between ${shown(low)} and ${shown(high)}${unit}` })
    .refine((v) => v >= low && v <= high, {
      error: (issue) =>
        `is ${shown(Number(issue.input))}; it must lie between ${shown(low)} and ${shown(high)}${unit}`,
    })

/** One of some words, with a sentence that lists them. */
export const oneOf = <const C extends readonly string[]>(choices: C) =>
  z.enum(choices, {
    error: `must be ${choices.length === 2 ? choices.join(' or ') : `one of ${choices.join(', ')}`}`,
  })

/** Text a person types: trimmed, not empty. */
export const Name = z
  .string({ error: 'must be given' })
  .trim()
  .min(1, 'must not be empty')
  .max(120, 'must be at most 120 characters')
export const Day = z
  .string({ error: 'must be a day such as 2026-05-09' })
  .refine(isDay, 'must be a day such as 2026-05-09')
const MOMENT = 'must be an ISO 8601 time with its zone, such as 2026-05-09T10:24:00Z'
/** A moment: a day that was, by clocks that are somewhere. */
export const Instant = z
  .string({ error: MOMENT })
  .refine((text) => isInstant(text) && /T.*(Z|[+-])/.test(text), MOMENT)
export const Note = z.string().trim().max(4000, 'must be at most 4000 characters')

/** Which version of a stored row a change of it was made from; one that names none takes the place of whatever is there. */
export const FromVersion = z.int().min(0).max(1_000_000_000, 'must be at most 1000000000').optional()

export const Numbers = z.object({
  speed: within(NUMBER_RANGE.speed),
  glide: within(NUMBER_RANGE.glide),
  turn: within(NUMBER_RANGE.turn),
  fade: within(NUMBER_RANGE.fade),
})

export { DISC_CLASSES, SOURCES, WEAR_STATES }

export const Maker = z.object({ id: Id, name: Name })
export const Mold = z.object({
  id: Id,
  makerId: Id,
  name: Name,
  discClass: z.enum(DISC_CLASSES, { error: `must be one of ${Object.values(DISC_CLASS_WORDS).join(', ')}` }),
  numbers: Numbers,
})
/** What a maker says of a plastic in words, to be tested. */
export const Claim = z.string().trim().min(1).max(200, 'must be at most 200 characters')
export const Plastic = z.object({
  id: Id,
  moldId: Id,
  name: Name,
  numbers: Numbers.nullable(),
  claims: z.array(Claim).max(12, 'must be at most 12 claims').default([]),
})
export const Run = z.object({ id: Id, plasticId: Id, name: Name, numbers: Numbers.nullable() })
export const Disc = z.object({
  id: Id,
  code: Name.max(40, 'must be at most 40 characters'),
  plasticId: Id,
  runId: Id.nullable(),
  stamped: Numbers.nullable(),
  markedG: within(SHEET_RANGE.weightG, ' g').nullable(),
  weighedG: within(SHEET_RANGE.weightG, ' g').nullable(),
  source: z.enum(SOURCES, { error: `must be one of ${Object.values(SOURCE_WORDS).join(', ')}` }),
  /** From whom, in words: a review discloses it. */
  provenance: z.string().trim().max(200, 'must be at most 200 characters').default(''),
  acquiredOn: Day.nullable().default(null),
  wear: z.enum(WEAR_STATES, { error: `must be one of ${WEAR_STATES.join(', ')}` }),
  note: Note,
  /** When it was taken off the shelf; it can be put back. */
  removedAt: Instant.nullable(),
  version: FromVersion,
})
export const Shelf = z.object({
  makers: z.array(Maker),
  molds: z.array(Mold),
  plastics: z.array(Plastic),
  runs: z.array(Run),
  discs: z.array(Disc),
})

/** A disc with everything above it that does not exist yet, stored in one go or not at all. */
export const DiscEntry = z
  .object({
    /** Of the disc. */
    id: Id,
    disc: Disc,
    maker: Maker.optional(),
    mold: Mold.optional(),
    plastic: Plastic.optional(),
    run: Run.optional(),
  })
  .refine((e) => e.id === e.disc.id, { path: ['id'], error: 'must be the id of the disc' })

/** Several discs changed at once, stored in one go or not at all. */
export const ShelfEdit = z.object({
  id: Id,
  discs: z.array(Disc).min(1, 'must change at least one disc').max(2000, 'must be at most 2000 discs'),
})

export type ShelfEdit = z.infer<typeof ShelfEdit>
export type Maker = z.infer<typeof Maker>
export type Mold = z.infer<typeof Mold>
export type Plastic = z.infer<typeof Plastic>
export type Run = z.infer<typeof Run>
export type Disc = z.infer<typeof Disc>
export type Shelf = z.infer<typeof Shelf>
export type DiscEntry = z.infer<typeof DiscEntry>
export type PublishedNumbers = z.infer<typeof Numbers>
