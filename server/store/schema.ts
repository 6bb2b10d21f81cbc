import type { DiscClass, DiscSource } from '../../core/shelf/kinds.ts'
import { sql } from 'drizzle-orm'
import {
  bigserial,
  boolean,
  check,
  customType,
  date,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import type { TrialCard } from '../../contract/cards.ts'
import type { LabelGap } from '../../core/judge/label.ts'
import type { NotWeighed } from '../../contract/shelfPage.ts'
import type { AnyPgColumn } from 'drizzle-orm/pg-core'
import { NUMBER_RANGE } from '../../core/flight/disc.ts'
import { SHEET_RANGE } from '../../core/throw/ranges.ts'
import { INSPECTION_RANGE } from '../../core/shelf/inspection.ts'
import { MEASURING_METHODS } from '../../core/throw/method.ts'
import { PHOTO_KINDS, PHOTO_LIMIT } from '../../contract/photo.ts'
import { DISC_CLASSES, SOURCES, WEAR_STATES } from '../../contract/shelf.ts'
import type { PublishedNumbers } from '../../contract/shelf.ts'
import { HANDS } from '../../core/flight/hand.ts'
import { GAMES } from '../../core/throw/short.ts'
import type { ArmBudget, Plan, ThrowPath } from '../../contract/trials.ts'
import { PAGE_LIMIT } from '../../contract/reviews.ts'
import type { Verdicts } from '../../contract/reviews.ts'
import type { DocNode } from '../../core/review/document.ts'
import { SECTION_KINDS } from '../../core/review/sections.ts'
import type { SectionKind } from '../../core/review/sections.ts'
import { DRILL_KINDS } from '../../core/drill/question.ts'
import type { DrillKind } from '../../core/drill/question.ts'
import type { DayOutcome } from '../../core/rotation/scatter.ts'
import { PLASTIC_KINDS } from '../../core/shelf/usualWear.ts'
import type { PlasticKind } from '../../core/shelf/usualWear.ts'
import { DISC_EVENTS } from '../../core/rotation/life.ts'
import type { KnownArm } from '../../contract/lab.ts'
import type { DrillAnswer } from '../../contract/drill.ts'
import type { JobRow } from '../../contract/rotation.ts'
import { PASS_KINDS, TRY_KINDS } from '../../contract/crew.ts'
import { ROLES } from '../../contract/roles.ts'
import type { Role } from '../../contract/roles.ts'
import { ERRAND_KINDS, ERRAND_STATES } from '../../contract/custody.ts'
import type { Held } from '../../contract/news.ts'
import type { WriteKind } from '../../contract/writes.ts'
import { THEMES, UNITS } from '../../contract/preferences.ts'
import {
  between,
  observedChecks,
  observedColumns,
  isOneOf,
  shortChecks,
  shortColumns,
} from './observedColumns.ts'

/** A point in time, ISO 8601 in UTC on this side whatever PostgreSQL prints. */
const instant = customType<{ data: string; driverData: string }>({
  dataType: () => 'timestamp with time zone',
  fromDriver: (v) => new Date(v).toISOString(),
})
const createdAt = instant('created_at')
  .notNull()
  .default(sql`now()`)

/** Who wrote a row last, from which device, and when; none on this machine alone, and of what came from a file. */
const written = () => ({
  byPersonId: uuid('by_person_id').references(() => people.id),
  byKeyId: uuid('by_key_id').references(() => deviceKeys.id),
  writtenAt: instant('written_at')
    .notNull()
    .default(sql`now()`),
})

/** Counts how often a row was written; see {@link rowVersions}. */
const version = () => integer('version').notNull().default(1)

const filled = (column: AnyPgColumn) => sql`length(trim(${column})) between 1 and 120`

/** Published numbers live in one JSON value, all four or none; the database checks every one. */
const numbers = (name: string) => jsonb(name).$type<PublishedNumbers>()
const numbersCheck = (name: string, column: AnyPgColumn) =>
  check(
    name,
    sql`${column} is null or (${sql.join(
      Object.entries(NUMBER_RANGE).map(
        ([key, [low, high]]) =>
          sql`coalesce((${column} ->> ${sql.raw(`'${key}'`)})::float8 between ${sql.raw(String(low))} and ${sql.raw(String(high))}, false)`,
      ),
      sql` and `,
    )})`,
  )

/** Who may come in, and what they may do. */
export const people = pgTable(
  'people',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    role: text('role').$type<Role>().notNull(),
    /** As `hashPassphrase` writes it; none of somebody who comes in by paired devices alone. */
    passphrase: text('passphrase'),
    removedAt: instant('removed_at'),
    createdAt,
  },
  (t) => [
    uniqueIndex('people_name_once').on(sql`lower(${t.name})`),
    check('people_name', filled(t.name)),
    check('people_role', isOneOf(t.role, ROLES)),
  ],
)

