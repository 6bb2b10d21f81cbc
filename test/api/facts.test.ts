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

  it('of the version before is answered in its own words, and what it asks and sends in them is understood', async () => {
    const before = String(WIRE - 1)
    const read = async (path: string, version: string) =>
      (await request(it_.server).get(path).set(WIRE_HEADER, version).expect(200)).body
    const classes = (shelf: { molds: { discClass: string }[] }) =>
      new Set(shelf.molds.map((m) => m.discClass))
    expect([...classes(await read('/api/shelf', before))]).to.include('fairway driver')
    expect([...classes(await read('/api/shelf', String(WIRE)))]).to.include('fairway-driver')
    const found = await read('/api/discs?class=fairway%20driver', before)
    expect(found.total)
      .above(0)
      .equal((await read('/api/discs?class=fairway-driver', String(WIRE))).total)
    const { trial } = await read(`/api/trials/${demoId('trial', 'four')}`, before)
    expect(trial.plan).include({ protocol: 'same release', fixedBy: 'least to most stable' })
    const sent = { ...trial, plan: { ...trial.plan, protocol: 'same line' } }
    const answer = await request(it_.server)
      .put(`/api/trials/${trial.id}`)
      .set(WIRE_HEADER, before)
      .send(sent)
      .expect(200)
    expect(answer.body.plan.protocol).equal('same line')
    expect((await read(`/api/trials/${trial.id}`, String(WIRE))).trial.plan.protocol).equal('same-line')
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

  it('is carried over: words that became ids, wherever they are stored, and free words as they were', async () => {
    const url = await testDatabase()
    const root = new URL(url)
    const name = root.pathname.slice(1)
    root.pathname = '/postgres'
    await once(root.href, `create database ${name}`)
    const earlier = migrationsUpTo('0030_indexes')
    const client = new pg.Client(url)
    await client.connect()
    await migrate(drizzle(client), { migrationsFolder: earlier })
    fs.rmSync(earlier, { recursive: true })
    const [maker, mold, plastic, disc, trial, review, section, errand] = Array.from({ length: 8 }, () =>
      newId(),
    )
    const numbers = JSON.stringify({ speed: 9, glide: 5, turn: -1, fade: 2 })
    const plan = {
      kind: 'short game',
      fixedBy: 'candidate last',
      protocol: 'same line',
      claims: ['same line', 'flies farther than'],
      built: [{ discId: disc, says: 'flies farther than', thanId: null, by: 2 }],
    }
    const body = {
      type: 'doc',
      content: [
        { type: 'paragraph', content: [{ type: 'text', text: 'I said "view": "left out" of it' }] },
        { type: 'live', attrs: { trial, view: 'left out' } },
      ],
    }
    const verdicts = { slot: 'earns a slot', again: null, overlaps: 'earns a slot' }
    await client.query(`
      insert into makers (id, name) values ('${maker}', 'Aldermere');
      insert into molds (id, maker_id, name, disc_class, numbers) values ('${mold}', '${maker}', 'Thistlewick', 'fairway driver', '${numbers}');
      insert into plastics (id, mold_id, name) values ('${plastic}', '${mold}', 'Loam');
      insert into discs (id, code, plastic_id, source, wear, note) values ('${disc}', 'A-1', '${plastic}', 'sent by the maker', 'new', 'sent by the maker');
      insert into errands (id, kind, state) values ('${errand}', 'copy', 'under way');
      insert into disc_events (id, disc_id, day, kind) values ('${newId()}', '${disc}', '2026-05-01', 'not spared');`)
    await client.query(`insert into trials (id, name, hyzer_degs, plan) values ($1, 'Old', '{0}', $2)`, [
      trial,
      plan,
    ])
    await client.query(`insert into trial_discs (trial_id, disc_id, place) values ($1, $2, 0)`, [trial, disc])
    await client.query(`insert into reviews (id, title, trial_ids) values ($1, 'Old', array[$2]::uuid[])`, [
      review,
      trial,
    ])
    await client.query(
      `insert into review_sections (id, review_id, kind, place, title, body, verdicts) values ($1, $2, 'left out', 1, 'Left out', $3, $4)`,
      [section, review, body, verdicts],
    )
    await client.end()

    const { close } = await openDatabase(url)
    await close()
    const now = new pg.Client(url)
    await now.connect()
    const only = async (what: string, of: string) => (await now.query(`select ${what} from ${of}`)).rows[0]
    try {
      expect(await only('disc_class', 'molds')).deep.equal({ disc_class: 'fairway-driver' })
      expect(await only('source, note', 'discs')).deep.equal({
        source: 'sent-by-the-maker',
        note: 'sent by the maker',
      })
      expect(await only('state', 'errands')).deep.equal({ state: 'under-way' })
      expect(await only('kind', 'disc_events')).deep.equal({ kind: 'not-spared' })
      expect((await only('plan', 'trials')).plan).deep.equal({
        ...plan,
        kind: 'short-game',
        fixedBy: 'candidate-last',
        protocol: 'same-line',
        built: [{ ...plan.built[0], says: 'flies-farther-than' }],
      })
      expect(await only('kind, body, verdicts', 'review_sections')).deep.equal({
        kind: 'left-out',
        body: {
          ...body,
          content: [body.content[0], { type: 'live', attrs: { trial, view: 'left-out' } }],
        },
        verdicts: { ...verdicts, slot: 'earns-a-slot' },
      })
    } finally {
      await now.end()
    }
  })
})
