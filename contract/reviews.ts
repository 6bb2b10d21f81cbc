import { z } from 'zod'
import type { Row } from './row.ts'
import {
  isLink,
  LINK_SCHEMES,
  LIVE_SIZES,
  LIVE_VIEWS,
  MARK_TYPES,
  NODE_TYPES,
  nodesOf,
} from '../core/review/document.ts'
import type { DocNode } from '../core/review/document.ts'
import { SECTION_KINDS } from '../core/review/sections.ts'
import { LabSetup } from './lab.ts'
import { PhotoRow } from './photo.ts'
import { FromVersion, Id, Instant, Name, oneOf } from './shelf.ts'
import { UNITS } from './preferences.ts'

/** Nodes of one section at most, and how deep they may lie in each other. */
export const SECTION_LIMIT = { nodes: 20_000, depth: 12, text: 100_000 } as const
/** Trials that one review may be about. */
export const MOST_TRIALS = 8
/** Bytes of a frozen page at most. */
export const PAGE_LIMIT = 24_000_000

const Attrs = z.record(z.string(), z.unknown()).optional()
const Mark = z
  .object({ type: z.enum(MARK_TYPES), attrs: Attrs })
  .refine((m) => m.type !== 'link' || isLink(m.attrs?.['href']), {
    error: `a link must begin with ${LINK_SCHEMES.join(', ')}`,
  })
const Live = z.object({
  trial: Id,
  view: z.enum(LIVE_VIEWS),
  caption: z.string().max(400),
  size: z.enum(LIVE_SIZES),
})
/** A setup of the line lab; its discs fly by what is known of them. */
const FlownThere = z.object({
  setup: LabSetup,
  caption: z.string().max(400),
  size: z.enum(LIVE_SIZES),
})
const Figured = z.object({ trial: Id, question: z.string().max(40), name: z.string().max(120) })
/** A picture of a review: a photo that was stored for it. */
const Pictured = z.object({
  src: z.string().regex(/^\/api\/review-photos\/[0-9a-f-]{36}$/, 'must be a photo of this review'),
  alt: z.string().max(400).nullish(),
})
const OWN_ATTRS: Readonly<Record<string, z.ZodType>> = {
  live: Live,
  flown: FlownThere,
  figure: Figured,
  image: Pictured,
}

const Node: z.ZodType<DocNode> = z.lazy(() =>
  z
    .object({
      type: z.enum(NODE_TYPES, { error: 'is not something a review can hold' }),
      attrs: Attrs,
      content: z.array(Node).optional(),
      marks: z.array(Mark).optional(),
      text: z.string().max(SECTION_LIMIT.text).optional(),
    })
    .superRefine((node, ctx) => {
      const wrong = OWN_ATTRS[node.type]?.safeParse(node.attrs ?? {}).error?.issues[0]
      if (wrong)
        ctx.addIssue({
          code: 'custom',
          message: `${node.type}: ${wrong.path.join('.')} ${wrong.message}`,
          path: ['attrs'],
        })
    }),
)

const depthOf = (value: unknown, left: number): boolean =>
  left >= 0 &&
  (typeof value !== 'object' ||
    value === null ||
    !('content' in value) ||
    !Array.isArray(value.content) ||
    value.content.every((c) => depthOf(c, left - 1)))

/** What a section holds. What lies too deep is refused before it is read. */
export const Document = z
  .unknown()
  .refine((v) => depthOf(v, SECTION_LIMIT.depth), `may be nested at most ${SECTION_LIMIT.depth} deep`)
  .pipe(Node)
  .refine((d) => d.type === 'doc', 'must be a document')
  .refine(
    (d) => [...nodesOf(d)].length <= SECTION_LIMIT.nodes,
    `may hold at most ${SECTION_LIMIT.nodes} parts`,
  )