/** What a device comes in with, by its digest. A key that was taken away stays, so that what it wrote has a name. */
export const deviceKeys = pgTable(
  'device_keys',
  {
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    name: text('name').notNull(),
    digest: text('digest').notNull().unique(),
    seenAt: instant('seen_at')
      .notNull()
      .default(sql`now()`),
    revokedAt: instant('revoked_at'),
    createdAt,
  },
  (t) => [index('device_keys_of_person').on(t.personId), check('device_keys_name', filled(t.name))],
)

/** What lets somebody in once: the code that pairs a device, or the link that makes a person. */
export const passes = pgTable(
  'passes',
  {
    id: uuid('id').primaryKey(),
    kind: text('kind').$type<(typeof PASS_KINDS)[number]>().notNull(),
    digest: text('digest').notNull().unique(),
    /** Whose device is paired. */
    personId: uuid('person_id').references(() => people.id),
    /** What the person that is made may do. */
    role: text('role').$type<Role>(),
    madeById: uuid('made_by_id')
      .notNull()
      .references(() => people.id),
    /** The device it was made on: it opens nothing once that comes in no more. None at the machine itself. */
    madeByKeyId: uuid('made_by_key_id').references(() => deviceKeys.id),
    expiresAt: instant('expires_at').notNull(),
    usedAt: instant('used_at'),
    createdAt,
  },
  (t) => [
    index('passes_of_person').on(t.personId),
    index('passes_made_by').on(t.madeById),
    index('passes_made_by_key').on(t.madeByKeyId),
    check('passes_kind', isOneOf(t.kind, PASS_KINDS)),
    check('passes_role', isOneOf(t.role, ROLES)),
    check(
      'passes_for',
      sql`(${t.kind} = 'pairing') = (${t.personId} is not null) and (${t.kind} = 'invitation') = (${t.role} is not null)`,
    ),
  ],
)

