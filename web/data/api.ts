import type { z } from 'zod'
import '../../contract/messages.ts'
import { v7 as newId } from 'uuid'
import { API, at, isMedia } from '../../contract/api.ts'
import type { Address, AnswerOf, At, Route, SentTo } from '../../contract/api.ts'
import type { ImportProgress } from '../../contract/imports.ts'
import { Problem, problemType } from '../../contract/problems.ts'
import { DEVICE_HEADER, PAGE_HEADER } from '../../contract/news.ts'
import { addressOf, WIRE, WIRE_HEADER, WRITES } from '../../contract/writes.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import { deviceId } from './device.ts'

/** The server's refusal, with the fields at fault: the same again would be refused again. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}
/** The server did not answer, or could not do what it was asked for now: the same again may well work later. */
export class Unreachable extends Error {
  constructor(
    detail = 'The server does not answer. What you kept stays on this device and is sent when it is back.',
  ) {
    super(detail)
  }
}
/** The server speaks another version than this page: a reload brings the page up to date. */
export class OtherVersion extends Unreachable {
  constructor() {
    super('The app has been updated. Reload this page; what you kept stays on this device and is sent then.')
  }
}

/** This device has not come in, or its key was taken away: what waits is sent once it has come in again. */
export class SignedOut extends Unreachable {}
let onSignedOut = () => {}
/** Has something done whenever the server says that this device is not signed in. */
export const whenSignedOut = (act: () => void): void => void (onSignedOut = act)

/** By which this page knows among news what it wrote itself. */
export const PAGE_ID = newId()

/** Answers of these say nothing of what was asked. */
const LATER = new Set([408, 425, 426, 429])

async function answered(path: string, init?: RequestInit): Promise<Response> {
  let response: Response
  try {
    response = await fetch(path, {
      ...init,
      headers: {
        ...init?.headers,
        [WIRE_HEADER]: String(WIRE),
        [PAGE_HEADER]: PAGE_ID,
        [DEVICE_HEADER]: deviceId(),
      },
    })
  } catch {
    throw new Unreachable()
  }
  const spoken = response.headers.get(WIRE_HEADER)
  if (spoken !== null && spoken !== String(WIRE)) throw new OtherVersion()
  if (response.ok) return response
  const said = response.headers.get('content-type')?.includes('problem+json')
    ? Problem.safeParse(await response.json().catch(() => undefined)).data
    : undefined
  if (response.status === 401) {
    onSignedOut()
    throw new SignedOut(said?.detail)
  }
  if (response.status >= 500 || LATER.has(response.status)) throw new Unreachable(said?.detail)
  throw new ApiProblem(
    said ?? {
      type: problemType(response.status),
      title: 'Refused',
      status: response.status,
      detail: `The server answered ${response.status}.`,
    },
  )
}

/**
 * What the server says against a row that was put; undefined where an answer says nothing of the row (it may come from
 * something that stands between, or be about the moment): then the row waits.
 */
export const saidAgainst = (e: unknown): Problem | undefined =>
  e instanceof ApiProblem && (e.problem.errors?.length || e.problem.stored) ? e.problem : undefined

/** An answer as it was agreed on; one that is not is said to be so, not shown. */
async function parsed<T>(response: Response, schema: z.ZodType<T>): Promise<T> {
  const body = schema.safeParse(await response.json().catch(() => undefined))
  if (body.success) return body.data
  const [issue] = body.error.issues
  throw new Error(
    `The server answered in a way this page does not understand (${issue!.path.join('.') || 'the whole answer'}: ${issue!.message}). Reload it; nothing was lost.`,
  )
}

const asJson = (body: unknown) => ({
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})

/** Reads what a route answers, as it was agreed on. */
export const read = async <A extends Address>({ route, path }: At<A>): Promise<AnswerOf<A>> =>
  await parsed(await answered(path), answerTo(route))
const answerTo = <A extends Address>(route: A) => API[route].answers as unknown as z.ZodType<AnswerOf<A>>

/** A row nobody has acknowledged by then is taken to be lost on the way, ms. */
const LOST_MS = 60_000

/** Puts a row where its kind belongs and answers with it as stored. */
export async function putRow<K extends WriteKind>(
  kind: K,
  row: { readonly id: string },
  signal?: AbortSignal,
): Promise<Written<K>> {
  const lost = new AbortController()
  const abort = () => lost.abort()
  const timer = setTimeout(abort, LOST_MS)
  signal?.addEventListener('abort', abort, { once: true })
  let response: Response
  try {
    response = await answered(addressOf(kind, row.id), {
      method: 'PUT',
      signal: lost.signal,
      ...asJson(row),
    })
  } finally {
    clearTimeout(timer)
    signal?.removeEventListener('abort', abort)
  }
  return (await parsed(response, WRITES[kind].row as z.ZodType<Written>)) as Written<K>
}

/** Asks a route to do something, and answers with what it says. */
export async function send<A extends Address>(
  { route, path }: At<A>,
  ...[sent]: SentTo<A>
): Promise<AnswerOf<A>> {
  const { body }: Route = API[route]
  const method = route.slice(0, route.indexOf(' '))
  // whatever is no file is sent as JSON, so that no form of another page passes for it
  const content =
    body && isMedia(body)
      ? { headers: { 'content-type': `${body.media[0]}; charset=utf-8` }, body: sent as string }
      : method === 'DELETE'
        ? {}
        : asJson(sent ?? {})
  return await parsed(await answered(path, { method, ...content }), answerTo(route))
}

/** How often an import is asked how far it is, ms. */
const ASK_MS = 400

/**
 * Sends a file to be imported.
 *
 * @param to where, by what the import is called
 * @param told told now and then how far it is
 */
export async function sendCsv<A extends 'POST /api/discs/import' | 'POST /api/trials/:id/import'>(
  to: (job: string) => At<A>,
  csv: string,
  told: (progress: ImportProgress) => void = () => {},
): Promise<AnswerOf<A>> {
  const job = newId()
  const asking = setInterval(() => {
    // an import that is over, or not begun, has no answer
    read(at('GET /api/imports/:id', { id: job })).then(told, () => {})
  }, ASK_MS)
  try {
    return await send(to(job), ...([csv] as SentTo<A>))
  } finally {
    clearInterval(asking)
  }
}

/** What kept a file from being read. */
export const problemOf = (e: unknown): Problem =>
  e instanceof ApiProblem
    ? e.problem
    : {
        type: problemType(0),
        title: 'Not sent',
        status: 0,
        detail: `${(e as Error).message} Nothing of the file was stored.`,
      }
