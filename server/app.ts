import path from 'node:path'
import bodyParser from '@koa/bodyparser'
import Router from '@koa/router'
import Koa from 'koa'
import compress from 'koa-compress'
import helmet from 'koa-helmet'
import send from 'koa-send'
import { PAGE_LIMIT } from '../contract/reviews.ts'
import { CSV_LIMIT } from '../core/formats/throwsCsv.ts'
import { simulatedAnemometer } from './devices/anemometer.ts'
import { simulatedCamera } from './devices/flightCamera.ts'
import { simulatedForecast } from './devices/forecast.ts'
import { simulatedRangeFinder } from './devices/rangeFinder.ts'
import { simulatedScale } from './devices/scale.ts'
import { volunteer } from './devices/volunteer.ts'
import type { Nature } from './devices/volunteer.ts'
import { guard } from './middleware/guard.ts'
import { log } from './middleware/log.ts'
import { problems } from './middleware/problems.ts'
import { wire } from './middleware/wire.ts'
import { demoRoutes } from './routes/demo.ts'
import type { Demo } from './routes/demo.ts'
import { deviceRoutes } from './routes/devices.ts'
import type { Devices } from './routes/devices.ts'
import { discRoutes } from './routes/discs.ts'
import { importRoutes } from './routes/imports.ts'
import { publishedRoutes } from './routes/published.ts'
import { reviewRoutes } from './routes/reviews.ts'
import { rowRoutes } from './routes/rows.ts'
import { shelfRoutes } from './routes/shelf.ts'
import { trialRoutes } from './routes/trials.ts'
import { takesWrites } from './store/database.ts'
import type { Database } from './store/database.ts'
import type { Works } from './work/works.ts'

export interface AppOptions {
  readonly db: Database
  readonly works: Works
  /** How discs and arms of a demo really are, for volunteers that throw. */
  readonly nature?: Nature
  /** Sample data that can be put away and brought back. */
  readonly demo?: Demo
  /** Devices that take the place of their stand-ins. */
  readonly devices?: Partial<Pick<Devices, 'anemometer' | 'scale' | 'forecast'>>
  /** Uniform numbers in [0, 1) for what stand-ins do by chance. */
  readonly uniform?: () => number
  /** Address the server listens on; requests under other names are turned away. */
  readonly host: string
  /** Folder of the built web app; absent in tests of the API. */
  readonly dist?: string
  readonly quiet?: boolean
}

/** The server as a stack: log, problems, headers, guard, bodies, routes, then the web app's files. */
const UNKNOWN: Nature = { numbersOf: () => undefined, armOf: () => undefined }

export function makeApp({
  db,
  works,
  host,
  dist,
  quiet,
  nature = UNKNOWN,
  devices,
  demo,
  uniform = Math.random,
}: AppOptions): Koa {
  const app = new Koa()
  app.on('error', (error: NodeJS.ErrnoException) => {
    // somebody stopped looking at what streams
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE')
      process.stderr.write(`${JSON.stringify({ level: 'error', error: String(error.stack ?? error) })}\n`)
  })
  if (!quiet) app.use(log)
  app.use(problems)
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
  app.use(guard(host))
  app.use(
    bodyParser({
      enableTypes: ['json', 'text'],
      jsonLimit: '3mb',
      textLimit: Math.max(CSV_LIMIT.bytes, PAGE_LIMIT),
      extendTypes: { text: ['text/csv', 'text/html'] },
    }),
  )
  const router = new Router()
  const rangeFinder = simulatedRangeFinder(uniform)
  router.get('/api/health', async (ctx) => {
    ctx.body = { ok: true, app: 'veer-line', writes: await takesWrites(db) }
  })
  rowRoutes(router, db, works)
  shelfRoutes(router, db)
  discRoutes(router, db, works)
  importRoutes(router, works.files)
  deviceRoutes(router, db, {
    scale: simulatedScale(0.37),
    forecast: simulatedForecast,
    anemometer: simulatedAnemometer(),
    rangeFinder,
    volunteer: volunteer(nature, rangeFinder, simulatedCamera(uniform), uniform),
    ...devices,
  })
  trialRoutes(router, db, works)
  reviewRoutes(router, db)
  publishedRoutes(router, db)
  if (demo) demoRoutes(router, db, demo, works)
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
    const lasting = ctx.path.startsWith('/assets/') ? { maxage: 365 * 86_400_000, immutable: true } : {}
    try {
      await send(ctx, isFile ? ctx.path : '/index.html', { root: dist, ...lasting })
    } catch (e) {
      if ((e as { status?: number }).status !== 404) throw e
      ctx.status = 404
      ctx.body = 'Not found'
    }
  }
}
