import { z } from 'zod'
import { DRILL_KINDS } from '../core/drill/question.ts'
import { FACTOR_NAMES } from '../core/drill/watcher.ts'
import type { RecordedThrow } from '../core/drill/recorded.ts'
import { fadeSign, HANDS, mirrored, STROKES } from '../core/flight/hand.ts'
import { NOT_STATED } from './naming.ts'
import { Day, Id, Instant, oneOf } from './shelf.ts'

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
  kind: oneOf(DRILL_KINDS),
  level: share,
  truth: DrillTruth,
  answer: DrillSaid,
  like: z.array(oneOf(FACTOR_NAMES)).readonly(),
  right: z.boolean(),
  points: z.number(),
})
export type DrillAnswer = z.infer<typeof DrillAnswer>
export const DrillAnswers = z.array(DrillAnswer)

const points = z.array(z.number()).readonly()
const estimate = z.object({ value: z.number(), sd: z.number() })
/** A recorded throw of one's own sessions, as the drill shows it again; sides to the thrower's right. */
export const DrillRecorded = z.object({
  throwId: Id,
  trialId: Id,
  day: Day,
  place: z.string(),
  disc: z.string(),
  hand: z.enum(HANDS),
  stroke: z.enum(STROKES),
  hyzerDeg: z.number(),
  hyzerCalledDeg: z.number().nullable(),
  noseCalledDeg: z.number().nullable(),
  windAlongMps: z.number().nullable(),
  windAcrossMps: z.number().nullable(),
  carryM: z.number(),
  rightM: z.number(),
  path: z.object({ timeS: points, downM: points, rightM: points, upM: points }),
  rated: z.object({ turn: estimate, fade: estimate }).nullable(),
})
export type DrillRecorded = z.infer<typeof DrillRecorded>
export const DrillRecordeds = z.array(DrillRecorded)

/** A recorded throw in the frame of the throw. */
export function recordedThrow(r: DrillRecorded): RecordedThrow {
  const sign = fadeSign(r.hand, r.stroke)
  return {
    name: `${r.disc}, ${r.day}${r.place === NOT_STATED ? '' : `, ${r.place}`}`,
    timeS: r.path.timeS,
    downM: r.path.downM,
    sideM: r.path.rightM.map((m) => mirrored(m, sign)),
    upM: r.path.upM,
    landed: { downM: r.carryM, sideM: mirrored(r.rightM, sign) },
    hyzerDeg: r.hyzerCalledDeg ?? r.hyzerDeg,
    noseDeg: r.noseCalledDeg ?? 0,
    wind:
      r.windAlongMps === null
        ? undefined
        : { windAlongMps: r.windAlongMps, windTowardFadeMps: mirrored(r.windAcrossMps ?? 0, sign) },
    rated: r.rated ?? undefined,
  }
}
