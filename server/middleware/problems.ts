import { randomUUID } from 'node:crypto'
import type { Context, Middleware } from 'koa'
import type { z } from 'zod'
import { unstorableAt } from '../../core/formats/boundedJson.ts'
import type { CsvProblem } from '../../core/formats/csvCells.ts'
import { SHELF_CSV_LIMIT } from '../../core/formats/shelfCsv.ts'
import { CSV_LIMIT } from '../../core/formats/throwsCsv.ts'
import { PHOTO_LIMIT } from '../../contract/photo.ts'
import { problemType } from '../../contract/problems.ts'
import type { Problem } from '../../contract/problems.ts'
import '../../contract/messages.ts'
import { wrongWords } from '../../contract/words.ts'
import { awaySentence, awayWords } from '../store/away.ts'
import { Conflict } from '../store/conflicts.ts'

/** An answer that says what was wrong with the request; nothing was stored. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly errors: NonNullable<Problem['errors']> = [],
    /** The row that is stored instead. */
    readonly stored?: Readonly<Record<string, unknown>>,
  ) {
    super(detail)
  }
}

const TITLE: Record<number, string> = {
  400: 'The request cannot be read',
  404: 'Not found',
  413: 'Too large',
  415: 'Unknown kind of content',
}

/** Refuses a file for everything that is wrong with it. */
export function refuseFile(problems: readonly CsvProblem[]): never {
  throw new Refusal(
    422,
    'The file has errors',
    `${problems.length} ${problems.length === 1 ? 'cell or row is' : 'cells or rows are'} not right. Nothing of the file was stored.`,
    problems.map((p) => ({ path: p.column ?? '', message: p.message, row: p.row })),
  )
}

const NO_TEXT = 'holds a character that is none (NUL, or half of one)'

/** Parses a body; every field at fault is named. */
export function parse<T>(schema: z.ZodType<T>, body: unknown): T {
  const odd = unstorableAt(body)
  if (odd)
    throw new Refusal(422, 'Some fields are not right', `${wrongWords({ path: odd, message: NO_TEXT })}.`, [
      { path: odd.join('.'), message: NO_TEXT },
    ])
  const result = schema.safeParse(body)
  if (result.success) return result.data
  const { issues } = result.error
  const errors = issues.map((i) => ({ path: i.path.join('.'), message: i.message }))
  const detail = issues.map(wrongWords).join('; ')
  throw new Refusal(422, 'Some fields are not right', `${detail}.`, errors)
}

/** The rules the database holds, as sentences. */
const CONSTRAINTS: Record<string, [path: string, message: string]> = {
  discs_code_once: ['code', 'is on the shelf already; every disc has a code of its own'],
  makers_name_unique: ['name', 'is that of a maker already'],
  molds_name_once: ['name', 'is that of another mold of this maker'],
  plastics_name_once: ['name', 'is that of another plastic of this mold'],
  runs_name_once: ['name', 'is that of another run of this plastic'],
  throwers_name_unique: ['name', 'is that of a thrower already'],
  discs_plastic_id_plastics_id_fk: ['plasticId', 'is not on the shelf'],
  discs_run_of_plastic: ['runId', 'is not one of the disc’s plastic'],
  molds_maker_id_makers_id_fk: ['makerId', 'is not on the shelf'],
  plastics_mold_id_molds_id_fk: ['moldId', 'is not on the shelf'],
  runs_plastic_id_plastics_id_fk: ['plasticId', 'is not on the shelf'],
  trial_discs_disc_id_discs_id_fk: ['discIds', 'names a disc that is not on the shelf'],
  trials_control_disc_id_discs_id_fk: ['controlDiscId', 'is not on the shelf'],
  inspections_disc_id_discs_id_fk: ['discId', 'is not on the shelf'],
  wear_notes_disc_id_discs_id_fk: ['discId', 'is not on the shelf'],
  photos_disc_id_discs_id_fk: ['discId', 'is not on the shelf'],
  short_throws_disc_of_trial: ['discId', 'is not in this trial'],
  short_throws_session_id_sessions_id_fk: ['sessionId', 'is not known here'],
  short_throws_thrower_id_throwers_id_fk: ['throwerId', 'is not known here'],
  throws_disc_of_trial: ['discId', 'is not in this trial'],
  wind_logs_session_id_sessions_id_fk: ['sessionId', 'is not known here'],
  throws_session_id_sessions_id_fk: ['sessionId', 'is not known here'],
  throws_thrower_id_throwers_id_fk: ['throwerId', 'is not known here'],
  sessions_place_id_places_id_fk: ['placeId', 'is not on file'],
}

