import { DEGREE } from '../../core/flight/units.ts'
import { PassThrough } from 'node:stream'
import { alongAim } from '../../core/plan/window.ts'
import { gramsOf, shelved } from '../../contract/sheet.ts'
import type { ScaleReport, WindReport } from '../../contract/devices.ts'
import type { Anemometer } from '../devices/anemometer.ts'
import type { WindForecast } from '../devices/forecast.ts'
import type { RangeFinder, RangeReading } from '../devices/rangeFinder.ts'
import type { WeighingScale } from '../devices/scale.ts'
import { trueGrams } from '../devices/trueGrams.ts'
import type { Volunteer } from '../devices/volunteer.ts'
import type { Role } from '../../contract/roles.ts'
import type { Streams } from '../crew/streams.ts'
import { Refusal } from '../middleware/problems.ts'
import { whoOf } from '../middleware/who.ts'
import type { Database } from '../store/database.ts'
import { readShelfRows } from '../store/shelfPage.ts'
import { readThrowers } from '../store/trials.ts'
import type { Ctx } from './router.ts'
import type { Serve } from './serve.ts'

/** What stands beside the tee: stand-ins, or the real ones behind the same interfaces. */
export interface MeasuringDevices {
  readonly scale: WeighingScale
  readonly forecast: WindForecast
  readonly anemometer: Anemometer
  readonly rangeFinder: RangeFinder
  readonly volunteer: Volunteer
}

const SCALE_EVERY_MS = 200
const WIND_EVERY_MS = 1000
/** A stream that somebody forgot is let go. */
const LONGEST_MS = 3 * 3_600_000
/** Bytes nobody has taken yet. */
const BEHIND = 100_000

/** Where a disc lies by what a range finder says of it, to the decimetre. */
function landedAt({ distanceM, bearingDeg }: RangeReading): { carryM: number; rightM: number } {
  const bearing = bearingDeg * DEGREE
  const tenth = (v: number) => Math.round(10 * v) / 10 + 0
  return { carryM: tenth(distanceM * Math.cos(bearing)), rightM: tenth(distanceM * Math.sin(bearing)) }
}

/** Server-sent events for as long as somebody looks at them. */
function stream(
  ctx: Ctx,
  streams: Streams,
  need: Role,
  everyMs: number,
  read: (sinceS: number) => unknown,
): void {
  const out = new PassThrough()
  streams.hold(whoOf(ctx)!, need, out)
  const start = Date.now()
  const tick = () => {
    const since = Date.now() - start
    // whoever does not take what they are told is let go
    if (out.writableLength > BEHIND) return void out.destroy()
    out.write(`data: ${JSON.stringify(read(since / 1000))}\n\n`)
    if (since > LONGEST_MS) out.end()
  }
  const timer = setInterval(tick, everyMs)
  out.on('close', () => clearInterval(timer))
  out.on('error', () => {})
  ctx.req.on('close', () => out.destroy())
  ctx.set({ 'content-type': 'text/event-stream', 'cache-control': 'no-store' })
  ctx.compress = false
  ctx.body = out
  tick()
}

export function deviceRoutes(on: Serve, db: Database, devices: MeasuringDevices, streams: Streams): void {
  const { scale, forecast, anemometer } = devices
  const rowOf = async (id: string) => {
    const [row] = await readShelfRows(db, [id])
    if (!row) throw new Refusal(404, 'Not found', `There is no disc ${id}.`)
    return row
  }

  on('GET /api/devices/scale', async ({ query: { disc } }, ctx) => {
    const load = disc === undefined ? null : trueGrams((await rowOf(disc)).disc)
    stream(ctx, streams, 'scribe', SCALE_EVERY_MS, (since): ScaleReport => ({
      device: scale.name,
      ...scale.read(load, since),
    }))
  })
  on('PUT /api/devices/scale/tare', () => {
    scale.tare()
    return { ok: true as const }
  })
  on('GET /api/devices/forecast', ({ query: { place, day } }) => ({
    device: forecast.name,
    hours: [...forecast.day(place, day)],
  }))
  on('GET /api/devices/anemometer', ({ query: { place, bearing } }, ctx) => {
    stream(ctx, streams, 'reader', WIND_EVERY_MS, (): WindReport => {
      const at = new Date()
      const wind = anemometer.read(place, at)
      return {
        device: anemometer.name,
        at: at.toISOString(),
        ...wind,
        ...alongAim(wind.speedMps, wind.fromDeg, bearing),
      }
    })
  })
  on('GET /api/devices/range-finder', ({ query }) => {
    const range = devices.rangeFinder.measure(query)
    return { device: devices.rangeFinder.name, range, ...landedAt(range) }
  })
  on('POST /api/devices/volunteer', async ({ body: asked }) => {
    const row = await rowOf(asked.discId)
    const thrower = (await readThrowers(db)).find((t) => t.id === asked.throwerId)
    if (!thrower) throw new Refusal(404, 'Not found', `There is no thrower ${asked.throwerId}.`)
    const seen = devices.volunteer.throwIt({
      ...asked,
      aimDeg: asked.aimDeg ?? null,
      code: row.disc.code,
      published: shelved(row).inForce.numbers,
      grams: gramsOf(row.disc),
      thrower: thrower.name,
      hand: thrower.hand,
      fullMps: asked.stroke === 'backhand' ? thrower.backhandMps : thrower.forehandMps,
    })
    return { device: devices.volunteer.name, ...seen, ...landedAt(seen.range) }
  })
}