/** What each device that logs a trial is about to throw, so that no other is told to throw it too. */
export const hands = pgTable(
  'hands',
  {
    trialId: uuid('trial_id')
      .notNull()
      .references(() => trials.id, { onDelete: 'cascade' }),
    /** A browser, by an id it made. */
    deviceId: uuid('device_id').notNull(),
    held: jsonb('held').$type<Held>().notNull(),
    /** Since when it is that throw. */
    since: instant('since').notNull(),
    seenAt: instant('seen_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.trialId, t.deviceId] })],
)

/** Long work that somebody asked for: how far it is, wherever it is done. */
export const errands = pgTable(
  'errands',
  {
    id: uuid('id').primaryKey(),
    kind: text('kind').$type<(typeof ERRAND_KINDS)[number]>().notNull(),
    state: text('state').$type<(typeof ERRAND_STATES)[number]>().notNull().default('under-way'),
    stage: text('stage').notNull().default(''),
    done: doublePrecision('done').notNull().default(0),
    total: doublePrecision('total').notNull().default(0),
    /** What came of it, or what kept it from being done. */
    said: text('said').notNull().default(''),
    problems: jsonb('problems').$type<readonly string[]>().notNull().default([]),
    cancelled: boolean('cancelled').notNull().default(false),
    /** Whoever does it says so again and again. */
    beatAt: instant('beat_at')
      .notNull()
      .default(sql`now()`),
    createdAt,
  },
  (t) => [
    check('errands_kind', isOneOf(t.kind, ERRAND_KINDS)),
    check('errands_state', isOneOf(t.state, ERRAND_STATES)),
  ],
)

/** Who tried to come in and could not, for the owner to see. */
export const failedTries = pgTable(
  'failed_tries',
  {
    id: uuid('id').primaryKey(),
    what: text('what').$type<(typeof TRY_KINDS)[number]>().notNull(),
    /** As whom; empty where no name was given. */
    name: text('name').notNull(),
    address: text('address').notNull(),
    tries: integer('tries').notNull().default(1),
    firstAt: instant('first_at')
      .notNull()
      .default(sql`now()`),
    lastAt: instant('last_at')
      .notNull()
      .default(sql`now()`),
  },
  (t) => [
    unique('failed_tries_once').on(t.what, t.name, t.address),
    check('failed_tries_what', isOneOf(t.what, TRY_KINDS)),
  ],
)

/** Tries to come in, counted by name and by address. */
export const attempts = pgTable('attempts', {
  key: text('key').primaryKey(),
  points: integer('points').notNull(),
  expire: timestamp('expire', { withTimezone: true, mode: 'date' }),
})

export const makers = pgTable(
  'makers',
  { id: uuid('id').primaryKey(), name: text('name').notNull().unique(), createdAt },
  (t) => [check('makers_name', filled(t.name))],
)

export const molds = pgTable(
  'molds',
  {
    id: uuid('id').primaryKey(),
    makerId: uuid('maker_id')
      .notNull()
      .references(() => makers.id),
    name: text('name').notNull(),
    discClass: text('disc_class').$type<DiscClass>().notNull(),
    numbers: numbers('numbers').notNull(),
    createdAt,
  },
  (t) => [
    unique('molds_name_once').on(t.makerId, t.name),
    check('molds_name', filled(t.name)),
    check('molds_class', isOneOf(t.discClass, DISC_CLASSES)),
    numbersCheck('molds_numbers', t.numbers),
  ],
)

export const plastics = pgTable(
  'plastics',
  {
    id: uuid('id').primaryKey(),
    moldId: uuid('mold_id')
      .notNull()
      .references(() => molds.id),
    name: text('name').notNull(),
    numbers: numbers('numbers'),
    claims: jsonb('claims').$type<string[]>().notNull().default([]),
    createdAt,
  },
  (t) => [
    unique('plastics_name_once').on(t.moldId, t.name),
    check('plastics_name', filled(t.name)),
    numbersCheck('plastics_numbers', t.numbers),
  ],
)

export const runs = pgTable(
  'runs',
  {
    id: uuid('id').primaryKey(),
    plasticId: uuid('plastic_id')
      .notNull()
      .references(() => plastics.id),
    name: text('name').notNull(),
    numbers: numbers('numbers'),
    createdAt,
  },
  (t) => [
    unique('runs_name_once').on(t.plasticId, t.name),
    unique('runs_of_plastic').on(t.id, t.plasticId),
    check('runs_name', filled(t.name)),
    numbersCheck('runs_numbers', t.numbers),
  ],
)

export const discs = pgTable(
  'discs',
  {
    id: uuid('id').primaryKey(),
    code: text('code').notNull(),
    plasticId: uuid('plastic_id')
      .notNull()
      .references(() => plastics.id),
    runId: uuid('run_id'),
    stamped: numbers('stamped'),
    markedG: doublePrecision('marked_g'),
    weighedG: doublePrecision('weighed_g'),
    source: text('source').$type<DiscSource>().notNull(),
    provenance: text('provenance').notNull().default(''),
    acquiredOn: date('acquired_on', { mode: 'string' }),
    wear: text('wear').$type<(typeof WEAR_STATES)[number]>().notNull(),
    note: text('note').notNull().default(''),
    removedAt: instant('removed_at'),
    version: version(),
    ...written(),
    createdAt,
  },
  (t) => [
    index('discs_run').on(t.runId, t.plasticId),
    uniqueIndex('discs_code_once').on(sql`lower(${t.code})`),
    // a run belongs to the disc's own plastic
    foreignKey({
      columns: [t.runId, t.plasticId],
      foreignColumns: [runs.id, runs.plasticId],
      name: 'discs_run_of_plastic',
    }),
    check('discs_code', filled(t.code)),
    check('discs_marked', between(t.markedG, SHEET_RANGE.weightG)),
    check('discs_weighed', between(t.weighedG, SHEET_RANGE.weightG)),
    check('discs_source', isOneOf(t.source, SOURCES)),
    check('discs_wear', isOneOf(t.wear, WEAR_STATES)),
    numbersCheck('discs_stamped', t.stamped),
    index('discs_plastic').on(t.plasticId),
  ],
)

const measured = {
  diameterMm: doublePrecision('diameter_mm'),
  heightMm: doublePrecision('height_mm'),
  rimDepthMm: doublePrecision('rim_depth_mm'),
  rimWidthMm: doublePrecision('rim_width_mm'),
  partingLineMm: doublePrecision('parting_line_mm'),
  domeMm: doublePrecision('dome_mm'),
  noseDeg: doublePrecision('nose_deg'),
  warpMm: doublePrecision('warp_mm'),
} satisfies Record<keyof typeof INSPECTION_RANGE, unknown>
const MEASURED_KEYS = Object.keys(measured) as (keyof typeof measured)[]

const ofDisc = () =>
  uuid('disc_id')
    .notNull()
    .references(() => discs.id)

export const inspections = pgTable(
  'inspections',
  {
    id: uuid('id').primaryKey(),
    discId: ofDisc(),
    day: date('day', { mode: 'string' }).notNull(),
    ...measured,
    bead: boolean('bead'),
    edge: integer('edge'),
    stiffness: integer('stiffness'),
    grip: integer('grip'),
    temperatureC: doublePrecision('temperature_c'),
    note: text('note').notNull().default(''),
    ...written(),
    createdAt,
  },
  (t) => [
    index('inspections_of_disc').on(t.discId, t.day),
    ...MEASURED_KEYS.map((key) =>
      check(`inspections_${columnName(key)}`, between(t[key], INSPECTION_RANGE[key])),
    ),
    ...(['edge', 'stiffness', 'grip'] as const).map((key) =>
      check(`inspections_${key}`, between(t[key], [0, 4])),
    ),
    check('inspections_temperature', between(t.temperatureC, SHEET_RANGE.temperatureC)),
  ],
)

export const wearNotes = pgTable(
  'wear_notes',
  {
    id: uuid('id').primaryKey(),
    discId: ofDisc(),
    day: date('day', { mode: 'string' }).notNull(),
    throws: integer('throws').notNull(),
    hardHits: integer('hard_hits').notNull(),
    note: text('note').notNull().default(''),
    removedAt: instant('removed_at'),
    createdAt,
  },
  (t) => [
    index('wear_notes_of_disc').on(t.discId, t.day),
    check('wear_notes_throws', between(t.throws, [0, 100_000])),
    check('wear_notes_hits', between(t.hardHits, [0, 10_000])),
  ],
)

/** Jobs that discs do. */
export const jobs = pgTable(
  'jobs',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    throwerId: uuid('thrower_id').references(() => throwers.id),
    throwing: jsonb('throwing').$type<JobRow['throwing']>().notNull(),
    wanted: jsonb('wanted').$type<JobRow['wanted']>().notNull(),
    within: jsonb('within').$type<JobRow['within']>().notNull(),
    rank: integer('rank').notNull(),
    removedAt: instant('removed_at'),
    createdAt,
  },
  (t) => [index('jobs_of_thrower').on(t.throwerId)],
)

/** What happened in the life of a disc. */
export const discEvents = pgTable(
  'disc_events',
  {
    id: uuid('id').primaryKey(),
    discId: ofDisc(),
    day: date('day', { mode: 'string' }).notNull(),
    kind: text('kind').$type<(typeof DISC_EVENTS)[number]>().notNull(),
    jobId: uuid('job_id').references(() => jobs.id),
    note: text('note').notNull().default(''),
    removedAt: instant('removed_at'),
    createdAt,
  },
  (t) => [
    index('disc_events_of_job').on(t.jobId),
    index('disc_events_of_disc').on(t.discId, t.day),
    check('disc_events_kind', isOneOf(t.kind, DISC_EVENTS)),
  ],
)

/** How plastics wear, as far as is known without throwing them. */
export const plasticWear = pgTable(
  'plastic_wear',
  {
    id: uuid('id')
      .primaryKey()
      .references(() => plastics.id),
    kind: text('kind').$type<PlasticKind>().notNull(),
    outOfMake: boolean('out_of_make').notNull().default(false),
    createdAt,
  },
  (t) => [check('plastic_wear_kind', isOneOf(t.kind, PLASTIC_KINDS))],
)

/** What was asked of an eye, and what it said. */
export const drillAnswers = pgTable(
  'drill_answers',
  {
    id: uuid('id').primaryKey(),
    throwerId: uuid('thrower_id').references(() => throwers.id, { onDelete: 'set null' }),
    answeredAt: instant('answered_at').notNull(),
    kind: text('kind').$type<DrillKind>().notNull(),
    level: doublePrecision('level').notNull(),
    truth: jsonb('truth').$type<DrillAnswer['truth']>().notNull(),
    answer: jsonb('answer').$type<DrillAnswer['answer']>().notNull(),
    like: jsonb('like').$type<DrillAnswer['like']>().notNull(),
    right: boolean('is_right').notNull(),
    points: doublePrecision('points').notNull(),
    createdAt,
  },
  (t) => [
    index('drill_answers_of_thrower').on(t.throwerId),
    check('drill_answers_kind', isOneOf(t.kind, DRILL_KINDS)),
    check('drill_answers_level', sql`${t.level} between 0 and 1`),
    index('drill_answers_when').on(t.answeredAt),
  ],
)

const bytes = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => 'bytea' })

