import zlib from 'node:zlib'
import type { Readable } from 'node:stream'
import type { Middleware, ParameterizedContext, Request } from 'koa'
import rawBody from 'raw-body'
import { PAGE_LIMIT } from '../../contract/reviews.ts'
import { BadJson } from '../../core/formats/boundedJson.ts'
import { CSV_LIMIT } from '../../core/formats/throwsCsv.ts'
import type { Json } from '../work/json.ts'
import { Refusal } from './problems.ts'

/** Bytes a body may hold, once it is unfolded: of whoever has not come in yet, of JSON, of a file that is text. */
const LIMIT = { anyone: 4096, json: 3_000_000, text: Math.max(CSV_LIMIT.bytes, PAGE_LIMIT) } as const
const WITH_BODY = new Set(['POST', 'PUT', 'PATCH'])

/** Streams that unfold what a body is compressed by; nothing where it is not. */
const UNFOLD: Readonly<Record<string, (() => NodeJS.ReadWriteStream) | undefined>> = {
  gzip: () => zlib.createGunzip(),
  deflate: () => zlib.createInflate(),
  br: () => zlib.createBrotliDecompress(),
  identity: undefined,
}

/**
 * Reads bodies that are JSON or text, no more of them than their route takes: what they unfold to is counted as it comes, and
 * the depth of JSON before anything is made of it. Other bodies are left to whoever takes them.
 *
 * @param json reads the longer ones
 */
export function bodies(json: Pick<Json, 'read'>): Middleware {
  return async (ctx, next) => {
    if (WITH_BODY.has(ctx.method) && ctx.state['need'] !== undefined) {
      const anyone = ctx.state['need'] === 'anyone'
      const request: Request & { body?: unknown } = ctx.request
      if (ctx.is('json', '+json')) {
        const text = await textOf(ctx, anyone ? LIMIT.anyone : LIMIT.json)
        request.body = text === '' ? {} : await read(json, text)
      } else if (ctx.is('text/*')) request.body = await textOf(ctx, anyone ? LIMIT.anyone : LIMIT.text)
    }
    await next()
  }
}

async function read(json: Pick<Json, 'read'>, text: string): Promise<unknown> {
  let value: unknown
  try {
    value = await json.read(text)
  } catch (e) {
    if (!(e instanceof BadJson)) throw e
    throw new Refusal(400, 'The request cannot be read', `The body is not valid JSON: ${e.message}`)
  }
  if (typeof value !== 'object' || value === null)
    throw new Refusal(400, 'The request cannot be read', 'The body must be a JSON object or array.')
  return value
}

async function textOf(ctx: ParameterizedContext, limit: number): Promise<string> {
  const { req } = ctx
  const encoding = (req.headers['content-encoding'] ?? 'identity').toLowerCase()
  if (!Object.hasOwn(UNFOLD, encoding))
    throw new Refusal(
      415,
      'Unknown kind of content',
      `The body is compressed by ${encoding}; gzip, deflate and br are read.`,
    )
  const unfold = UNFOLD[encoding]
  if (!unfold)
    return await rawBody(req, {
      limit,
      length: req.headers['content-length'],
      encoding: ctx.request.charset || 'utf-8',
    })
  const unfolded = unfold()
  // what is sent on when enough was seen is let go; whoever sent less than it says is told by what unfolds it
  req.on('error', (e) => unfolded.emit('error', e))
  try {
    return await rawBody(req.pipe(unfolded) as unknown as Readable, {
      limit,
      encoding: ctx.request.charset || 'utf-8',
    })
  } catch (e) {
    req.unpipe(unfolded)
    const { status } = e as { status?: number }
    if (status !== undefined) throw e
    throw new Refusal(
      400,
      'The request cannot be read',
      'The body is not what its Content-Encoding says it is.',
    )
  } finally {
    ;(unfolded as unknown as zlib.Gunzip).destroy?.()
  }
}
