import { PLASTIC_KINDS } from '../core/shelf/usualWear.ts'
import { z } from 'zod'
import { MEASURING_METHODS } from '../core/throw/method.ts'
import { HANDS, STROKES } from '../core/flight/hand.ts'
import { isTimeZone } from '../core/throw/day.ts'
import { LEGS } from '../core/throw/leg.ts'
import { brokenRules, OBSERVED_KEYS, rowOf } from '../core/throw/observed.ts'
import type { Observed, ObservedKey, ObservedValue, SeenKey } from '../core/throw/observed.ts'
import { PATH_RANGE, SHEET_RANGE, SHEET_UNIT } from '../core/throw/ranges.ts'
import type { FigureKey } from '../core/throw/observed.ts'
import type { SheetNumber } from '../core/throw/ranges.ts'
import { GAMES, lackingInGame, SHORT_KEYS, shortRowOf } from '../core/throw/short.ts'
import type { ShortKey, ShortObserved } from '../core/throw/short.ts'
import { FIXED_ORDERS, PROTOCOLS } from '../core/plan/order.ts'
import { CONVENTIONS, QUESTION_KINDS } from '../core/plan/questions.ts'
import { CLAIMABLES } from '../core/judge/claims.ts'
import { Claim, Day, FromVersion, Id, Instant, Name, oneOf, within } from './shelf.ts'

const unitAfter = (unit: string) => (unit === '' || unit === '°' ? unit : ` ${unit}`)
const sheet = (key: SheetNumber) => within(SHEET_RANGE[key], unitAfter(SHEET_UNIT[key]))
const seen = (key: SheetNumber) => sheet(key).nullable()

const Hand = oneOf(HANDS)
const Stroke = oneOf(STROKES)

/** Counted by the server; a database counts no farther. */
const Version = z
  .int('must be a whole number')
  .min(0, 'must not be negative')
  .max(2_000_000_000, 'is higher than anything was counted')

const tally = (most: number) => z.int('must be a whole number').min(1, 'must be at least 1').max(most)
/** Throws, and throws at full power, a day and a week. */
export const ArmBudget = z.object({
  throwsADay: tally(2000),
  fullPowerADay: tally(2000),
  throwsAWeek: tally(5000),
  fullPowerAWeek: tally(5000),
})

export const Thrower = z.object({
  id: Id,
  name: Name,
  hand: Hand,
  /** Full-power release speeds, where known. */
  backhandMps: seen('fullSpeedMps'),
  forehandMps: seen('fullSpeedMps'),
  /** What the arm may take; a plan does not silently exceed it. */
  budget: ArmBudget.nullable().default(null),
  version: FromVersion,
})

export const TimeZone = z.string().max(64).refine(isTimeZone, 'must be a time zone such as Europe/Berlin')

/** A field to throw on. */
export const Place = z.object({
  id: Id,
  name: Name,
  /** From the throwing mark along the aim line to where it ends. */
  fieldLengthM: within([20, 400], ' m').nullable(),
  /** Compass bearing of the aim line. */
  bearingDeg: within([0, 360], '°').nullable(),
  altitudeM: seen('altitudeM'),
  /** Where the throwing mark is, WGS 84; a page that does not know of it leaves it as it is. */
  latDeg: within([-90, 90], '°').nullable().optional(),
  lonDeg: within([-180, 180], '°').nullable().optional(),
  surface: z.string().trim().max(120, 'must be at most 120 characters'),
  hazards: z.string().trim().max(500, 'must be at most 500 characters'),
  /** Of its clocks; that of whoever throws there where nobody said. */
  timeZone: TimeZone.nullable().default(null),
  removedAt: Instant.nullable(),
  version: FromVersion,
})

