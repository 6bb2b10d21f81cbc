import type { Middleware } from 'koa'
import { WIRE, WIRE_HEADER } from '../../contract/writes.ts'
import { Refusal } from './problems.ts'

/**
 * Says which version of the wire is spoken here, and turns away a page of another one before it can write rows in shapes of
 * another day. Programs that name no version speak this one.
 */
export const wire: Middleware = async (ctx, next) => {
  ctx.set(WIRE_HEADER, String(WIRE))
  const spoken = ctx.get(WIRE_HEADER)
  if (spoken !== '' && spoken !== String(WIRE))
    throw new Refusal(
      426,
      'Another version',
      `This page speaks version ${spoken} of the wire, the server version ${WIRE}. Reload the page; what it keeps is brought up to date and sent.`,
    )
  await next()
}