export const photos = pgTable(
  'photos',
  {
    discId: ofDisc().primaryKey(),
    kind: text('kind').notNull(),
    bytes: bytes('bytes').notNull(),
    createdAt,
  },
  (t) => [
    check('photos_kind', isOneOf(t.kind, PHOTO_KINDS)),
    check('photos_size', sql`octet_length(${t.bytes}) between 1 and ${sql.raw(String(PHOTO_LIMIT))}`),
  ],
)

/** What all throws say of each disc: worked out, never typed; another run of the rater makes it again. */
export const ratings = pgTable('ratings', {
  discId: ofDisc().primaryKey(),
  glide: doublePrecision('glide').notNull(),
  turn: doublePrecision('turn').notNull(),
  fade: doublePrecision('fade').notNull(),
  covariance: doublePrecision('covariance').array().notNull(),
  side: doublePrecision('side').notNull(),
  sideSd: doublePrecision('side_sd').notNull(),
  finish: doublePrecision('finish').notNull(),
  finishSd: doublePrecision('finish_sd').notNull(),
  stability: doublePrecision('stability').notNull(),
  stabilitySd: doublePrecision('stability_sd').notNull(),
})

/** What was written that the ratings do not show yet: a throw, or, without one, whatever may change any of them. */
export const unweighed = pgTable('unweighed', {
  id: bigserial('id', { mode: 'number' }).primaryKey(),
  throwId: uuid('throw_id'),
})