/** Whether a disc earns a slot in the reviewer's bag, and whether they would buy it again: what is stored, and what it says. */
export const SLOT_WORDS = { 'earns-a-slot': 'earns a slot', 'earns-no-slot': 'earns no slot' } as const
const SLOTS = Object.keys(SLOT_WORDS) as (keyof typeof SLOT_WORDS)[]
export const AGAIN_WORDS = {
  'would-buy-again': 'would buy again',
  'would-not-buy-again': 'would not buy again',
} as const
const AGAINS = Object.keys(AGAIN_WORDS) as (keyof typeof AGAIN_WORDS)[]

/** What the reviewer says beside the numbers. */
export const Verdicts = z.object({
  slot: oneOf(SLOTS).nullable().default(null),
  overlaps: z.string().trim().max(200).default(''),
  forWhom: z.string().trim().max(400).default(''),
  notForMe: z.boolean().default(false),
  again: oneOf(AGAINS).nullable().default(null),
})

export const Review = z.object({
  id: Id,
  title: Name,
  trialIds: z
    .array(Id)
    .min(1, 'must be about at least one trial')
    .max(MOST_TRIALS, `must be about at most ${MOST_TRIALS} trials`),
  /** What its sentences and figures are in, whoever reads it. */
  units: z.enum(UNITS).default('metric'),
  /** Whether search engines may list it once it is published. */
  listed: z.boolean().default(false),
  removedAt: Instant.nullable(),
  version: FromVersion,
})

export const ReviewSection = z.object({
  id: Id,
  reviewId: Id,
  kind: z.enum(SECTION_KINDS),
  /** Sections stand in the order of this. */
  place: z.number(),
  title: Name,
  body: Document,
  /** Of the verdict alone. */
  verdicts: Verdicts.nullable().default(null),
  /** Left out of what is read. */
  hidden: z.boolean().default(false),
  removedAt: Instant.nullable().default(null),
  /** How often it was stored when it was read; another number means another device wrote in between. */
  version: z.int().min(0).default(0),
})

/** How a section is called that another device wrote at the same time. */
export const FROM_ANOTHER_DEVICE = ', from another device'
/** An edit of a section whose edit before it has become a section of its own: it goes on there. */
export function writtenBeside<T extends Row>(edit: T, beside: Row): T {
  const { id, version, kind, title, place } = beside as z.infer<typeof ReviewSection>
  return { ...edit, id, version, kind, title, place }
}

/** A picture of a review; its id is its own. */
export const ReviewPhoto = PhotoRow.extend({ reviewId: Id })

/** A frozen review: what was published or handed out, unchanged for ever. */
export const Revision = z.object({
  id: Id,
  reviewId: Id,
  number: z.int(),
  frozenAt: Instant,
  /** What changed since the one before, and why; empty for the first. */
  note: z.string(),
  /** Version of the method that made its numbers. */
  method: z.string(),
  bytes: z.int(),
  sha256: z.string(),
  /** Under which it is published; null while it is not. */
  token: z.string().nullable(),
  publishedAt: Instant.nullable(),
})
export const ReviewFile = z.object({
  review: Review,
  sections: z.array(ReviewSection),
  revisions: z.array(Revision),
})
export const ReviewList = z.array(z.object({ review: Review, revisions: z.array(Revision) }))

/** How a revision is frozen: beside the page itself. */
export const Freezing = z.object({
  reviewId: Id,
  note: z.string().trim().max(1000, 'must be at most 1000 characters').default(''),
  method: z.string().trim().min(1).max(120),
})
/** Whether a revision is to be read under its address. */
export const Publication = z.object({ published: z.boolean() })

export type Review = z.infer<typeof Review>
export type ReviewSection = z.infer<typeof ReviewSection>
export type ReviewPhoto = z.infer<typeof ReviewPhoto>
export type ReviewFile = z.infer<typeof ReviewFile>
export type Revision = z.infer<typeof Revision>
export type Verdicts = z.infer<typeof Verdicts>
