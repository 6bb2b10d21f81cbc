import { expect } from 'chai'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { drizzle } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import pg from 'pg'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import type { ArmDay, Session, ShortThrow, Throw, TrialFile } from '../../contract/trials.ts'
import { WIRE, WIRE_HEADER } from '../../contract/writes.ts'
import { dayAt, isTimeZone } from '../../core/throw/day.ts'
import { demoId } from '../../demo/shed.ts'
import { demoServer, testDatabase } from './server.ts'
import type { TestServer } from './server.ts'
import { once, openDatabase } from '../../server/store/database.ts'

describe('facts of a throw', () => {
  let it_: TestServer
  before(async () => void (it_ = await demoServer()))
  after(() => it_.stop())
  const api = () => request(it_.server)
  const trialId = demoId('trial', 'four')
  const throwerId = demoId('thrower', 'Odile Fenn')
  const file = async () => (await api().get(`/api/trials/${trialId}`)).body as TrialFile

  it('count an evening throw west of Greenwich against the arm of that evening', async () => {
    const { sessions, throws } = await file()
    // a quarter past six in the evening of the 24th in Denver is the 25th already in Greenwich
    const thrownAt = '2026-11-25T01:15:00.000Z'
    const timeZone = 'America/Denver'
    const outing: Session = { ...sessions[0]!, id: newId(), timeZone, day: dayAt(thrownAt, timeZone) }
    expect(outing.day).equal('2026-11-24')
    await api().put(`/api/sessions/${outing.id}`).send(outing).expect(200)
    const row: Throw = { ...throws[0]!, id: newId(), sessionId: outing.id, throwerId, thrownAt, version: 0 }
    await api().put(`/api/throws/${row.id}`).send(row).expect(200)
    const days = (await api().get('/api/arm-days?since=2026-11-20')).body as ArmDay[]
    expect(days.filter((d) => d.throwerId === throwerId)).deep.equal([
      { throwerId, day: '2026-11-24', throws: 1, fullPower: 1 },
    ])
  })

  it('are days of a place: of the clocks there, whatever the clock here', () => {
    expect(dayAt('2026-11-25T01:15:00Z', 'America/Denver')).equal('2026-11-24')
    expect(dayAt('2026-11-25T01:15:00Z', 'Pacific/Auckland')).equal('2026-11-25')
    expect(dayAt('2026-06-30T23:30:00Z', 'Europe/London')).equal('2026-07-01')
    expect([isTimeZone('Europe/London'), isTimeZone('Somewhere/Else')]).deep.equal([true, false])
  })

  it('are stored: the leg of a throw, the place and the clocks of an outing', async () => {
    const { sessions, throws } = await file()
    expect(new Set(throws.map((t) => t.leg))).deep.equal(new Set(['out', 'back']))
    expect(sessions.find((s) => s.place === 'Millpond meadow')).include({
      placeId: demoId('place', 'Millpond meadow'),
      timeZone: 'Europe/London',
    })
    const bad = { ...sessions[0]!, id: newId(), timeZone: 'Somewhere/Else' }
    const refused = await api().put(`/api/sessions/${bad.id}`).send(bad).expect(422)
    expect(refused.body.detail).equal('The time zone must be a time zone such as Europe/Berlin.')
    const nowhere = { ...sessions[0]!, id: newId(), placeId: newId() }
    const unknown = await api().put(`/api/sessions/${nowhere.id}`).send(nowhere).expect(409)
    expect(unknown.body.detail).equal('The place is not on file.')
  })
})

describe('the version of the wire', () => {
  let it_: TestServer
  before(async () => void (it_ = await demoServer()))
  after(() => it_.stop())

  it('is on every answer; a page that is too old is turned away before it writes', async () => {
    const ok = await request(it_.server).get('/api/trials').set(WIRE_HEADER, String(WIRE)).expect(200)
    expect(ok.get(WIRE_HEADER)).equal(String(WIRE))
    for (const other of [WIRE - 2, WIRE + 1]) {
      const old = await request(it_.server)
        .put(`/api/throwers/${newId()}`)
        .set(WIRE_HEADER, String(other))
        .send({})
        .expect(426)
      expect(old.body.detail).match(/Reload the page/)
      expect(old.get(WIRE_HEADER)).equal(String(WIRE))
    }
    // programs name no version
    await request(it_.server).get('/api/trials').expect(200)
  })

  it('of the version before is spoken with a page that has not updated itself: what it kept is taken', async () => {
    const before = String(WIRE - 1)
    const [{ trial }] = (await request(it_.server).get('/api/trials').set(WIRE_HEADER, before).expect(200))
      .body
    // such a page knows of no versions of a trial
    const { version: _, ...row } = trial
    const kept = await request(it_.server)
      .put(`/api/trials/${trial.id}`)
      .set(WIRE_HEADER, before)
      .send({ ...row, name: 'Renamed by an old page' })
      .expect(200)
    // it takes an answer of another version for one it cannot read
    expect(kept.get(WIRE_HEADER)).equal(before)
    expect(kept.body.name).equal('Renamed by an old page')
  })
})