/** Test days as they were weighed, by what stands for their throws and for the code that weighed them. */
export const weighedDays = pgTable('weighed_days', {
  digest: text('digest').primaryKey(),
  outcomes: jsonb('outcomes').$type<readonly DayOutcome[]>().notNull(),
  keptAt: instant('kept_at')
    .notNull()
    .default(sql`now()`),
})

/** How the ratings stand, and which instance keeps them in step: one row. */
export const shelfState = pgTable('shelf_state', {
  id: integer('id').primaryKey(),
  keeper: uuid('keeper'),
  /** Until then, unless it says so again; then another takes its place. */
  keptUntil: instant('kept_until')
    .notNull()
    .default(sql`now()`),
  notWeighed: jsonb('not_weighed').$type<NotWeighed>().notNull().default([]),
  /** What throws say against the numbers of plastics, by disc. */
  /** Arms as all their throws have shown them. */
  arms: jsonb('arms').$type<readonly KnownArm[]>().notNull().default([]),
  gaps: jsonb('gaps').$type<Readonly<Record<string, readonly LabelGap[]>>>().notNull().default({}),
})

export const throwers = pgTable(
  'throwers',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull().unique(),
    hand: text('hand').$type<(typeof HANDS)[number]>().notNull(),
    backhandMps: doublePrecision('backhand_mps'),
    forehandMps: doublePrecision('forehand_mps'),
    budget: jsonb('budget').$type<ArmBudget>(),
    version: version(),
    ...written(),
    createdAt,
  },
  (t) => [
    check('throwers_name', filled(t.name)),
    check('throwers_hand', isOneOf(t.hand, HANDS)),
    check('throwers_backhand', between(t.backhandMps, SHEET_RANGE.fullSpeedMps)),
    check('throwers_forehand', between(t.forehandMps, SHEET_RANGE.fullSpeedMps)),
  ],
)

