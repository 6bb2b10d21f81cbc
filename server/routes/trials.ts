import { min } from 'd3'
import { sessionIcs } from '../../core/formats/ics.ts'
import { dayAt } from '../../core/throw/day.ts'
import { plainThrows, writeThrowsCsv } from '../../core/formats/throwsCsv.ts'
import { throwsGeoJson, throwsGpx } from '../../core/formats/onEarth.ts'
import { NOT_STATED } from '../../contract/naming.ts'
import type { TrialFile } from '../../contract/trials.ts'
import { sheetOf, shelvedDiscs } from '../../contract/sheet.ts'
import { Refusal, refuseFile } from '../middleware/problems.ts'
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
import { fileName, plainText } from './router.ts'
import type { Serve } from './serve.ts'

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
    removedAt: null,
    plan: null,
  }
  return { trial, sessions: [], throws: [] }
}

export function trialRoutes(on: Serve, db: Database, works: Works): void {
  const trialAt = async ({ id }: { readonly id: string }): Promise<TrialFile> => {
    const file = await readTrial(db, id)
    if (!file) throw new Refusal(404, 'Not found', `There is no trial ${id}.`)
    return file
  }

  on('GET /api/throwers', () => readThrowers(db))
  on('GET /api/sessions', () => readSessions(db))
  on('GET /api/sessions/:id/wind', ({ params }) => readWindLogs(db, params.id))
  on('GET /api/trials/:id/short', ({ params }) => readShortThrows(db, params.id))
  on('GET /api/places', () => readPlaces(db))
  on('GET /api/trials/:id/session.ics', async ({ params, query: { minutes } }, ctx) => {
    const { trial } = await trialAt(params)
    const { plan } = trial
    if (!plan?.startsAt)
      throw new Refusal(409, 'No time yet', 'The plan names no time; choose a window of the forecast first.')
    const place = (await readPlaces(db)).find((p) => p.id === plan.placeId)
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
  on('GET /api/arm-days', ({ query }) => readArmDays(db, query.since))
  on('GET /api/trials', () => readTrials(db))
  on('GET /api/cards', ({ query }) => works.cards.read(query.trials))
  on('GET /api/trials/:id', ({ params }) => trialAt(params))
  on('GET /api/trials/:id/known', async ({ params }) => await readKnown(db, await trialAt(params)))
  on('GET /api/trials/:id/worn', async ({ params }) => {
    const { trial, sessions } = await trialAt(params)
    const day = min(sessions, (s) => s.day) ?? dayAt(Date.now(), null)
    return await Promise.all(
      trial.discIds.map(async (discId) => ({ discId, ...(await wornBefore(db, discId, day)) })),
    )
  })
  on('GET /api/trials/:id/throws.csv', async ({ params, query }, ctx) => {
    const file = await trialAt(params)
    const sheet = sheetOf(file, shelvedDiscs(await readShelf(db)), await readThrowers(db), 'label')
    ctx.type = 'text/csv; charset=utf-8'
    ctx.attachment(`${fileName(file.trial.name)}-throws.csv`)
    // with all, whoever rates the file comes to the numbers of the app
    ctx.body = writeThrowsCsv(query.all ? sheet : plainThrows(sheet))
  })
  const onEarth = async (at: { readonly id: string }) => {
    const file = await trialAt(at)
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
  on('GET /api/trials/:id/throws.geojson', async ({ params }, ctx) => {
    const { file, throws } = await onEarth(params)
    ctx.type = 'application/geo+json; charset=utf-8'
    ctx.attachment(`${fileName(file.trial.name)}.geojson`)
    ctx.body = throwsGeoJson(throws)
  })
  on('GET /api/trials/:id/throws.gpx', async ({ params }, ctx) => {
    const { file, throws } = await onEarth(params)
    ctx.type = 'application/gpx+xml; charset=utf-8'
    ctx.attachment(`${fileName(file.trial.name)}.gpx`)
    ctx.body = throwsGpx(throws, file.trial.name)
  })
  on('POST /api/trials/:id/import', async ({ params: { id }, query }, ctx) => {
    const { job, store, method, place, zone, name, question } = query
    const there = await readTrial(db, id)
    // a trial that is not there yet is made of the file
    const file = there ?? (name !== undefined ? madeOf(id, name, question) : await trialAt({ id }))
    const csv = plainText(ctx)
    const done = await works.errands.within(job, async (told) => {
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
    return done
  })

  on('GET /api/preferences/:id', ({ params }) => readPreferences(db, params.id))
}
