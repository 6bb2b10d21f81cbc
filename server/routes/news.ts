import { PassThrough } from 'node:stream'
import type Router from '@koa/router'
import { Holding } from '../../contract/news.ts'
import type { News } from '../../contract/news.ts'
import { Id } from '../../contract/shelf.ts'
import { parse } from '../middleware/problems.ts'
import { whoOf } from '../middleware/who.ts'
import { hold, readHands } from '../store/hands.ts'
import type { Database } from '../store/database.ts'
import type { Streams } from '../crew/streams.ts'
import type { NewsWire } from '../store/newsWire.ts'
import type { Ctx } from './router.ts'

/** A line nothing is said on is taken for broken by what stands between, ms. */
const BEAT_MS = 20_000
/** A page that does not take what it is told is let go, bytes. */
const BEHIND = 1_000_000

/** Tells pages what others write: `GET /api/news` as server-sent events; and what they hold. */
export function newsRoutes(router: Router, db: Database, wire: NewsWire, streams: Streams): void {
  router.get('/api/news', (ctx: Ctx) => {
    const out = new PassThrough()
    streams.hold(whoOf(ctx)!, 'reader', out)
    const say = (text: string) => {
      out.write(text)
      if (out.writableLength > BEHIND) out.destroy()
    }
    const stop = wire.listen((news: News) => say(`data: ${JSON.stringify(news)}\n\n`))
    const beat = setInterval(() => say(': still here\n\n'), BEAT_MS)
    out.once('close', () => {
      stop()
      clearInterval(beat)
    })
    out.on('error', () => {})
    ctx.req.once('close', () => out.destroy())
    ctx.set({ 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' })
    ctx.compress = false
    ctx.body = out
    say(': here\n\n')
  })
  router.get('/api/trials/:id/hands', async (ctx: Ctx) => {
    ctx.body = await readHands(db, parse(Id, ctx.params['id']))
  })
  router.put('/api/trials/:id/hand', async (ctx: Ctx) => {
    const trialId = parse(Id, ctx.params['id'])
    const { deviceId, held } = parse(Holding, ctx.request.body)
    await hold(db, trialId, deviceId, held)
    wire.tell({ type: 'hands', trialId })
    ctx.body = await readHands(db, trialId)
  })
}
