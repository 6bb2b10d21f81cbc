import { millisecondsInDay } from 'date-fns/constants'
import type { IncomingMessage } from 'node:http'
import type { BlockList } from 'node:net'
import path from 'node:path'
import Router from '@koa/router'
import Koa from 'koa'
import compress from 'koa-compress'
import helmet from 'koa-helmet'
import send from 'koa-send'
import { WIRE } from '../contract/writes.ts'
import { simulatedAnemometer } from './devices/anemometer.ts'
import { simulatedCamera } from './devices/flightCamera.ts'
import { simulatedForecast } from './devices/forecast.ts'
import { simulatedRangeFinder } from './devices/rangeFinder.ts'
import { simulatedScale } from './devices/scale.ts'
import { volunteer } from './devices/volunteer.ts'
import type { Nature } from './devices/volunteer.ts'
import type { Room } from '../contract/custody.ts'
import { fullWords } from './custody/room.ts'
import { Streams } from './crew/streams.ts'
import { Tries } from './crew/tries.ts'
import { bodies } from './middleware/bodies.ts'
import { forwarded } from './middleware/forwarded.ts'
import { guard } from './middleware/guard.ts'
import { log } from './middleware/log.ts'
import { problems } from './middleware/problems.ts'
import { allowed, who } from './middleware/who.ts'
import { wire, wordsOfBefore } from './middleware/wire.ts'
import { crewRoutes } from './routes/crew.ts'
import type { SharingSwitch } from './routes/crew.ts'
import { custodyRoutes } from './routes/custody.ts'
import type { CustodyOptions } from './routes/custody.ts'
import { demoRoutes } from './routes/demo.ts'
import type { Demo } from './routes/demo.ts'
import { deviceRoutes } from './routes/devices.ts'
import type { MeasuringDevices } from './routes/devices.ts'
import { discRoutes } from './routes/discs.ts'
import { historyRoutes } from './routes/history.ts'
import { importRoutes } from './routes/imports.ts'
import { newsRoutes } from './routes/news.ts'
import { publishedRoutes } from './routes/published.ts'
import { reviewRoutes } from './routes/reviews.ts'
import { rowRoutes } from './routes/rows.ts'
import { drillRoutes } from './routes/drill.ts'
import { rotationRoutes } from './routes/rotation.ts'
import { shelfRoutes } from './routes/shelf.ts'
import { trialRoutes } from './routes/trials.ts'
import { databaseState } from './store/database.ts'
import type { Database } from './store/database.ts'
import type { MachineKey } from './middleware/machineKey.ts'
import type { NewsWire } from './store/newsWire.ts'
import type { Works } from './work/works.ts'
import { serving } from './routes/serve.ts'
import type { OnAnswer } from './routes/serve.ts'
import { openApi } from '../contract/openapi.ts'

export interface AppOptions {
  readonly db: Database
  readonly works: Works
  /** How discs and arms of a demo really are, for volunteers that throw. */
  readonly nature?: Nature
  /** Sample data that can be put away and brought back. */
  readonly demo?: Demo
  /** Devices that take the place of their stand-ins. */
  readonly devices?: Partial<Pick<MeasuringDevices, 'anemometer' | 'scale' | 'forecast'>>
  /** Uniform numbers in [0, 1) for what stand-ins do by chance. */
  readonly uniform?: () => number
  /** What the server is reached by beside loopback; requests under other names are turned away. */
  readonly names?: () => readonly string[]
  /** Whether a request came from the machine itself, by a way nobody else can take; all do where it listens for nobody else. */
  readonly isOwn?: (req: IncomingMessage) => boolean
  /** What the machine itself shows, once anybody else was let in. */
  readonly machineKey?: MachineKey
  /** Proxies that say truly whom they speak for. */
  readonly proxies?: BlockList
  /** What tells pages of what others write. */
  readonly news?: NewsWire
  /** Copies of everything, where any are kept. */
  readonly custody?: CustodyOptions
  /** How much is free where this machine fills. */
  readonly room?: () => Promise<readonly Room[]>
  /** What lets others reach it. */
  readonly sharing?: SharingSwitch
  /** Folder of the built web app; absent in tests of the API. */
  readonly dist?: string
  readonly quiet?: boolean
  /** Told every answer before it is sent. */
  readonly answered?: OnAnswer
}

/** The server as a stack: log, problems, headers, guard, bodies, routes, then the web app's files. */
const UNKNOWN: Nature = { numbersOf: () => undefined, armOf: () => undefined }