export const places = pgTable(
  'places',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    fieldLengthM: doublePrecision('field_length_m'),
    bearingDeg: doublePrecision('bearing_deg'),
    altitudeM: doublePrecision('altitude_m'),
    latDeg: doublePrecision('lat_deg'),
    lonDeg: doublePrecision('lon_deg'),
    surface: text('surface').notNull().default(''),
    hazards: text('hazards').notNull().default(''),
    timeZone: text('time_zone'),
    removedAt: instant('removed_at'),
    version: version(),
    ...written(),
    createdAt,
  },
  (t) => [
    check('places_name', filled(t.name)),
    check('places_length', between(t.fieldLengthM, [20, 400])),
    check('places_lat', between(t.latDeg, [-90, 90])),
    check('places_lon', between(t.lonDeg, [-180, 180])),
    check('places_bearing', between(t.bearingDeg, [0, 360])),
    check('places_altitude', between(t.altitudeM, SHEET_RANGE.altitudeM)),
  ],
)

export const trials = pgTable(
  'trials',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    question: text('question').notNull().default(''),
    controlDiscId: uuid('control_disc_id').references(() => discs.id),
    hyzerDegs: doublePrecision('hyzer_degs').array().notNull(),
    plannedThrows: integer('planned_throws').notNull().default(0),
    finishedAt: instant('finished_at'),
    removedAt: instant('removed_at'),
    plan: jsonb('plan').$type<Plan>(),
    version: integer('version').notNull().default(1),
    /** What stands for the trial as it was first stored. */
    madeAs: text('made_as'),
    createdAt,
  },
  (t) => [
    index('trials_of_control').on(t.controlDiscId),
    check('trials_name', filled(t.name)),
    check('trials_planned', sql`${t.plannedThrows} between 0 and 2000`),
  ],
)

/** What each trial says so far, worked out, never typed; another run makes it again. */
export const cards = pgTable('cards', {
  trialId: uuid('trial_id')
    .primaryKey()
    .references(() => trials.id, { onDelete: 'cascade' }),
  /** What the trial and its throws were at. */
  mark: text('mark').notNull().default(''),
  /** Counts what was written that any card may depend on, and what of it the card knows. */
  touched: integer('touched').notNull().default(0),
  known: integer('known').notNull().default(-1),
  card: jsonb('card').$type<TrialCard>(),
})

export const trialDiscs = pgTable(
  'trial_discs',
  {
    trialId: uuid('trial_id')
      .notNull()
      .references(() => trials.id, { onDelete: 'cascade' }),
    discId: uuid('disc_id')
      .notNull()
      .references(() => discs.id),
    place: integer('place').notNull(),
  },
  (t) => [index('trial_discs_of_disc').on(t.discId), primaryKey({ columns: [t.trialId, t.discId] })],
)

export const sessions = pgTable(
  'sessions',
  {
    id: uuid('id').primaryKey(),
    place: text('place').notNull(),
    placeId: uuid('place_id').references(() => places.id),
    timeZone: text('time_zone'),
    day: date('day', { mode: 'string' }).notNull(),
    temperatureC: doublePrecision('temperature_c'),
    altitudeM: doublePrecision('altitude_m'),
    method: text('method').$type<(typeof MEASURING_METHODS)[number]>().notNull(),
    watcherId: uuid('watcher_id').references(() => throwers.id),
    watcherSdDeg: doublePrecision('watcher_sd_deg'),
    version: version(),
    ...written(),
    createdAt,
  },
  (t) => [
    index('sessions_of_place').on(t.placeId),
    index('sessions_of_day').on(t.day),
    index('sessions_of_watcher').on(t.watcherId),
    check('sessions_watcher', between(t.watcherSdDeg, SHEET_RANGE.watcherSdDeg)),
    check('sessions_place', filled(t.place)),
    check('sessions_temperature', between(t.temperatureC, SHEET_RANGE.temperatureC)),
    check('sessions_altitude', between(t.altitudeM, SHEET_RANGE.altitudeM)),
    check('sessions_method', isOneOf(t.method, MEASURING_METHODS)),
  ],
)

export const windLogs = pgTable(
  'wind_logs',
  {
    id: uuid('id').primaryKey(),
    sessionId: uuid('session_id')
      .notNull()
      .references(() => sessions.id),
    startedAt: instant('started_at').notNull(),
    endedAt: instant('ended_at').notNull(),
    alongMps: doublePrecision('along_mps').array().notNull(),
    acrossMps: doublePrecision('across_mps').array().notNull(),
    ...written(),
    createdAt,
  },
  (t) => [
    index('wind_logs_of_session').on(t.sessionId, t.startedAt),
    check('wind_logs_even', sql`cardinality(${t.alongMps}) = cardinality(${t.acrossMps})`),
  ],
)