/** How a trial is to be thrown, and what was expected of it before. */
export const Plan = z.object({
  kind: z.enum(QUESTION_KINDS, { error: `must be one of ${QUESTION_KINDS.join(', ')}` }),
  /** Every throw in its order. */
  throws: z
    .array(
      z.object({
        discId: Id,
        hyzerDeg: sheet('hyzerDeg'),
        leg: z.enum(LEGS, { error: 'must be out or back' }),
        round: z.int().min(0),
        stroke: Stroke.default('backhand'),
        /** Share of full power; that of the plan where it says nothing else. */
        power: sheet('power').nullable().default(null),
        /** Who throws it, where a plan says. */
        throwerId: Id.nullable().default(null),
      }),
    )
    .max(2000, 'must be at most 2000 throws'),
  order: z.enum(['shuffled', 'fixed']),
  /** Which fixed order. */
  fixedBy: z.enum(FIXED_ORDERS).default('least-to-most-stable'),
  /** What the shuffle was made from, so that it can be made again. */
  seed: z.int().min(0),
  power: sheet('power'),
  /** Wind along the aim line that the plan counts on, m/s. */
  windMps: within([0, 15], ' m/s'),
  /** What the published numbers are read as. */
  convention: z.enum(CONVENTIONS),
  /** The two discs it is about, where it is about two of several. */
  pair: z.tuple([Id, Id]).nullable().default(null),
  protocol: z.enum(PROTOCOLS),
  /** Discs from most to least stable, as expected before the first throw; locked by it. */
  expected: z.array(Id),
  claims: z.array(Claim).max(12, 'must be at most 12 claims'),
  /** Claims built from parts, so that throws can judge them; locked with the order expected. */
  built: z
    .array(
      z.object({
        discId: Id,
        says: oneOf(CLAIMABLES),
        /** Another disc; its own label where null. */
        thanId: Id.nullable(),
        /** By at least so much: metres, or numbers of a label. */
        by: within([0, 100]),
      }),
    )
    .max(12, 'must be at most 12 claims')
    .default([]),
  /** The disc it should fly like; locked with the order expected. */
  likeDiscId: Id.nullable().default(null),
  /** Slow discs thrown first, in this order; they do not count. */
  warmUps: z.array(Id).max(20, 'must be at most 20 warm-up throws').default([]),
  strokes: z.array(Stroke).min(1).max(2).default(['backhand']),
  /** Shares of full power beside the plan's own. */
  easedTo: sheet('power').nullable().default(null),
  /** Who throws, by turns. */
  throwerIds: z.array(Id).max(4, 'must be at most 4 throwers').default([]),
  placeId: Id.nullable().default(null),
  startsAt: Instant.nullable().default(null),
  /** True once somebody moved throws by hand: the shuffle no longer makes this order. */
  moved: z.boolean().default(false),
})

const TrialColumns = z.object({
  id: Id,
  name: Name,
  question: z.string().trim().max(500, 'must be at most 500 characters'),
  discIds: z
    .array(Id)
    .min(1, 'must name at least one disc')
    .max(60, 'must be at most 60 discs')
    .refine((ids) => new Set(ids).size === ids.length, 'must name each disc once'),
  controlDiscId: Id.nullable(),
  /** Release angles the trial throws, degrees of hyzer. */
  hyzerDegs: z
    .array(sheet('hyzerDeg'))
    .min(1, 'must name at least one release angle')
    .max(7, 'must be at most 7 angles'),
  plannedThrows: z
    .int('must be a whole number')
    .min(0, 'must not be negative')
    .max(2000, 'must be at most 2000'),
  finishedAt: Instant.nullable(),
  /** When it was put away: it stands on no list, and its throws go on counting. */
  removedAt: Instant.nullable().default(null),
  plan: Plan.nullable().default(null),
  /**
   * Counted by the server; a change says which one it was made from. 0 has not been stored; a change that names none is
   * written over whatever is there.
   */
  version: Version.optional(),
})
/** A trial as a list has it: a plan may be two thousand throws, and is read with its trial. */
export const TrialHead = TrialColumns.omit({ plan: true })
export const Trial = TrialColumns.refine(
  (t) => t.controlDiscId === null || t.discIds.includes(t.controlDiscId),
  {
    path: ['controlDiscId'],
    error: 'must be one of the discs of the trial',
  },
)
  .refine((t) => t.plan === null || t.plan.throws.every((p) => t.discIds.includes(p.discId)), {
    path: ['plan'],
    error: 'must plan throws of discs of the trial only',
  })
  .refine((t) => t.plan === null || t.plan.expected.every((d) => t.discIds.includes(d)), {
    path: ['plan'],
    error: 'must expect something of discs of the trial only',
  })