function refusalOf(error: unknown, address: string): Refusal | undefined {
  if (error instanceof Refusal) return error
  if (error instanceof Conflict)
    return new Refusal(409, error.title, error.message, [...error.errors], error.stored)
  const cause = ((error as { cause?: unknown })?.cause ?? error) as {
    code?: string
    constraint?: string
    status?: number
    statusCode?: number
    expose?: boolean
    message?: string
  }
  if (cause.constraint !== undefined) {
    const [path, message] = CONSTRAINTS[cause.constraint] ?? [
      cause.constraint,
      'breaks a rule of the database; check the values',
    ]
    return new Refusal(409, 'That does not fit what is stored', `${wrongWords({ path: [path], message })}.`, [
      { path, message },
    ])
  }
  const status = cause.status ?? cause.statusCode
  if (status !== undefined && status >= 400 && status < 500)
    return new Refusal(
      status,
      TITLE[status] ?? 'The request was refused',
      sentence(status, cause.message ?? '', address),
      // too large stays too large: that is said of the row
      status === 413 ? [{ path: '', message: 'is too large' }] : [],
    )
  return undefined
}

/** What may be sent where, bytes at most. */
const LIMITS: readonly (readonly [start: string, what: string, most: number])[] = [
  ['/api/photos/', 'The photo', PHOTO_LIMIT],
  ['/api/discs/import', 'The file of discs', SHELF_CSV_LIMIT.bytes],
  ['/api/trials/', 'The file of throws', CSV_LIMIT.bytes],
  ...['/api/me', '/api/sign-in', '/api/pair', '/api/join', '/api/at-machine'].map(
    (at) => [at, 'The body', 4096] as const,
  ),
  ['', 'The body', 3_000_000],
]

function sentence(status: number, message: string, address: string): string {
  if (status === 413) {
    const [, what, most] = LIMITS.find(([start]) => address.startsWith(start))!
    return `${what} is too large; at most ${most < 1e6 ? `${Math.round(most / 1e3)} kB` : `${most / 1e6} MB`} are taken.`
  }
  if (status === 400) return `The body is not valid JSON: ${message}`
  return message
}

/**
 * Turns what goes wrong into `application/problem+json`; the unexpected is logged with a request id.
 *
 * @param full what is full and how much is missing, where something is
 */
export const problems =
  (full: () => Promise<string | undefined> = async () => undefined): Middleware =>
  async (ctx, next) => {
    ctx.state.requestId = randomUUID()
    try {
      await next()
      if (ctx.status === 404 && ctx.body === undefined && ctx.path.startsWith('/api/'))
        throw new Refusal(404, TITLE[404]!, `There is no ${ctx.method} ${ctx.path}.`)
    } catch (error) {
      const refusal = refusalOf(error, ctx.path)
      if (refusal) {
        // what is still on its way of a body nobody reads would stand before the next request
        if (!ctx.req.readableEnded) {
          ctx.set('Connection', 'close')
          ctx.req.resume()
        }
        return answer(ctx, refusal)
      }
      const away = awayWords(error)
      if (away !== undefined) {
        process.stderr.write(`${JSON.stringify({ level: 'warn', requestId: ctx.state.requestId, away })}\n`)
        const room = await full().catch(() => undefined)
        return answer(ctx, new Refusal(503, 'The database takes nothing now', awaySentence(error, room)))
      }
      process.stderr.write(
        `${JSON.stringify({ level: 'error', requestId: ctx.state.requestId, error: String((error as Error).stack ?? error) })}\n`,
      )
      answer(
        ctx,
        new Refusal(
          500,
          'Something went wrong here',
          `Nothing was stored. Tell us this id if it happens again: ${ctx.state.requestId}`,
        ),
      )
    }
  }

function answer(ctx: Context, refusal: Refusal): void {
  ctx.status = refusal.status
  const body: Problem = {
    type: problemType(refusal.status),
    title: refusal.title,
    status: refusal.status,
    detail: refusal.message,
    requestId: ctx.state.requestId as string,
    ...(refusal.errors.length > 0 ? { errors: refusal.errors } : {}),
    ...(refusal.stored ? { stored: refusal.stored } : {}),
  }
  ctx.body = JSON.stringify(body)
  ctx.type = 'application/problem+json'
}
