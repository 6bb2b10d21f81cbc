import type { Middleware } from 'koa'
import { Refusal } from './problems.ts'

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]'])

/**
 * Only pages this server gave out may write to it, and only under a name it is known by: a foreign page open in
 * the same browser, or a foreign name resolved to this machine, is turned away.
 *
 * @param host the address the server was told to listen on
 */
export function guard(host: string): Middleware {
  const known = (name: string) => LOOPBACK.has(name) || name === host || name === `[${host}]`
  return async (ctx, next) => {
    const named = hostnameOf(`http://${ctx.get('host')}`)
    if (named === undefined || !known(named))
      throw new Refusal(
        403,
        'Unknown host',
        `This server does not answer to ${ctx.get('host') || 'no name'}.`,
      )
    if (ctx.method !== 'GET' && ctx.method !== 'HEAD') {
      const origin = ctx.get('origin')
      if (origin !== '' && origin !== `http://${ctx.get('host')}` && origin !== `https://${ctx.get('host')}`)
        throw new Refusal(403, 'Foreign page', `Pages of ${origin} may not write here.`)
      if (ctx.get('sec-fetch-site') === 'cross-site')
        throw new Refusal(403, 'Foreign page', 'Pages of other sites may not write here.')
    }
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