describe('a database of an earlier day', () => {
  const folder = path.resolve(import.meta.dirname, '../../server/store/migrations')
  /** The migrations up to one, as they were that day. */
  function migrationsUpTo(tag: string): string {
    const copy = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-migrations-'))
    fs.cpSync(folder, copy, { recursive: true })
    const journal = path.join(copy, 'meta', '_journal.json')
    const read = JSON.parse(fs.readFileSync(journal, 'utf8')) as { entries: { tag: string }[] }
    read.entries = read.entries.slice(0, read.entries.findIndex((e) => e.tag === tag) + 1)
    fs.writeFileSync(journal, JSON.stringify(read))
    return copy
  }

  it('is carried over: legs by the wind, places by their names, skips to ground play', async () => {
    const url = await testDatabase()
    // made when first connected to
    const root = new URL(url)
    const name = root.pathname.slice(1)
    root.pathname = '/postgres'
    await once(root.href, `create database ${name}`)
    const earlier = migrationsUpTo('0007_short_game')
    const client = new pg.Client(url)
    await client.connect()
    await migrate(drizzle(client), { migrationsFolder: earlier })
    fs.rmSync(earlier, { recursive: true })
    const [maker, mold, plastic, disc, trial, session, thrower, place, short] = Array.from(
      { length: 9 },
      () => newId(),
    )
    const numbers = JSON.stringify({ speed: 9, glide: 5, turn: -1, fade: 2 })
    await client.query(`
      insert into makers (id, name) values ('${maker}', 'Aldermere');
      insert into molds (id, maker_id, name, disc_class, numbers) values ('${mold}', '${maker}', 'Thistlewick', 'putter', '${numbers}');
      insert into plastics (id, mold_id, name) values ('${plastic}', '${mold}', 'Loam');
      insert into discs (id, code, plastic_id, source, wear) values ('${disc}', 'A-1', '${plastic}', 'bought', 'new');
      insert into throwers (id, name, hand) values ('${thrower}', 'Ida', 'right');
      insert into places (id, name) values ('${place}', 'Mill Meadow');
      insert into trials (id, name, hyzer_degs) values ('${trial}', 'Old', '{0}');
      insert into trial_discs (trial_id, disc_id, place) values ('${trial}', '${disc}', 0);
      insert into sessions (id, place, day, method) values ('${session}', 'mill meadow ', '2026-05-01', 'eye');
      insert into short_throws (id, trial_id, session_id, disc_id, thrower_id, thrown_at, game, skip_m)
        values ('${short}', '${trial}', '${session}', '${disc}', '${thrower}', '2026-05-01T10:00:00Z', 'ground', 4.5);`)
    const winds = [-3, 2.5, 0, null]
    for (const [i, wind] of winds.entries())
      await client.query(`
        insert into throws (id, trial_id, session_id, disc_id, thrower_id, thrown_at, hand, stroke, power, hyzer_deg, wind_along_mps, carry_m, right_m, counts)
          values ('${newId()}', '${trial}', '${session}', '${disc}', '${thrower}', '2026-05-01T10:0${i}:00Z', 'right', 'backhand', 1, 0, ${wind}, 70, -3, true)`)
    await client.end()

    const { db, close } = await openDatabase(url)
    try {
      const { readSessions, readShortThrows, readTrial } = await import('../../server/store/trials.ts')
      const file = (await readTrial(db, trial!))!
      expect(file.throws.map((t) => t.leg)).deep.equal(['out', 'back', null, null])
      expect((await readSessions(db))[0]).include({ placeId: place, place: 'mill meadow ' })
      const [skip] = (await readShortThrows(db, trial!)) as [ShortThrow]
      expect(skip.groundM).equal(4.5)
    } finally {
      await close()
    }
  })
})