export const throws = pgTable(
  'throws',
  {
    id: uuid('id').primaryKey(),
    trialId: uuid('trial_id').notNull(),
    sessionId: uuid('session_id')
      .notNull()
      .references(() => sessions.id),
    discId: uuid('disc_id').notNull(),
    throwerId: uuid('thrower_id')
      .notNull()
      .references(() => throwers.id),
    label: text('label'),
    thrownAt: instant('thrown_at').notNull(),
    ...observedColumns(),
    notes: jsonb('notes').$type<Record<string, string>>().notNull().default({}),
    takenBackAt: instant('taken_back_at'),
    path: jsonb('path').$type<ThrowPath>(),
    version: integer('version').notNull().default(1),
    ...written(),
    createdAt,
  },
  (t) => [
    index('throws_of_session').on(t.sessionId),
    index('throws_of_thrower').on(t.throwerId),
    index('throws_of_trial_disc').on(t.trialId, t.discId),
    // a throw is of a disc of its trial
    foreignKey({
      columns: [t.trialId, t.discId],
      foreignColumns: [trialDiscs.trialId, trialDiscs.discId],
      name: 'throws_disc_of_trial',
    }),
    index('throws_of_trial').on(t.trialId, t.thrownAt),
    index('throws_of_disc').on(t.discId),
    ...observedChecks(t),
  ],
)

