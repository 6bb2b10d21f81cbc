import { z } from 'zod'
import { QUESTION_KINDS } from '../core/drill/question.ts'
import { FACTOR_NAMES } from '../core/drill/watcher.ts'
import { Id, Instant, oneOf } from './shelf.ts'

const share = z.number().min(0).max(1)
const place = z.object({ downM: z.number(), sideM: z.number() })

const DrillSaid = z.discriminatedUnion('kind', [
  z
    .object({ kind: z.literal('range'), low: z.number(), high: z.number() })
    .refine((a) => a.low <= a.high, { path: ['high'], error: 'must not be below the low end' }),
  z
    .object({ kind: z.literal('shares'), shares: z.array(share).min(2).max(6) })
    .refine((a) => Math.abs(a.shares.reduce((s, p) => s + p, 0) - 1) < 1e-6, {
      path: ['shares'],
      error: 'must be 1 together',
    }),
  z.object({ kind: z.literal('circle'), at: place, radiusM: z.number().min(0).max(200) }),
])
const DrillTruth = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('range'), value: z.number() }),
  z.object({ kind: z.literal('shares'), option: z.int().min(0).max(5) }),
  z.object({ kind: z.literal('circle'), at: place }),
])

/** A question of the eye drill as somebody answered it, with what was true of it. */
export const DrillAnswer = z.object({
  id: Id,
  /** Whose eye it is; null for whoever has not said. */
  throwerId: Id.nullable(),
  answeredAt: Instant,
  kind: oneOf(QUESTION_KINDS),
  level: share,
  truth: DrillTruth,
  answer: DrillSaid,
  like: z.array(oneOf(FACTOR_NAMES)).readonly(),
  right: z.boolean(),
  points: z.number(),
})
export type DrillAnswer = z.infer<typeof DrillAnswer>
export const DrillAnswers = z.array(DrillAnswer)
