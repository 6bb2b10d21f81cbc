import { millisecondsInDay } from 'date-fns/constants'
import type { IncomingMessage } from 'node:http'
import type { Middleware, ParameterizedContext } from 'koa'
import type Router from '@koa/router'
import { KEY_COOKIE } from '../../contract/crew.ts'
import { mayDo, ROLE_WORDS } from '../../contract/roles.ts'
import { ADDRESSES, API } from '../../contract/api.ts'
import type { Need } from '../../contract/api.ts'
import type { Role } from '../../contract/roles.ts'
import type { Database } from '../store/database.ts'
import { firstOwner, whoHolds } from '../store/crew.ts'
import type { Who } from '../store/crew.ts'
import type { MachineKey } from './machineKey.ts'
import { Refusal } from './problems.ts'

const KNOWN = `${KEY_COOKIE}-known`
const A_YEAR_MS = 365 * millisecondsInDay

type Ctx = Pick<ParameterizedContext, 'cookies' | 'state'>

/** Who asks; undefined of somebody who has not come in. */
export const whoOf = (ctx: Pick<ParameterizedContext, 'state'>): Who | undefined =>
  ctx.state['who'] as Who | undefined

/** Gives the browser what it comes in with. */
export const giveKey = (ctx: Ctx, token: string): void => {
  ctx.cookies.set(KEY_COOKIE, token, {
    httpOnly: true,
    secure: true,
    sameSite: 'strict',
    path: '/',
    maxAge: A_YEAR_MS,
    overwrite: true,
  })
}
/** Takes it away again; by what is left the browser is known as one that came in once, and opens nothing. */
export const takeKey = (ctx: Ctx): void => {
  const was = ctx.cookies.get(KEY_COOKIE)
  const set = { httpOnly: true, secure: true, sameSite: 'strict', path: '/', overwrite: true } as const
  ctx.cookies.set(KEY_COOKIE, null, set)
  if (was !== undefined) ctx.cookies.set(KNOWN, was, { ...set, maxAge: A_YEAR_MS })
}

/** What a browser shows that it came in with, now or once. */
export const tokensOf = (ctx: Pick<Ctx, 'cookies'>): string[] =>
  [KEY_COOKIE, KNOWN].flatMap((name) => ctx.cookies.get(name) ?? [])

/**
 * Whether a browser may be given a key on this connection, said before anything is done for it.
 *
 * @throws Refusal on a plain connection, which carries none
 */
export function canTakeKey(ctx: Pick<ParameterizedContext, 'secure'>): void {
  if (!ctx.secure)
    throw new Refusal(
      409,
      'Not over a plain connection',
      'A device comes in over HTTPS alone: open the address that starts with https, or, at the machine itself, the address that npm start prints. Nothing was used up.',
      [{ path: '', message: 'needs HTTPS' }],
    )
}

/** How whoever sits at the machine itself is known. */
export interface Machine {
  /** Whether a request came from the machine itself, by a way nobody else can take. */
  readonly isOwn: (req: IncomingMessage) => boolean
  /** What it shows besides, once anybody else was let in. */
  readonly key?: MachineKey | undefined
}

/** Cookies know no ports: two servers of one machine have one each. */
const machineCookie = (req: IncomingMessage): string => `veer-line-machine-${req.socket.localPort ?? 0}`

/** Gives a browser at the machine itself what it shows there. */
export const giveMachineKey = (ctx: Pick<ParameterizedContext, 'cookies' | 'req'>, secret: string): void => {
  ctx.cookies.set(machineCookie(ctx.req), secret, {
    httpOnly: true,
    sameSite: 'strict',
    path: '/',
    maxAge: A_YEAR_MS,
    overwrite: true,
  })
}

/** Whether somebody asks at the machine itself without what it shows. */
export const lacksMachineKey = (ctx: Pick<ParameterizedContext, 'state'>): boolean =>
  ctx.state['lacksMachineKey'] === true

/** Finds out who asks: whoever sits at the machine itself is its first owner; anybody else comes in with a key. */
export function who(db: Database, { isOwn, key }: Machine): Middleware {
  return async (ctx, next) => {
    // the app's own files are anybody's, and how it is itself is told while its database is away
    if (ctx.path.startsWith('/api/') && ctx.path !== '/api/health') {
      const token = ctx.cookies.get(KEY_COOKIE)
      const atMachine = isOwn(ctx.req)
      const known =
        atMachine && (key?.secret === undefined || key.fits(ctx.cookies.get(machineCookie(ctx.req))))
      if (known) ctx.state['who'] = { person: await firstOwner(db), keyId: null } satisfies Who
      else if (token !== undefined) ctx.state['who'] = await whoHolds(db, token)
      ctx.state['lacksMachineKey'] = atMachine && !known && ctx.state['who'] === undefined
    }
    await next()
  }
}

/** What every route needs, by method and address. */
const NEEDS: Readonly<Record<string, Need>> = Object.fromEntries(ADDRESSES.map((a) => [a, API[a].who]))

/**
 * Lets nobody to a route who may not be there.
 *
 * @throws Error where a route of the router has no line in the contract
 */
export function allowed(router: Router): Middleware {
  const routes = routesOf(router)
  const unlisted = routes.filter((r) => !(r in NEEDS))
  if (unlisted.length > 0) throw new Error(`No role is stated for ${unlisted.join(', ')}.`)
  return async (ctx, next) => {
    const { pathAndMethod } = router.match(ctx.path, ctx.method)
    const layer = pathAndMethod.findLast((l) => l.methods.length > 0)
    const need = layer && NEEDS[nameOf(ctx.method, String(layer.path))]
    if (layer && need === undefined)
      throw new Error(`No role is stated for ${ctx.method} ${String(layer.path)}.`)
    if (need !== undefined && need !== 'anyone') permit(whoOf(ctx), need, lacksMachineKey(ctx))
    ctx.state['need'] = need
    await next()
  }
}

/** @throws Refusal where somebody may not do what needs a role */
function permit(asking: Who | undefined, need: Role, atMachine: boolean): void {
  if (!asking)
    throw new Refusal(
      401,
      'Not signed in',
      atMachine
        ? 'Others were let in here, so that this machine shows who it is too: open the address that npm start prints. What you kept stays, and is sent then.'
        : 'This device is not signed in here. What you kept stays on it, and is sent once you have come in.',
    )
  const { name, role } = asking.person
  if (!mayDo(role, need))
    throw new Refusal(
      403,
      `Not for a ${role}`,
      `${name} is a ${role} here: a ${role} ${ROLE_WORDS[role]}. This needs a ${need}.`,
      [{ path: '', message: `needs a ${need}` }],
    )
}

const nameOf = (method: string, path: string) => `${method === 'HEAD' ? 'GET' : method} ${path}`

/** Every route of a router, by method and path. */
export const routesOf = (router: Router): string[] =>
  router.stack.flatMap((l) => l.methods.filter((m) => m !== 'HEAD').map((m) => nameOf(m, String(l.path))))
