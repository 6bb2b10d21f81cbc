import type Router from '@koa/router'
import { min } from 'd3'
import { z } from 'zod'
import { sessionIcs } from '../../core/formats/ics.ts'
import { dayAt } from '../../core/throw/day.ts'
import { MEASURING_METHODS } from '../../core/throw/method.ts'
import { plainThrows, writeThrowsCsv } from '../../core/formats/throwsCsv.ts'
import { throwsGeoJson, throwsGpx } from '../../core/formats/onEarth.ts'
import { NOT_STATED } from '../../contract/naming.ts'
import { MOST_CARDS } from '../../contract/cards.ts'
import { Day, Id, Name } from '../../contract/shelf.ts'
import { TimeZone } from '../../contract/trials.ts'
import type { TrialFile } from '../../contract/trials.ts'
import { sheetOf, shelvedDiscs } from '../../contract/sheet.ts'
import { parse, Refusal, refuseFile } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { wornBefore } from '../store/worn.ts'
import { earthThrows } from '../store/onEarth.ts'
import { importThrows } from '../store/importThrows.ts'
import { readPreferences } from '../store/preferences.ts'
import { readShelf } from '../store/shelf.ts'
import {
  readArmDays,
  readKnown,
  readPlaces,
  readSessions,
  readShortThrows,
  readThrowers,
  readTrial,
  readTrials,
  readWindLogs,
} from '../store/trials.ts'
import type { Works } from '../work/works.ts'
import { jobOf } from './imports.ts'
import { fileName } from './router.ts'
import type { Ctx } from './router.ts'

const CardIds = z.array(Id).max(MOST_CARDS, `must be at most ${MOST_CARDS} trials`)

/** How long a session in a calendar is, minutes. */
const IcsQuery = z.object({
  minutes: z.coerce.number({ error: 'must be a number of minutes' }).min(1).max(1440).default(60),
})
/** What is told with a file of throws. */
const ImportQuery = z.object({
  store: z.enum(['0', '1'], { error: 'must be 1 to store, or 0' }).optional(),
  method: z
    .enum(MEASURING_METHODS, { error: `must be one of ${MEASURING_METHODS.join(', ')}` })
    .default('eye'),
  place: z.string().trim().max(120, 'must be at most 120 characters').optional(),
  zone: TimeZone.optional(),
  /** Of the trial that is made of the file. */
  name: Name.optional(),
  question: z.string().max(500, 'must be at most 500 characters').default(''),
})

/** A trial of a file before the file is read. */
function madeOf(id: string, name: string, question: string): TrialFile {
  const trial = {
    id,
    name,
    question,
    discIds: [],
    controlDiscId: null,
    hyzerDegs: [0],
    plannedThrows: 0,
    finishedAt: null,
    plan: null,
  }
  return { trial, sessions: [], throws: [] }
}

