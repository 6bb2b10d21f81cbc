import { z } from 'zod'
import { SHEET_RANGE } from '../core/throw/ranges.ts'
import { MEASURING_METHODS } from '../core/throw/method.ts'
import { QUESTION_KINDS } from '../core/plan/questions.ts'
import { MOST_CARDS, TrialCard } from './cards.ts'
import * as crew from './crew.ts'
import type { Role } from './roles.ts'
import { Copy, Custody, Errand, Room, CopyStandings, Taken } from './custody.ts'
import { DemoState } from './demo.ts'
import { ForecastReport, RangeReport, ScaleReport, VolunteerReport, WindReport } from './devices.ts'
import { DrillAnswers, DrillRecordeds } from './drill.ts'
import { ImportPreview, ImportProgress, ShelfImport } from './imports.ts'
import { KnownArm } from './lab.ts'
import { Hands, Holding, News } from './news.ts'
import { PHOTO_KINDS } from './photo.ts'
import { Preferences } from './preferences.ts'
import { Freezing, Publication, ReviewFile, ReviewList, Revision } from './reviews.ts'
import { Board } from './rotation.ts'
import { Day, Id, Name, Shelf, within } from './shelf.ts'
import { DiscRecord, InspectedDisc, LikenessRead, Proposal, ShelfPage, ShelfQuery } from './shelfPage.ts'
import * as trials from './trials.ts'
import { WRITE_KINDS, WRITES } from './writes.ts'
import type { WriteKind } from './writes.ts'

/** What a route needs: a role, or nothing. */
export type Need = Role | 'anyone'

/** Something that is no JSON: a file, a page, a stream of events. */
export interface Media {
  readonly media: readonly [string, ...string[]]
  /** What each event of a stream holds. */
  readonly events?: z.ZodType
}

/** One route of the server. Everything that is known of it elsewhere is derived from here. */
export interface Route {
  /** What it does, in a sentence. */
  readonly says: string
  readonly who: Need
  /** What its address asks, name by name. */
  readonly query?: z.ZodObject
  readonly body?: z.ZodType | Media
  readonly answers: z.ZodType | Media
}

type Method = 'GET' | 'PUT' | 'POST' | 'DELETE'

const CSV: Media = { media: ['text/csv'] }
const ZIP: Media = { media: ['application/zip'] }
const HTML: Media = { media: ['text/html'] }
const PICTURE: Media = { media: [...PHOTO_KINDS] }
const events = (of: z.ZodType): Media => ({ media: ['text/event-stream'], events: of })

const flag = z.literal('1').optional()
const Job = { /** What whoever imports calls it, to ask how far it is. */ job: Id.optional() }
const stores = z.enum(['0', '1'], { error: 'must be 1 to store, or 0' }).optional()
const PlaceName = z.string().trim().min(1).max(120)

/** Whether the server can do its work. */
const Health = z.object({
  /** Whether writes are taken. */
  ok: z.boolean(),
  app: z.literal('veer-line'),
  wire: z.int(),
  database: z.enum(['takes-writes', 'read-only', 'away', 'full']),
  writes: z.boolean(),
  full: z.string().optional(),
  room: z.array(Room),
  ratings: z.enum(['behind', 'up-to-date']).nullable(),
  /** What keeps copies from being made; null where nothing does. */
  copies: z.string().nullable(),
})

/** A throw the simulated volunteer is asked for. */
const AskedThrow = z.object({
  discId: Id,
  throwerId: Id,
  stroke: trials.Throw.shape.stroke,
  hyzerDeg: trials.Throw.shape.hyzerDeg,
  power: trials.Throw.shape.power,
  aimDeg: trials.Throw.shape.aimDeg,
  windAlongMps: trials.Throw.shape.windAlongMps,
  windAcrossMps: trials.Throw.shape.windAcrossMps,
  temperatureC: z.number().min(-40).max(55).nullable(),
  altitudeM: z.number().min(-450).max(6000).nullable(),
})

/** What is told with a file of throws. */
const ImportQuery = z.object({
  ...Job,
  store: stores,
  method: z
    .enum(MEASURING_METHODS, { error: `must be one of ${MEASURING_METHODS.join(', ')}` })
    .default('eye'),
  place: z.string().trim().max(120, 'must be at most 120 characters').optional(),
  zone: trials.TimeZone.optional(),
  /** Of the trial that is made of the file, where there is none yet. */
  name: Name.optional(),
  question: z.string().max(500, 'must be at most 500 characters').default(''),
})