export const Session = z.object({
  id: Id,
  /** The place as it was called then. */
  place: Name,
  /** Which of the places on file it was; null for one that is not. */
  placeId: Id.nullable().default(null),
  /** Calendar day at the place: every throw of the outing belongs to it. */
  day: Day,
  /** Of the clocks at the place. */
  timeZone: TimeZone.nullable().default(null),
  temperatureC: seen('temperatureC'),
  altitudeM: seen('altitudeM'),
  method: z.enum(MEASURING_METHODS, { error: `must be one of ${MEASURING_METHODS.join(', ')}` }),
  /** Who called its angles, and how far off the eye drill says that eye sees them: where it is to count in ratings. */
  watcherId: Id.nullable().default(null),
  watcherSdDeg: seen('watcherSdDeg').default(null),
  version: FromVersion,
})

/** Of an outing whose watcher was not measured. */
export const NO_WATCHER = { watcherId: null, watcherSdDeg: null } as const satisfies Partial<
  z.infer<typeof Session>
>

/** A flight as it was recorded: seconds since release, metres downrange, right of and above the aim line. */
export const MOST_PATH_POINTS = 1200
const column = (range: readonly [number, number], unit: string) =>
  z.array(within(range, ` ${unit}`)).max(MOST_PATH_POINTS, `must be at most ${MOST_PATH_POINTS} points`)
export const ThrowPath = z
  .object({
    /** None where times were not recorded. */
    timeS: column(PATH_RANGE.t_s, 's'),
    downM: column(PATH_RANGE.down_m, 'm'),
    rightM: column(PATH_RANGE.right_m, 'm'),
    /** None where heights were not recorded. */
    upM: column(PATH_RANGE.up_m, 'm'),
  })
  .refine((p) => p.rightM.length === p.downM.length, { error: 'must have as many sides as distances' })
  .refine((p) => [p.timeS, p.upM].every((c) => c.length === 0 || c.length === p.downM.length), {
    error: 'must have as many times and heights as distances, or none',
  })

/** How one thing that can be observed of a throw crosses the wire. */
function observedSchema(key: ObservedKey): z.ZodType {
  const row = rowOf(key)
  const value =
    row.kind === 'figure'
      ? sheet(key as FigureKey)
      : row.kind === 'choice'
        ? oneOf(row.choices)
        : row.kind === 'truth'
          ? z.boolean({ error: 'must be true or false' })
          : z.string().trim().max(row.longest, `must be at most ${row.longest} characters`)
  return row.need === 'always' ? value : (value as z.ZodType<unknown>).nullable().default(null)
}
type ObservedShape = {
  [K in ObservedKey]: K extends SeenKey
    ? z.ZodType<ObservedValue<K> | null, ObservedValue<K> | null | undefined>
    : z.ZodType<ObservedValue<K>, ObservedValue<K>>
}
const observedShape = Object.fromEntries(
  OBSERVED_KEYS.map((key) => [key, observedSchema(key)]),
) as ObservedShape

/** What any throw belongs to. */
const ofTrial = { id: Id, trialId: Id, sessionId: Id, discId: Id, throwerId: Id }

const throwWith = (path: typeof ThrowPath) =>
  z
    .object({
      ...ofTrial,
      /** Id the throw had in the file it came from. */
      label: z.string().max(200).nullable(),
      thrownAt: Instant,
      ...observedShape,
      path: path.nullable().default(null),
      notes: z.record(z.string().max(200), z.string().max(2000)),
      /** When it was taken back; it can be restored. */
      takenBackAt: Instant.nullable(),
      /** Counted by the server; an edit says which one it was made from. 0 has not been stored. */
      version: Version.default(0),
    })
    .superRefine((t, ctx) => {
      for (const { key, message } of brokenRules(t as Observed))
        ctx.addIssue({ code: 'custom', path: [key], message })
    })

export const Throw = throwWith(ThrowPath)
const anything = z.array(z.number())
/** As it is read: a recording that was stored before recordings had ranges is shown, to be put right, not choked on. */
const StoredThrow = throwWith(z.object({ timeS: anything, downM: anything, rightM: anything, upM: anything }))

/** How one thing that can be observed of a throw of the short game crosses the wire. */
function shortSchema(key: ShortKey): z.ZodType {
  const row = shortRowOf(key)
  switch (row.kind) {
    case 'figure':
      return within(row.range, unitAfter(row.unit)).nullable().default(null)
    case 'count':
      return within(row.range)
        .refine((v) => Number.isInteger(v), 'must be a whole number')
        .nullable()
        .default(null)
    case 'truth':
      return z.boolean({ error: 'must be true or false' }).nullable().default(null)
    case 'choice':
      return oneOf(row.choices).nullable().default(null)
  }
}
type ShortShape = { [K in ShortKey]: z.ZodType<ShortObserved[K], ShortObserved[K] | undefined> }
const shortShape = Object.fromEntries(SHORT_KEYS.map((key) => [key, shortSchema(key)])) as ShortShape