export function trialRoutes(router: Router, db: Database, works: Works): void {
  const trialAt = async (ctx: Ctx): Promise<TrialFile> => {
    const id = parse(Id, ctx.params['id'])
    const file = await readTrial(db, id)
    if (!file) throw new Refusal(404, 'Not found', `There is no trial ${id}.`)
    return file
  }

  router.get('/api/throwers', async (ctx) => {
    ctx.body = await readThrowers(db)
  })
  router.get('/api/sessions', async (ctx) => {
    ctx.body = await readSessions(db)
  })
  router.get('/api/sessions/:id/wind', async (ctx: Ctx) => {
    ctx.body = await readWindLogs(db, parse(Id, ctx.params['id']))
  })
  router.get('/api/trials/:id/short', async (ctx: Ctx) => {
    ctx.body = await readShortThrows(db, parse(Id, ctx.params['id']))
  })
  router.get('/api/places', async (ctx) => {
    ctx.body = await readPlaces(db)
  })
  router.get('/api/trials/:id/session.ics', async (ctx: Ctx) => {
    const { trial } = await trialAt(ctx)
    const { plan } = trial
    if (!plan?.startsAt)
      throw new Refusal(409, 'No time yet', 'The plan names no time; choose a window of the forecast first.')
    const place = (await readPlaces(db)).find((p) => p.id === plan.placeId)
    const { minutes } = parse(IcsQuery, { ...ctx.query })
    ctx.type = 'text/calendar; charset=utf-8'
    ctx.attachment(`${fileName(trial.name)}.ics`)
    ctx.body = sessionIcs({
      id: trial.id,
      title: trial.name,
      startsAt: plan.startsAt,
      minutes,
      ...(place && { place: place.name }),
      notes: [
        trial.question,
        `${plan.throws.length} throws.`,
        place?.hazards && `Mind: ${place.hazards}.`,
        'Throw only when the range is clear and stays clear.',
      ]
        .filter(Boolean)
        .join(' '),
    })
  })
  router.get('/api/arm-days', async (ctx) => {
    ctx.body = await readArmDays(db, parse(Day, ctx.query['since']))
  })
  router.get('/api/trials', async (ctx) => {
    ctx.body = await readTrials(db)
  })
  router.get('/api/cards', async (ctx) => {
    ctx.body = await works.cards.read(parse(CardIds, String(ctx.query['trials'] ?? '').split(',')))
  })
  router.get('/api/trials/:id', async (ctx: Ctx) => {
    ctx.body = await trialAt(ctx)
  })
  router.get('/api/trials/:id/known', async (ctx: Ctx) => {
    ctx.body = await readKnown(db, await trialAt(ctx))
  })
  router.get('/api/trials/:id/worn', async (ctx: Ctx) => {
    const { trial, sessions } = await trialAt(ctx)
    const day = min(sessions, (s) => s.day) ?? dayAt(Date.now(), null)
    ctx.body = await Promise.all(
      trial.discIds.map(async (discId) => ({ discId, ...(await wornBefore(db, discId, day)) })),
    )
  })
  router.get('/api/trials/:id/throws.csv', async (ctx: Ctx) => {
    const file = await trialAt(ctx)
    const sheet = sheetOf(file, shelvedDiscs(await readShelf(db)), await readThrowers(db), 'label')
    ctx.type = 'text/csv; charset=utf-8'
    ctx.attachment(`${fileName(file.trial.name)}-throws.csv`)
    // with all, whoever rates the file comes to the numbers of the app
    ctx.body = writeThrowsCsv(ctx.query['all'] === '1' ? sheet : plainThrows(sheet))
  })
  const onEarth = async (ctx: Ctx) => {
    const file = await trialAt(ctx)
    const [shelf, people, places] = await Promise.all([readShelf(db), readThrowers(db), readPlaces(db)])
    const { throws, nowhere } = earthThrows(file, shelvedDiscs(shelf), people, places)
    if (throws.length === 0)
      throw new Refusal(
        409,
        'No place on the earth yet',
        `${nowhere.map((n) => n || NOT_STATED).join(', ') || 'No place'}: say where the throwing mark is, and the bearing of the aim line, in the place of the outing (Plan, place).`,
      )
    return { file, throws }
  }
  router.get('/api/trials/:id/throws.geojson', async (ctx: Ctx) => {
    const { file, throws } = await onEarth(ctx)
    ctx.type = 'application/geo+json; charset=utf-8'
    ctx.attachment(`${fileName(file.trial.name)}.geojson`)
    ctx.body = throwsGeoJson(throws)
  })
  router.get('/api/trials/:id/throws.gpx', async (ctx: Ctx) => {
    const { file, throws } = await onEarth(ctx)
    ctx.type = 'application/gpx+xml; charset=utf-8'
    ctx.attachment(`${fileName(file.trial.name)}.gpx`)
    ctx.body = throwsGpx(throws, file.trial.name)
  })
  router.post('/api/trials/:id/import', async (ctx: Ctx) => {
    const { store, method, place, zone, name, question } = parse(ImportQuery, { ...ctx.query })
    const id = parse(Id, ctx.params['id'])
    const there = await readTrial(db, id)
    // a trial that is not there yet is made of the file
    const file = there ?? (name !== undefined ? madeOf(id, name, question) : await trialAt(ctx))
    if (!ctx.is('text/csv') || typeof ctx.request.body !== 'string')
      throw new Refusal(415, 'Unknown kind of content', 'Send the file as text/csv.')
    const csv = ctx.request.body
    const done = await works.errands.within(jobOf(ctx), async (told) => {
      const read = await works.files.throws(csv)
      if (!read.ok) return read.problems
      const total = read.lines.length
      return await importThrows(
        db,
        file,
        read.lines,
        {
          method,
          place: place || NOT_STATED,
          timeZone: zone ?? null,
          now: new Date().toISOString(),
          fresh: !there,
        },
        store === '1',
        (stored) => told({ stage: 'storing', done: stored, total }),
      )
    })
    if (!('throws' in done)) refuseFile(done)
    if (done.stored) works.touchAll()
    ctx.body = done
  })

  router.get('/api/preferences/:id', async (ctx: Ctx) => {
    ctx.body = await readPreferences(db, parse(Id, ctx.params['id']))
  })
}
