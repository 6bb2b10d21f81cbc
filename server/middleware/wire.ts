import { Stream } from 'node:stream'
import type { Middleware, ParameterizedContext } from 'koa'
import { broughtForward, inWordsOfBefore, inWordsOfToday } from '../../contract/older.ts'
import type { Row } from '../../contract/row.ts'
import { ACCEPTED_WIRES, WIRE, WIRE_HEADER } from '../../contract/writes.ts'
import type { WriteKind } from '../../contract/writes.ts'
import { Refusal } from './problems.ts'

/**
 * Says which version of the wire is spoken here. A page of the version before is answered in its own, so that it goes on until
 * it updates itself; one that is older yet is turned away before it can write rows in shapes of another day. Programs that
 * name no version speak this one.
 */
export const wire: Middleware = async (ctx, next) => {
  const spoken = ctx.get(WIRE_HEADER)
  const accepted = ACCEPTED_WIRES.find((v) => String(v) === spoken)
  ctx.state['wire'] = accepted ?? WIRE
  ctx.set(WIRE_HEADER, String(accepted ?? WIRE))
  if (spoken !== '' && accepted === undefined)
    throw new Refusal(
      426,
      'Another version',
      `This page speaks version ${spoken} of the wire, the server version ${WIRE}. Reload the page; what it keeps is brought up to date and sent.`,
    )
  await next()
}

/** Speaks with a page of the version before in its own words. */
export const wordsOfBefore: Middleware = async (ctx, next) => {
  if (ctx.state['wire'] === WIRE) return await next()
  ctx.query = inWordsOfToday({ ...ctx.query }) as typeof ctx.query
  await next()
  // what is written out already is JSON too; files and streams are of no version
  if (!ctx.type.includes('json')) return
  const answer: unknown = ctx.body
  if (typeof answer === 'string') ctx.body = JSON.stringify(inWordsOfBefore(JSON.parse(answer)))
  else if (!Buffer.isBuffer(answer) && !(answer instanceof Stream)) ctx.body = inWordsOfBefore(answer)
}

/** What a page sent with a request that is no row, in the words of today. */
export const inToday = (ctx: Pick<ParameterizedContext, 'state'>, sent: unknown): unknown =>
  ctx.state['wire'] === WIRE ? sent : inWordsOfToday(sent)

/** A row as a page sent it, in the shapes of today. */
export function inShapeOfToday(
  ctx: Pick<ParameterizedContext, 'state'>,
  kind: WriteKind,
  body: unknown,
): unknown {
  const spoken = ctx.state['wire'] as number
  if (spoken === WIRE || typeof body !== 'object' || body === null) return body
  return broughtForward({ kind, wire: spoken, body: body as Row })?.body ?? body
}