/** Trials asked for in one address, with commas between them. */
const CardIds = z
  .string()
  .default('')
  .transform((list) => list.split(','))
  .pipe(z.array(Id).max(MOST_CARDS, `must be at most ${MOST_CARDS} trials`))

/** Rows of every kind are put at their address; the answer is the row as it is stored. */
const rows = Object.fromEntries(
  WRITE_KINDS.map((kind) => [
    `PUT /api/${kind}/:id`,
    {
      says: 'Stores a row and answers with it as it is stored; sent twice it is the same write.',
      who: WRITES[kind].by,
      body: WRITES[kind].row,
      answers: WRITES[kind].row,
    },
  ]),
) as { readonly [K in WriteKind as `PUT /api/${K}/:id`]: RowRoute<K> }
interface RowRoute<K extends WriteKind> extends Route {
  readonly body: (typeof WRITES)[K]['row']
  readonly answers: (typeof WRITES)[K]['row']
}

/** Every route of the server, by method and address. */
export const API = {
  'GET /api/health': {
    says: 'Whether the server can do its work; 503 while its database is away.',
    who: 'anyone',
    answers: Health,
  },
  'GET /api/now': {
    says: 'The server’s clock, by which devices know how far off theirs are.',
    who: 'anyone',
    answers: z.object({ now: z.iso.datetime() }),
  },
  'GET /api/openapi.json': {
    says: 'This description.',
    who: 'anyone',
    answers: z.looseObject({ openapi: z.string() }),
  },
  'GET /trusted': {
    says: 'Whether a browser trusts this server: it can read the answer from another origin.',
    who: 'anyone',
    answers: { media: ['text/plain'] },
  },

  'GET /api/me': { says: 'Who asks.', who: 'anyone', answers: crew.Me },
  'PUT /api/me': {
    says: 'Changes one’s name or passphrase.',
    who: 'reader',
    body: crew.MyselfSent,
    answers: crew.Me,
  },
  'POST /api/at-machine': {
    says: 'Comes in with the address that the start command prints, on the machine itself.',
    who: 'anyone',
    body: crew.AtMachine,
    answers: crew.Me,
  },
  'POST /api/sign-in': {
    says: 'Comes in with a name and a passphrase.',
    who: 'anyone',
    body: crew.SignIn,
    answers: crew.Me,
  },
  'POST /api/pair': {
    says: 'Comes in with the code another device shows.',
    who: 'anyone',
    body: crew.Pairing,
    answers: crew.Me,
  },
  'POST /api/join': {
    says: 'Comes in with an invitation.',
    who: 'anyone',
    body: crew.Joining,
    answers: crew.Me,
  },
  'POST /api/sign-out': { says: 'Takes this device’s key away.', who: 'reader', answers: crew.Me },
  'POST /api/pairings': {
    says: 'Opens a code by which another device of one’s own comes in.',
    who: 'reader',
    answers: crew.Pass,
  },
  'POST /api/invitations': {
    says: 'Opens a link by which somebody new comes in.',
    who: 'owner',
    body: crew.Inviting,
    answers: crew.Pass,
  },
  'GET /api/passes': {
    says: 'Codes and links that are open: one’s own, an owner’s everybody’s.',
    who: 'reader',
    answers: crew.OpenPasses,
  },
  'DELETE /api/passes/:id': {
    says: 'Takes a code or a link back.',
    who: 'reader',
    answers: crew.OpenPasses,
  },
  'GET /api/failed-tries': {
    says: 'Tries to come in that failed.',
    who: 'owner',
    answers: crew.FailedTryList,
  },
  'GET /api/people': { says: 'Who may come in, and as what.', who: 'reader', answers: crew.Members },
  'PUT /api/people/:id': {
    says: 'Changes what somebody may do.',
    who: 'owner',
    body: crew.MemberStanding,
    answers: crew.Member,
  },
  'GET /api/keys': {
    says: 'Devices that may come in: one’s own, an owner’s everybody’s.',
    who: 'reader',
    answers: crew.DeviceKeys,
  },
  'DELETE /api/keys/:id': {
    says: 'Takes a device’s key away.',
    who: 'reader',
    answers: crew.DeviceKeys,
  },
  'GET /api/sharing': { says: 'How others reach this server.', who: 'owner', answers: crew.SharingNow },
  'PUT /api/sharing': {
    says: 'Lets others reach this server, or no more.',
    who: 'owner',
    body: crew.Switched,
    answers: crew.SharingNow,
  },

  ...rows,

  'GET /api/offers': {
    says: 'Changes somebody made to what is not theirs, for an owner to take over.',
    who: 'owner',
    answers: crew.Offers,
  },
  'POST /api/offers/:id/take': {
    says: 'Takes such a change over.',
    who: 'owner',
    answers: crew.Offers,
  },
  'DELETE /api/offers/:id': { says: 'Drops such a change.', who: 'owner', answers: crew.Offers },

  'GET /api/news': { says: 'What others write, as it is written.', who: 'reader', answers: events(News) },
  'GET /api/trials/:id/hands': {
    says: 'What devices hold that log a trial.',
    who: 'reader',
    answers: Hands,
  },
  'PUT /api/trials/:id/hand': {
    says: 'Says what a device holds.',
    who: 'scribe',
    body: Holding,
    answers: Hands,
  },

  'GET /api/shelf': {
    says: 'The whole shelf: makers, molds, plastics, runs and discs.',
    who: 'reader',
    answers: Shelf,
  },
  'GET /api/rotation': { says: 'Which discs do which jobs, now and later.', who: 'reader', answers: Board },
  'GET /api/drill-answers': { says: 'Calls that were drilled.', who: 'reader', answers: DrillAnswers },
  'GET /api/recorded-throws': {
    says: 'Throws whose angles were called, to drill with.',
    who: 'reader',
    answers: DrillRecordeds,
  },
  'GET /api/discs': {
    says: 'A page of the shelf as a table: found, filtered, sorted.',
    who: 'reader',
    query: ShelfQuery,
    answers: ShelfPage,
  },
  'GET /api/discs.csv': { says: 'The discs of the shelf as a file.', who: 'reader', answers: CSV },
  'POST /api/discs/import': {
    says: 'Reads a file of discs; stores it where it is asked to.',
    who: 'owner',
    query: z.object({ ...Job, store: stores }),
    body: CSV,
    answers: ShelfImport,
  },
  'GET /api/proposal': {
    says: 'Discs of the shelf that would answer a question about one.',
    who: 'reader',
    query: z.object({ kind: z.enum(QUESTION_KINDS), disc: Id }),
    answers: Proposal,
  },
  'GET /api/discs/:id/record': { says: 'What is known of a disc.', who: 'reader', answers: DiscRecord },
  'GET /api/discs/:id/likeness': {
    says: 'What of the shelf flies like a disc, at an arm.',
    who: 'reader',
    query: z.object({
      /** V₉, m/s. */
      arm: z.coerce.number().pipe(within(SHEET_RANGE.fullSpeedMps, ' m/s')).optional(),
    }),
    answers: LikenessRead,
  },
  'GET /api/discs/:id/photo': { says: 'The photo of a disc.', who: 'reader', answers: PICTURE },
  'GET /api/inspections': {
    says: 'The last inspection of every disc that had one.',
    who: 'reader',
    answers: z.array(InspectedDisc),
  },
  'GET /api/imports/:id': { says: 'How far an import is.', who: 'owner', answers: ImportProgress },

  'GET /api/throwers': { says: 'Who throws.', who: 'reader', answers: z.array(trials.Thrower) },
  'GET /api/sessions': { says: 'Every outing.', who: 'reader', answers: z.array(trials.Session) },
  'GET /api/sessions/:id/wind': {
    says: 'The wind an anemometer logged of an outing.',
    who: 'reader',
    answers: z.array(trials.WindLog),
  },
  'GET /api/places': { says: 'Places that are thrown at.', who: 'reader', answers: z.array(trials.Place) },
  'GET /api/arm-days': {
    says: 'How much each arm has thrown, day by day.',
    who: 'reader',
    query: z.object({ since: Day }),
    answers: z.array(trials.ArmDay),
  },
  'GET /api/arms': {
    says: 'Arms as all their throws have shown them.',
    who: 'reader',
    answers: z.array(KnownArm),
  },
  'GET /api/cards': {
    says: 'What trials say so far; none of a trial whose card is being made.',
    who: 'reader',
    query: z.object({ trials: CardIds }),
    answers: z.array(TrialCard),
  },
  'GET /api/trials': { says: 'Every trial.', who: 'reader', answers: z.array(trials.TrialSummary) },
  'GET /api/trials/:id': {
    says: 'A trial with its outings and throws.',
    who: 'reader',
    answers: trials.TrialFile,
  },
  'GET /api/trials/:id/known': {
    says: 'What other trials know of the discs of a trial.',
    who: 'reader',
    answers: trials.KnownThrows,
  },
  'GET /api/trials/:id/worn': {
    says: 'What the discs of a trial had been through before it.',
    who: 'reader',
    answers: trials.WornDiscs,
  },
  'GET /api/trials/:id/short': {
    says: 'Putts, approaches and ground play of a trial.',
    who: 'reader',
    answers: z.array(trials.ShortThrow),
  },
  'GET /api/trials/:id/session.ics': {
    says: 'The planned outing for a calendar.',
    who: 'reader',
    query: z.object({
      minutes: z.coerce.number({ error: 'must be a number of minutes' }).min(1).max(1440).default(60),
    }),
    answers: { media: ['text/calendar'] },
  },
  'GET /api/trials/:id/throws.csv': {
    says: 'The throws of a trial as a file; with all of what the app rates by, where asked.',
    who: 'reader',
    query: z.object({ all: flag }),
    answers: CSV,
  },
  'GET /api/trials/:id/throws.geojson': {
    says: 'The throws of a trial on the earth.',
    who: 'reader',
    answers: { media: ['application/geo+json'] },
  },
  'GET /api/trials/:id/throws.gpx': {
    says: 'The throws of a trial as waypoints.',
    who: 'reader',
    answers: { media: ['application/gpx+xml'] },
  },
  'POST /api/trials/:id/import': {
    says: 'Reads a file of throws into a trial, or a trial of its own; stores it where it is asked to.',
    who: 'owner',
    query: ImportQuery,
    body: CSV,
    answers: ImportPreview,
  },
  'GET /api/throws/:id/history': {
    says: 'Who wrote a throw, when and how.',
    who: 'reader',
    answers: trials.ThrowHistory,
  },
  'GET /api/trials/:id/loggers': {
    says: 'Who logged the throws of a trial.',
    who: 'reader',
    answers: trials.Loggers,
  },
  'GET /api/preferences/:id': {
    says: 'Units and theme of a device; the usual ones where it has said nothing.',
    who: 'reader',
    answers: Preferences,
  },

  'GET /api/devices/scale': {
    says: 'What the scale shows, as it settles.',
    who: 'scribe',
    query: z.object({ disc: Id.optional() }),
    answers: events(ScaleReport),
  },
  'PUT /api/devices/scale/tare': {
    says: 'Sets the scale to nothing.',
    who: 'scribe',
    answers: z.object({ ok: z.literal(true) }),
  },
  'GET /api/devices/forecast': {
    says: 'The wind of a day at a place, hour by hour.',
    who: 'reader',
    query: z.object({ place: PlaceName, day: Day }),
    answers: ForecastReport,
  },
  'GET /api/devices/anemometer': {
    says: 'The wind at a place, as it blows.',
    who: 'reader',
    query: z.object({ place: PlaceName, bearing: z.coerce.number().min(0).max(360).default(0) }),
    answers: events(WindReport),
  },
  'GET /api/devices/range-finder': {
    says: 'How far a spot of the field is, as a range finder has it.',
    who: 'reader',
    query: z.object({
      downM: z.coerce.number().min(0).max(300),
      rightM: z.coerce.number().min(-150).max(150),
    }),
    answers: RangeReport,
  },
  'POST /api/devices/volunteer': {
    says: 'Has the simulated volunteer throw.',
    who: 'scribe',
    body: AskedThrow,
    answers: VolunteerReport,
  },

  'GET /api/reviews': {
    says: 'Reviews, or those about a trial, the latest first.',
    who: 'reader',
    query: z.object({ trial: Id.optional() }),
    answers: ReviewList,
  },
  'GET /api/reviews/:id': {
    says: 'A review with its sections and what is frozen of it.',
    who: 'reader',
    answers: ReviewFile,
  },
  'GET /api/review-photos/:id': { says: 'A photo of a review.', who: 'reader', answers: PICTURE },
  'PUT /api/revisions/:id': {
    says: 'Freezes a review as the page that is sent.',
    who: 'owner',
    query: Freezing,
    body: HTML,
    answers: Revision,
  },
  'GET /api/revisions/:id/page': { says: 'A frozen page.', who: 'reader', answers: HTML },
  'PUT /api/revisions/:id/publication': {
    says: 'Publishes a frozen page, or takes it back.',
    who: 'owner',
    body: Publication,
    answers: Revision,
  },
  'GET /published': { says: 'What is published here.', who: 'anyone', answers: HTML },
  'GET /published/feed.xml': {
    says: 'The same as a feed.',
    who: 'anyone',
    answers: { media: ['application/atom+xml'] },
  },
  'GET /published/:token': { says: 'A published page.', who: 'anyone', answers: HTML },

  'GET /api/custody': { says: 'The database and its copies.', who: 'owner', answers: Custody },
  'POST /api/copies': { says: 'Begins a copy of everything.', who: 'owner', answers: Errand },
  'GET /api/copies/:name': { says: 'A copy as a package.', who: 'owner', answers: ZIP },
  'DELETE /api/copies/:name': {
    says: 'Takes a copy away.',
    who: 'owner',
    answers: z.array(Copy),
  },
  'POST /api/copies/:name/restore': {
    says: 'Begins to restore everything from a copy.',
    who: 'owner',
    body: Taken,
    answers: Errand,
  },
  'GET /api/copies/:name/standing': {
    says: 'What a copy says otherwise of who may do what and of what is public.',
    who: 'owner',
    answers: CopyStandings,
  },
  'POST /api/standing': {
    says: 'The same of a package that is sent.',
    who: 'owner',
    body: ZIP,
    answers: CopyStandings,
  },
  'POST /api/restore': {
    says: 'Begins to restore everything from a package that is sent.',
    who: 'owner',
    query: z.object({ take: z.union([z.string(), z.array(z.string())]).default([]) }),
    body: ZIP,
    answers: Errand,
  },
  'POST /api/merge': {
    says: 'Looks what a package would bring in beside what is here; brings it in where it is asked to.',
    who: 'owner',
    query: z.object({ store: stores }),
    body: ZIP,
    answers: Errand,
  },
  'GET /api/trials/:id/package': {
    says: 'A trial with everything it rests on, as a package.',
    who: 'reader',
    answers: ZIP,
  },
  'GET /api/errands/:id': { says: 'How far long work is.', who: 'owner', answers: Errand },
  'POST /api/errands/:id/cancel': {
    says: 'Has long work cancelled; nothing of it is done.',
    who: 'owner',
    answers: Errand,
  },

  'GET /api/demo': { says: 'Whether the demo is here.', who: 'reader', answers: DemoState },
  'POST /api/demo/away': { says: 'Puts the demo away.', who: 'owner', answers: DemoState },
  'POST /api/demo/back': { says: 'Brings the demo back.', who: 'owner', answers: DemoState },
} as const satisfies Readonly<Record<`${Method} /${string}`, Route>>