function columnName(key: string): string {
  return key.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`)
}

export const shortThrows = pgTable(
  'short_throws',
  {
    id: uuid('id').primaryKey(),
    trialId: uuid('trial_id').notNull(),
    sessionId: uuid('session_id')
      .notNull()
      .references(() => sessions.id),
    discId: uuid('disc_id').notNull(),
    throwerId: uuid('thrower_id')
      .notNull()
      .references(() => throwers.id),
    thrownAt: instant('thrown_at').notNull(),
    game: text('game').$type<(typeof GAMES)[number]>().notNull(),
    ...shortColumns(),
    takenBackAt: instant('taken_back_at'),
    ...written(),
    createdAt,
  },
  (t) => [
    index('short_throws_of_session').on(t.sessionId),
    index('short_throws_of_thrower').on(t.throwerId),
    index('short_throws_of_disc').on(t.discId),
    index('short_throws_of_trial_disc').on(t.trialId, t.discId),
    foreignKey({
      columns: [t.trialId, t.discId],
      foreignColumns: [trialDiscs.trialId, trialDiscs.discId],
      name: 'short_throws_disc_of_trial',
    }),
    index('short_throws_of_trial').on(t.trialId, t.thrownAt),
    check('short_throws_game', isOneOf(t.game, GAMES)),
    ...shortChecks(t, t.game),
  ],
)

/** Throws as they were before a change: a trigger keeps them, nothing is erased. */
export const throwVersions = pgTable(
  'throw_versions',
  {
    id: uuid('id')
      .primaryKey()
      .default(sql`gen_random_uuid()`),
    throwId: uuid('throw_id').notNull(),
    replacedAt: instant('replaced_at')
      .notNull()
      .default(sql`clock_timestamp()`),
    /** The row of its table. */
    was: jsonb('was').$type<Readonly<Record<string, unknown>>>().notNull(),
  },
  (t) => [index('throw_versions_of_throw').on(t.throwId, t.replacedAt)],
)

/**
 * What each device wrote of rows that several change, and what was stored of it: what two of them changed since the version both
 * began from is told apart by it.
 */
export const rowVersions = pgTable(
  'row_versions',
  {
    kind: text('kind').notNull(),
    rowId: uuid('row_id').notNull(),
    version: integer('version').notNull(),
    /** A browser, by an id it made; none of whatever names none. */
    deviceId: uuid('device_id'),
    sent: jsonb('sent').$type<Readonly<Record<string, unknown>>>().notNull(),
    stored: jsonb('stored').$type<Readonly<Record<string, unknown>>>().notNull(),
    writtenAt: instant('written_at')
      .notNull()
      .default(sql`now()`),
  },
  (t) => [primaryKey({ columns: [t.kind, t.rowId, t.version] })],
)

/** Changes of rows that were not theirs to make, for an owner to take over. */
export const offers = pgTable(
  'offers',
  {
    id: uuid('id').primaryKey(),
    kind: text('kind').$type<WriteKind>().notNull(),
    rowId: uuid('row_id').notNull(),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    /** The fields that would be otherwise. */
    changes: jsonb('changes').$type<Readonly<Record<string, unknown>>>().notNull(),
    offeredAt: instant('offered_at')
      .notNull()
      .default(sql`now()`),
  },
  (t) => [index('offers_of_person').on(t.personId), unique('offers_once').on(t.kind, t.rowId, t.personId)],
)

export const reviews = pgTable(
  'reviews',
  {
    id: uuid('id').primaryKey(),
    title: text('title').notNull(),
    /** Trials may go; what a review says of them stays. */
    trialIds: uuid('trial_ids').array().notNull(),
    units: text('units').$type<(typeof UNITS)[number]>().notNull().default('metric'),
    listed: boolean('listed').notNull().default(false),
    removedAt: instant('removed_at'),
    version: version(),
    ...written(),
    createdAt,
  },
  (t) => [check('reviews_title', filled(t.title)), check('reviews_units', isOneOf(t.units, UNITS))],
)

export const reviewSections = pgTable(
  'review_sections',
  {
    id: uuid('id').primaryKey(),
    reviewId: uuid('review_id')
      .notNull()
      .references(() => reviews.id, { onDelete: 'cascade' }),
    kind: text('kind').$type<SectionKind>().notNull(),
    place: doublePrecision('place').notNull(),
    title: text('title').notNull(),
    body: jsonb('body').$type<DocNode>().notNull(),
    verdicts: jsonb('verdicts').$type<Verdicts>(),
    hidden: boolean('hidden').notNull().default(false),
    removedAt: instant('removed_at'),
    version: integer('version').notNull().default(1),
    createdAt,
  },
  (t) => [
    index('review_sections_of_review').on(t.reviewId, t.place),
    check('review_sections_kind', isOneOf(t.kind, SECTION_KINDS)),
    check('review_sections_title', filled(t.title)),
  ],
)

export const reviewPhotos = pgTable(
  'review_photos',
  {
    id: uuid('id').primaryKey(),
    reviewId: uuid('review_id')
      .notNull()
      .references(() => reviews.id, { onDelete: 'cascade' }),
    kind: text('kind').notNull(),
    bytes: bytes('bytes').notNull(),
    createdAt,
  },
  (t) => [
    index('review_photos_of_review').on(t.reviewId),
    check('review_photos_kind', isOneOf(t.kind, PHOTO_KINDS)),
    check('review_photos_size', sql`octet_length(${t.bytes}) between 1 and ${sql.raw(String(PHOTO_LIMIT))}`),
  ],
)

/** Frozen reviews: the page itself, byte for byte. Never changed but for being published and taken back. */
export const revisions = pgTable(
  'revisions',
  {
    id: uuid('id').primaryKey(),
    reviewId: uuid('review_id')
      .notNull()
      .references(() => reviews.id),
    number: integer('number').notNull(),
    frozenAt: instant('frozen_at')
      .notNull()
      .default(sql`now()`),
    note: text('note').notNull().default(''),
    method: text('method').notNull(),
    sha256: text('sha256').notNull(),
    page: bytes('page').notNull(),
    token: text('token').unique(),
    publishedAt: instant('published_at'),
  },
  (t) => [
    unique('revisions_number').on(t.reviewId, t.number),
    check('revisions_size', sql`octet_length(${t.page}) between 1 and ${sql.raw(String(PAGE_LIMIT))}`),
    check('revisions_published', sql`(${t.token} is null) = (${t.publishedAt} is null)`),
  ],
)

/** What holds for the whole database: one row. */
export const shed = pgTable(
  'shed',
  {
    id: integer('id').primaryKey(),
    /** Whether the sample data are here, or were put away for a shelf of one's own. */
    demo: text('demo').$type<'here' | 'away'>().notNull(),
  },
  (t) => [check('shed_one', sql`${t.id} = 1`), check('shed_demo', isOneOf(t.demo, ['here', 'away']))],
)

export const preferences = pgTable(
  'preferences',
  {
    id: uuid('id').primaryKey(),
    units: text('units').$type<(typeof UNITS)[number]>().notNull(),
    theme: text('theme').$type<(typeof THEMES)[number]>().notNull(),
    createdAt,
  },
  (t) => [
    check('preferences_units', isOneOf(t.units, UNITS)),
    check('preferences_theme', isOneOf(t.theme, THEMES)),
  ],
)
