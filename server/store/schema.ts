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
import type { AnyPgColumn } from 'drizzle-orm/pg-core'
import { NUMBER_RANGE } from '../../core/flight/disc.ts'
import { SHEET_RANGE } from '../../core/formats/sheet.ts'
import type { SheetNumber } from '../../core/formats/sheet.ts'
import { INSPECTION_RANGE } from '../../core/shelf/inspection.ts'
import { MEASURING_METHODS } from '../../core/rating/evidence.ts'
import { PHOTO_KINDS, PHOTO_LIMIT } from '../../contract/photo.ts'
import { DISC_CLASSES, SOURCES, WEAR_STATES } from '../../contract/shelf.ts'
import type { PublishedNumbers } from '../../contract/shelf.ts'
import { GAMES, HANDS, STROKES } from '../../contract/trials.ts'
import type { MISSES, PUTT_STYLES } from '../../contract/trials.ts'
import type { ArmBudget, Plan, ThrowPath } from '../../contract/trials.ts'
import { THEMES, UNITS } from '../../contract/preferences.ts'

/** A point in time, ISO 8601 in UTC on this side whatever PostgreSQL prints. */
const instant = customType<{ data: string; driverData: string }>({
  dataType: () => 'timestamp with time zone',
  fromDriver: (v) => new Date(v).toISOString(),
})
const createdAt = instant('created_at')
  .notNull()
  .default(sql`now()`)

const between = (column: AnyPgColumn, [low, high]: readonly [number, number]) =>
  sql`${column} between ${sql.raw(String(low))} and ${sql.raw(String(high))}`
const oneOf = (column: AnyPgColumn, values: readonly string[]) =>
  sql`${column} in (${sql.raw(values.map((v) => `'${v}'`).join(', '))})`
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
    createdAt,
  },
  (t) => [
    check('trials_name', filled(t.name)),
    check('trials_planned', sql`${t.plannedThrows} between 0 and 2000`),
  ],
)

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

const seen = {
  releaseSpeedMps: doublePrecision('release_speed_mps'),
  hyzerCalledDeg: doublePrecision('hyzer_called_deg'),
  noseCalledDeg: doublePrecision('nose_called_deg'),
  launchCalledDeg: doublePrecision('launch_called_deg'),
  windAlongMps: doublePrecision('wind_along_mps'),
  windAcrossMps: doublePrecision('wind_across_mps'),
  windSdMps: doublePrecision('wind_sd_mps'),
  midDownM: doublePrecision('mid_down_m'),
  midRightM: doublePrecision('mid_right_m'),
  hangS: doublePrecision('hang_s'),
  apexM: doublePrecision('apex_m'),
  groundM: doublePrecision('ground_m'),
} satisfies Partial<Record<SheetNumber, unknown>>
const SEEN_KEYS = Object.keys(seen) as (keyof typeof seen)[]

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
    hand: text('hand').$type<(typeof HANDS)[number]>().notNull(),
    stroke: text('stroke').$type<(typeof STROKES)[number]>().notNull(),
    power: doublePrecision('power').notNull(),
    hyzerDeg: doublePrecision('hyzer_deg').notNull(),
    ...seen,
    carryM: doublePrecision('carry_m').notNull(),
    rightM: doublePrecision('right_m').notNull(),
    counts: boolean('counts').notNull(),
    whyNot: text('why_not'),
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
    check('throws_hand', oneOf(t.hand, HANDS)),
    check('throws_stroke', oneOf(t.stroke, STROKES)),
    check('throws_power', between(t.power, SHEET_RANGE.power)),
    check('throws_hyzer', between(t.hyzerDeg, SHEET_RANGE.hyzerDeg)),
    check('throws_carry', between(t.carryM, SHEET_RANGE.carryM)),
    check('throws_right', between(t.rightM, SHEET_RANGE.rightM)),
    ...SEEN_KEYS.map((key) => check(`throws_${columnName(key)}`, between(t[key], SHEET_RANGE[key]))),
    check('throws_mid', sql`(${t.midDownM} is null) = (${t.midRightM} is null)`),
    check('throws_mid_short_of_landing', sql`${t.midDownM} is null or ${t.midDownM} < ${t.carryM}`),
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
    distanceM: doublePrecision('distance_m'),
    effort: doublePrecision('effort'),
    pastM: doublePrecision('past_m'),
    rightM: doublePrecision('right_m'),
    skipM: doublePrecision('skip_m'),
    made: boolean('made'),
    miss: text('miss').$type<(typeof MISSES)[number]>(),
    style: text('style').$type<(typeof PUTT_STYLES)[number]>(),
    hole: integer('hole'),
    strokes: integer('strokes'),
    lieM: doublePrecision('lie_m'),
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
    check(
      'short_throws_whole',
      sql`case ${t.game} when 'ground' then ${t.skipM} is not null
        when 'approach' then ${t.distanceM} is not null and ${t.pastM} is not null
        when 'putting' then ${t.distanceM} is not null and ${t.made} is not null
        else ${t.hole} is not null and ${t.strokes} is not null end`,
    ),
    check('short_throws_skip', between(t.skipM, [0, 150])),
    check('short_throws_distance', between(t.distanceM, [0.5, 200])),
    check('short_throws_strokes', between(t.strokes, [1, 30])),
  ],
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