/** A throw of the short game, or a hole: which columns it has depends on the game. */
export const ShortThrow = z
  .object({
    ...ofTrial,
    thrownAt: Instant,
    game: oneOf(GAMES),
    ...shortShape,
    takenBackAt: Instant.nullable(),
  })
  .superRefine((t, ctx) => {
    for (const key of lackingInGame(t.game, t))
      ctx.addIssue({ code: 'custom', path: [key], message: `must be given for ${t.game}` })
  })

/** What a disc had been through before it was thrown on an outing, and what its plastic is. */
const WornOn = z.object({
  discId: Id,
  sessionId: Id,
  throws: z.int(),
  hardHits: z.int(),
  kind: z.enum(PLASTIC_KINDS),
})
export type WornOn = z.infer<typeof WornOn>
/** A device that has read the trial before does not say. */
const worn = z.array(WornOn).optional()

/** A trial with all that was thrown for it. */
export const TrialFile = z.object({
  trial: Trial,
  sessions: z.array(Session),
  throws: z.array(StoredThrow),
  worn,
})
/** Who logged throws of a trial, and with which device: of those where it is known. */
export const Loggers = z.array(z.object({ throwId: Id, person: z.string(), device: z.string().nullable() }))
/** A throw as it was written, each time it was: the latest first. */
export const ThrowHistory = z.array(
  z.object({
    at: Instant,
    /** Who wrote it so, where it did not come from a file or this machine of before. */
    person: z.string().nullable(),
    /** With which device; none on the machine itself. */
    device: z.string().nullable(),
    throw: StoredThrow,
  }),
)
/** What is known of a trial's discs besides: counted throws of other trials that share discs with it, and their outings. */
export const KnownThrows = z.object({
  sessions: z.array(Session),
  throws: z.array(StoredThrow),
  worn,
})

/** What discs of a trial had been through on its first day, as the shelf counts it. */
export const WornDiscs = z.array(z.object({ discId: Id, throws: z.int(), hardHits: z.int() }))

/** A trial on the bench: how far it is. */
export const TrialSummary = z.object({
  trial: TrialHead,
  counted: z.int(),
  leftOut: z.int(),
  lastThrownAt: Instant.nullable(),
})

const readings = z.array(sheet('windAlongMps')).min(1).max(3600, 'must be at most 3600 readings')
/** What an anemometer said during a session, in the frame of the aim line on the way out, at even steps of time. */
export const WindLog = z
  .object({
    id: Id,
    sessionId: Id,
    startedAt: Instant,
    endedAt: Instant,
    alongMps: readings,
    acrossMps: readings,
  })
  .refine((l) => l.alongMps.length === l.acrossMps.length, {
    path: ['acrossMps'],
    error: 'must have as many readings as alongMps',
  })

/** What an arm did on a day, whether it counted or not. */
export const ArmDay = z.object({ throwerId: Id, day: Day, throws: z.int(), fullPower: z.int() })
export type ArmDay = z.infer<typeof ArmDay>

export type Plan = z.infer<typeof Plan>
export type ShortThrow = z.infer<typeof ShortThrow>
export type WindLog = z.infer<typeof WindLog>
export type ThrowPath = z.infer<typeof ThrowPath>
export type Place = z.infer<typeof Place>
export type ArmBudget = z.infer<typeof ArmBudget>
export type Thrower = z.infer<typeof Thrower>
export type Trial = z.infer<typeof Trial>
/** A trial as it may be sent: without a plan where there is none. */
export type TrialSent = z.input<typeof Trial>
export type Session = z.infer<typeof Session>
export type Throw = z.infer<typeof Throw>
export type ThrowHistory = z.infer<typeof ThrowHistory>
export type KnownThrows = z.infer<typeof KnownThrows>
export type TrialFile = z.infer<typeof TrialFile>
export type TrialHead = z.infer<typeof TrialHead>
export type TrialSummary = z.infer<typeof TrialSummary>

/** What a plan says besides its throws, nothing said. */
export const BLANK_PLAN = {
  convention: 'fresh',
  pair: null,
  claims: [],
  built: [],
  likeDiscId: null,
  placeId: null,
  startsAt: null,
} satisfies Partial<Plan>
