import { PassThrough } from 'node:stream'
import type { News } from '../../contract/news.ts'
import { whoOf } from '../middleware/who.ts'
import { hold, readHands } from '../store/hands.ts'
import type { Database } from '../store/database.ts'
import type { Streams } from '../crew/streams.ts'
import type { NewsWire } from '../store/newsWire.ts'
import type { Serve } from './serve.ts'

/** A line nothing is said on is taken for broken by what stands between, ms. */
const BEAT_MS = 20_000
/** A page that does not take what it is told is let go, bytes. */
const BEHIND = 1_000_000

/** Tells pages what others write: `GET /api/news` as server-sent events; and what they hold. */
export function newsRoutes(on: Serve, db: Database, wire: NewsWire, streams: Streams): void {
  on('GET /api/news', (_, ctx) => {
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
  on('GET /api/trials/:id/hands', ({ params }) => readHands(db, params.id))
  on('PUT /api/trials/:id/hand', async ({ params: { id: trialId }, body: { deviceId, held } }) => {
    await hold(db, trialId, deviceId, held)
    wire.tell({ type: 'hands', trialId })
    return await readHands(db, trialId)
  })
}
