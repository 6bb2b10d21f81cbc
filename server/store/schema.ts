import { sql } from 'drizzle-orm'
import {
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
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import type { TrialCard } from '../../contract/cards.ts'
import type { AnyPgColumn } from 'drizzle-orm/pg-core'
import { NUMBER_RANGE } from '../../core/flight/disc.ts'
import { SHEET_RANGE } from '../../core/throw/ranges.ts'
import { INSPECTION_RANGE } from '../../core/shelf/inspection.ts'
import { MEASURING_METHODS } from '../../core/rating/evidence.ts'
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
import { THEMES, UNITS } from '../../contract/preferences.ts'
import {
  between,
  observedChecks,
  observedColumns,
  oneOf,
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
    discClass: text('disc_class').$type<(typeof DISC_CLASSES)[number]>().notNull(),
    numbers: numbers('numbers').notNull(),
    createdAt,
  },
  (t) => [
    unique('molds_name_once').on(t.makerId, t.name),
    check('molds_name', filled(t.name)),
    check('molds_class', oneOf(t.discClass, DISC_CLASSES)),
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
    source: text('source').$type<(typeof SOURCES)[number]>().notNull(),
    provenance: text('provenance').notNull().default(''),
    acquiredOn: date('acquired_on', { mode: 'string' }),
    wear: text('wear').$type<(typeof WEAR_STATES)[number]>().notNull(),
    note: text('note').notNull().default(''),
    removedAt: instant('removed_at'),
    createdAt,
  },
  (t) => [
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
    check('discs_source', oneOf(t.source, SOURCES)),
    check('discs_wear', oneOf(t.wear, WEAR_STATES)),
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
    check('photos_kind', oneOf(t.kind, PHOTO_KINDS)),
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

export const throwers = pgTable(
  'throwers',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull().unique(),
    hand: text('hand').$type<(typeof HANDS)[number]>().notNull(),
    backhandMps: doublePrecision('backhand_mps'),
    forehandMps: doublePrecision('forehand_mps'),
    budget: jsonb('budget').$type<ArmBudget>(),
    createdAt,
  },
  (t) => [
    check('throwers_name', filled(t.name)),
    check('throwers_hand', oneOf(t.hand, HANDS)),
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
    surface: text('surface').notNull().default(''),
    hazards: text('hazards').notNull().default(''),
    timeZone: text('time_zone'),
    removedAt: instant('removed_at'),
    createdAt,
  },
  (t) => [
    check('places_name', filled(t.name)),
    check('places_length', between(t.fieldLengthM, [20, 400])),
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
    plan: jsonb('plan').$type<Plan>(),
    version: integer('version').notNull().default(1),
    createdAt,
  },
  (t) => [
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
  mark: text('mark').notNull(),
  /** Something else it depends on was written since. */
  stale: boolean('stale').notNull().default(false),
  card: jsonb('card').$type<TrialCard>().notNull(),
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
  (t) => [primaryKey({ columns: [t.trialId, t.discId] })],
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
    createdAt,
  },
  (t) => [
    check('sessions_place', filled(t.place)),
    check('sessions_temperature', between(t.temperatureC, SHEET_RANGE.temperatureC)),
    check('sessions_altitude', between(t.altitudeM, SHEET_RANGE.altitudeM)),
    check('sessions_method', oneOf(t.method, MEASURING_METHODS)),
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
    createdAt,
  },
  (t) => [
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
    createdAt,
  },
  (t) => [
    foreignKey({
      columns: [t.trialId, t.discId],
      foreignColumns: [trialDiscs.trialId, trialDiscs.discId],
      name: 'short_throws_disc_of_trial',
    }),
    index('short_throws_of_trial').on(t.trialId, t.thrownAt),
    check('short_throws_game', oneOf(t.game, GAMES)),
    ...shortChecks(t, t.game),
  ],
)

export const reviews = pgTable(
  'reviews',
  {
    id: uuid('id').primaryKey(),
    title: text('title').notNull(),
    /** Trials may go; what a review says of them stays. */
    trialIds: uuid('trial_ids').array().notNull(),
    listed: boolean('listed').notNull().default(false),
    removedAt: instant('removed_at'),
    createdAt,
  },
  (t) => [check('reviews_title', filled(t.title))],
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
    check('review_sections_kind', oneOf(t.kind, SECTION_KINDS)),
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
    check('review_photos_kind', oneOf(t.kind, PHOTO_KINDS)),
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
  (t) => [check('shed_one', sql`${t.id} = 1`), check('shed_demo', oneOf(t.demo, ['here', 'away']))],
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
    check('preferences_units', oneOf(t.units, UNITS)),
    check('preferences_theme', oneOf(t.theme, THEMES)),
  ],
)