export function makeApp({
  db,
  works,
  names = () => [],
  isOwn = () => true,
  machineKey,
  proxies,
  sharing,
  custody,
  room = async () => [],
  news: wireOfNews,
  dist,
  quiet,
  answered,
  nature = UNKNOWN,
  devices,
  demo,
  uniform = Math.random,
}: AppOptions): Koa {
  // of the addresses a request came by, the one the proxy itself saw: what stands before it anybody may have written
  const app = new Koa({ proxy: proxies !== undefined, maxIpsCount: 1 })
  app.on('error', (error: NodeJS.ErrnoException) => {
    // somebody stopped looking at what streams, or sent what is no request
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE' && !error.code?.startsWith('HPE_'))
      process.stderr.write(`${JSON.stringify({ level: 'error', error: String(error.stack ?? error) })}\n`)
  })
  if (!quiet) app.use(log(process.env['VEER_LOG'] !== 'json' && process.stdout.isTTY === true))
  app.use(problems(async () => fullWords(await room())))
  app.use(wire)
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          manifestSrc: ["'self'"],
          // pictures of views are drawn in a document that is given this page’s own base, to find its fonts
          baseUri: ["'self'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  )
  app.use(compress())
  app.use(wordsOfBefore)
  app.use(forwarded(proxies))
  app.use(guard(names))
  const machine = { isOwn, key: machineKey }
  app.use(who(db, machine))
  const streams = new Streams(db)
  // while nobody can tell, they go on, and are looked at again with the next news of it
  const onRevoked = () => void streams.check().catch(() => {})
  if (wireOfNews) wireOfNews.onRights = onRevoked
  const router = new Router()
  // nobody sends a body to where they may not be
  app.use(async (ctx, next) => await permitted(ctx, next))
  app.use(bodies(works.json))
  const rangeFinder = simulatedRangeFinder(uniform)
  const on = serving(router, answered)
  on('GET /api/health', async (_, ctx) => {
    const [database, rooms] = await Promise.all([databaseState(db), room()])
    const full = fullWords(rooms)
    const writes = database === 'takes-writes' && full === undefined
    // whoever shares requests out sends none here while nothing can be done
    ctx.status = database === 'away' ? 503 : 200
    return {
      ok: writes,
      app: 'veer-line' as const,
      wire: WIRE,
      database: database === 'takes-writes' && full !== undefined ? ('full' as const) : database,
      writes,
      ...(full !== undefined && { full }),
      room: rooms,
      ratings:
        database === 'away'
          ? null
          : (await works.shelf.behind())
            ? ('behind' as const)
            : ('up-to-date' as const),
      copies: custody?.copies.trouble ?? null,
    }
  })
  // by it devices know how far off their clocks are
  on('GET /api/now', (_, ctx) => {
    ctx.set('cache-control', 'no-store')
    return { now: new Date().toISOString() }
  })
  on('GET /api/openapi.json', () => openApi())
  // a page of another origin learns here whether its browser trusts this one, and nothing else
  on('GET /trusted', (_, ctx) => {
    ctx.set({ 'access-control-allow-origin': '*', 'cross-origin-resource-policy': 'cross-origin' })
    ctx.body = 'yes'
  })
  crewRoutes(on, db, new Tries(db), machine, sharing, () =>
    wireOfNews ? wireOfNews.tellRights() : onRevoked(),
  )
  rowRoutes(router, on, db, works, wireOfNews)
  if (wireOfNews) newsRoutes(on, db, wireOfNews, streams)
  shelfRoutes(on, db)
  discRoutes(on, db, works)
  rotationRoutes(on, works)
  drillRoutes(on, db)
  importRoutes(on, works.errands)
  deviceRoutes(
    on,
    db,
    {
      scale: simulatedScale(0.37),
      forecast: simulatedForecast,
      anemometer: simulatedAnemometer(),
      rangeFinder,
      volunteer: volunteer(nature, rangeFinder, simulatedCamera(uniform), uniform),
      ...devices,
    },
    streams,
  )
  trialRoutes(on, db, works)
  reviewRoutes(on, db)
  historyRoutes(on, db)
  if (custody) custodyRoutes(on, custody, works)
  publishedRoutes(on, db)
  if (demo) demoRoutes(on, db, demo, works)
  const permitted = allowed(router)
  app.use(router.routes())
  if (dist !== undefined) app.use(built(dist))
  return app
}

/** The built web app; every address that is not a file is one of its pages. */
function built(dist: string): Koa.Middleware {
  return async (ctx, next) => {
    if ((ctx.method !== 'GET' && ctx.method !== 'HEAD') || ctx.path.startsWith('/api/')) return next()
    const isFile = path.extname(ctx.path) !== ''
    // the service worker decides what is fresh, so it must be fresh itself
    const lasting = ctx.path.startsWith('/assets/')
      ? { maxage: 365 * millisecondsInDay, immutable: true }
      : {}
    try {
      await send(ctx, isFile ? ctx.path : '/index.html', { root: dist, ...lasting })
    } catch (e) {
      if ((e as { status?: number }).status !== 404) throw e
      ctx.status = 404
      ctx.body = 'Not found'
    }
  }
}
