import type { Middleware } from 'koa'
import { storable } from '../../core/formats/csvCells.ts'
import { Refusal } from './problems.ts'

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]'])

/**
 * Only pages this server gave out may write to it or listen to it, and only under a name it is known by: a foreign page open in
 * the same browser, or a foreign name resolved to this machine, is turned away.
 *
 * @param names what it is reached by beside loopback, at the moment
 */
export function guard(names: () => readonly string[]): Middleware {
  const known = (name: string) => LOOPBACK.has(name) || names().some((n) => n === name || `[${n}]` === name)
  return async (ctx, next) => {
    const host = ctx.host
    const named = hostnameOf(`http://${host}`)
    if (named === undefined || !known(named))
      throw new Refusal(403, 'Unknown host', `This server does not answer to ${host || 'no name'}.`)
    // the API says itself which part of an address is none
    if (!ctx.path.startsWith('/api/') && !readable(ctx.path))
      throw new Refusal(400, 'The request cannot be read', 'The address is none.')
    const writes = ctx.method !== 'GET' && ctx.method !== 'HEAD'
    const origin = ctx.get('origin')
    const listens = ctx.get('accept').includes('text/event-stream')
    if ((writes || listens) && origin !== '' && origin !== `http://${host}` && origin !== `https://${host}`)
      throw new Refusal(403, 'Foreign page', `Pages of ${origin} may not write or listen here.`)
    // what is asked of the API from another site is answered to nobody
    if (ctx.get('sec-fetch-site') === 'cross-site' && (writes || ctx.path.startsWith('/api/')))
      throw new Refusal(403, 'Foreign page', 'Pages of other sites may neither write nor read here.')
    await next()
  }
}

function hostnameOf(url: string): string | undefined {
  try {
    return new URL(url).hostname
  } catch {
    return undefined
  }
}

/** Whether an address can be read: whole, and without a character that is none. */
function readable(path: string): boolean {
  try {
    return storable(decodeURIComponent(path))
  } catch {
    return false
  }
}