export type Address = keyof typeof API
export const ADDRESSES = Object.keys(API) as Address[]

/** Whether something is a file, a page or a stream, and no JSON. */
export const isMedia = (it: z.ZodType | Media): it is Media => 'media' in it

type Of<A extends Address, K extends keyof Route> = (typeof API)[A] extends Record<K, infer S> ? S : undefined
type Out<S> = S extends z.ZodType ? z.output<S> : undefined

/** Names in an address: `id` of `/api/trials/:id`. */
type NamesIn<P extends string> = P extends `${string}:${infer N}/${infer Rest}`
  ? N | NamesIn<`/${Rest}`>
  : P extends `${string}:${infer N}`
    ? N
    : never

/** What a route is asked, as it was parsed. */
export interface AskedOf<A extends Address> {
  readonly params: Readonly<Record<NamesIn<A>, string>>
  readonly query: Out<Of<A, 'query'>>
  readonly body: Out<Of<A, 'body'>>
}
/** What a route answers; nothing where it answers with no JSON. */
export type AnswerOf<A extends Address> =
  Of<A, 'answers'> extends z.ZodType ? z.output<Of<A, 'answers'>> : void

/** A route with its address filled in. */
export interface At<A extends Address> {
  readonly route: A
  readonly path: string
}
type Params<A extends Address> = { readonly [K in NamesIn<A>]: string }
type Query<A extends Address> =
  Of<A, 'query'> extends z.ZodType ? [query: Readonly<z.input<Of<A, 'query'>>>] : []
/** What is sent to a route: a body as it was agreed on, or a file as text. */
export type SentTo<A extends Address> =
  Of<A, 'body'> extends z.ZodType
    ? [body: Readonly<z.input<Of<A, 'body'>>>]
    : Of<A, 'body'> extends Media
      ? [file: string]
      : []

/**
 * Fills in the address of a route: its names, then what it asks.
 *
 * @example at('GET /api/discs/:id/likeness', { id }, { arm: 24 })
 */
export function at<A extends Address>(
  route: A,
  ...given: [NamesIn<A>] extends [never] ? Query<A> : [params: Params<A>, ...Query<A>]
): At<A> {
  const pattern = route.slice(route.indexOf(' ') + 1)
  const rest: unknown[] = [...given]
  const params = pattern.includes(':') ? (rest.shift() as Readonly<Record<string, string>>) : {}
  const query = new URLSearchParams()
  for (const [name, value] of Object.entries((rest[0] ?? {}) as Readonly<Record<string, unknown>>))
    for (const v of [value].flat()) if (v !== undefined) query.append(name, String(v))
  const path = pattern.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name]!))
  return { route, path: query.size > 0 ? `${path}?${query}` : path }
}
