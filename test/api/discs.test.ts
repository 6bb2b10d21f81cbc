import { expect } from 'chai'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { demoId, SHED } from '../../demo/shed.ts'
import { HABIT_SD } from '../../core/rating/evidence.ts'
import { HABIT, OF_HABIT } from '../../core/rating/places.ts'
import { KnownArm } from '../../contract/lab.ts'
import { STABILITY_WORDS } from '../../core/judge/words.ts'
import { DISC_CLASSES, WEAR_STATES } from '../../contract/shelf.ts'
import type { Shelf } from '../../contract/shelf.ts'
import { LikenessRead, SHELF_SORTS, ShelfQuery, sideOfRow, stabilityOf } from '../../contract/shelfPage.ts'
import type { DiscRecord, InspectedDisc, ShelfPage } from '../../contract/shelfPage.ts'
import { shelved, shelvedDiscs } from '../../contract/sheet.ts'
import { stabilityBy } from '../../core/flight/side.ts'
import { pageHere } from '../../web/data/shelfLocal.ts'
import { TrialFile } from '../../contract/trials.ts'
import { wireColumns } from '../../server/store/database.ts'
import { throws } from '../../server/store/schema.ts'
import { ratedDemoServer, rested } from './server.ts'
import type { TestServer } from './server.ts'

describe('the table of the shelf', () => {
  let it_: TestServer
  before(async function () {
    this.timeout(180_000)
    it_ = await ratedDemoServer()
    expect(it_.failures).deep.equal([])
  })
  after(() => it_.stop())
  const api = () => request(it_.server)
  const page = async (query = '') => (await api().get(`/api/discs${query}`).expect(200)).body as ShelfPage
  const codes = async (query = '') => (await page(query)).rows.map((r) => r.disc.code)
  const send = (path: string, body: object) => api().put(path).send(body)

  it('is sorted by maker, mold, plastic and code until told otherwise', async () => {
    const { rows, total, ids, behind } = await page()
    expect(total).equal(SHED.length)
    expect(ids).length(SHED.length)
    expect(behind).equal(false)
    const kin = rows.map((r) => [r.maker.name, r.mold.name, r.plastic.name, r.disc.code].join('|'))
    expect(kin).deep.equal([...kin].sort((a, b) => a.localeCompare(b, 'en')))
  })

  it('finds by words of any kind, and filters by class, plastic, wear and whether it was tested', async () => {
    expect(await codes('?find=tarn+beaten')).deep.equal(['HS-009'])
    expect(await codes('?find=100%25')).deep.equal([])
    expect(await codes('?class=putter&sort=code')).deep.equal(['HS-040', 'HS-041'])
    expect(await codes('?plastic=Flint&sort=code')).deep.equal(['HS-011', 'HS-044'])
    expect(await codes('?wear=worn')).deep.equal(['HS-012'])
    const tested = await codes('?tested=yes')
    const thrown = ['HS-021', 'HS-030', 'HS-017', 'HS-026', 'HS-009', 'HS-002', 'HS-033', 'HS-011', 'HS-014']
    expect(tested).members(thrown)
    expect(await codes('?tested=no')).length(SHED.length - tested.length)
  })

  it('knows what the throws say, near what the discs really are, and filters by it', async () => {
    const { rows } = await page('?tested=yes')
    for (const { disc, rating, throws } of rows) {
      const { truth } = SHED.find((d) => d.code === disc.code)!
      expect(throws).greaterThan(2)
      const { value, sd } = stabilityOf(rating!)
      expect(sd, disc.code).within(0.05, 0.9)
      const label = shelved(rows.find((r) => r.disc.id === disc.id)!).inForce.numbers
      expect(Math.abs(value - stabilityBy(label, truth)) / sd, disc.code).lessThan(3)
    }
    const least = await codes('?tested=yes&sort=stability')
    // where they fly: what each label calls stable is another thing
    const known = new Map(rows.map((r) => [r.disc.code, r.rating!.side]))
    expect(least).deep.equal([...known.keys()].sort((a, b) => known.get(a)! - known.get(b)!))
    expect(least.slice(0, 2)).members(['HS-009', 'HS-026'])
    const { rows: all } = await page('?sort=stability')
    const flies = all.map((r) => sideOfRow(r, shelved(r).inForce.numbers))
    expect(flies).deep.equal([...flies].sort((a, b) => a - b))
    expect(all.some((r) => r.rating === null)).equal(true)
    expect(await codes('?word=very+overstable')).include('HS-033')
    expect(await codes('?word=very+overstable')).not.include('HS-017')
  })

  it('knows by all throws what each arm does besides what is meant, and how surely', async () => {
    const arms = z.array(KnownArm).parse((await api().get('/api/arms').expect(200)).body)
    const thrown = await it_.db
      .select({ id: throws.id })
      .from(throws)
      .where(and(throws.counts, isNull(throws.takenBackAt)))
    expect(arms.reduce((n, a) => n + a.throws, 0)).equal(thrown.length)
    for (const { covariance, scatter, habit } of arms) {
      expect(scatter).within(0.3, 3)
      const hyzerSd = Math.sqrt(covariance[HABIT.hyzer * OF_HABIT + HABIT.hyzer]!)
      expect(hyzerSd).within(1e-4, HABIT_SD[HABIT.hyzer]! + 1e-9)
      expect(Math.abs(habit[HABIT.hyzer]!)).lessThan(4 * HABIT_SD[HABIT.hyzer]!)
    }
  })

  it('is the same whether the server makes it or a device without one, however it is found, filtered and sorted', async () => {
    const known = new Map((await page()).rows.map((r) => [r.disc.id, r]))
    const discs = shelvedDiscs((await api().get('/api/shelf').expect(200)).body as Shelf)
    const sorts = SHELF_SORTS.flatMap((sort) => [`sort=${sort}`, `sort=${sort}&down=1`])
    const filters = [
      ...['find=loam', 'find=eskwright+fairway', 'find=%25', 'plastic=Loam', 'removed=1', 'age=30'],
      ...['tested=yes', 'tested=no', ...DISC_CLASSES.map((c) => `class=${encodeURIComponent(c)}`)],
      ...[
        ...WEAR_STATES.map((w) => `wear=${w}`),
        ...STABILITY_WORDS.map((w) => `word=${encodeURIComponent(w)}`),
      ],
    ]
    let found = 0
    for (const query of [...sorts, ...filters]) {
      const there = await page(`?${query}`)
      const here = pageHere(
        discs,
        known,
        ShelfQuery.parse(Object.fromEntries(new URLSearchParams(query))),
        Date.now(),
      )
      expect(here.ids, query).deep.equal(there.ids)
      expect(here.rows, query).deep.equal(there.rows)
      expect([here.total, here.removed, here.plastics]).deep.equal([
        there.total,
        there.removed,
        there.plastics,
      ])
      found += here.total
    }
    expect(found).greaterThan(SHED.length * sorts.length)
  })

  it('is rated while writes go on and on', async () => {
    const [one] = await it_.db.select().from(throws).where(eq(throws.counts, true)).limit(1)
    const rated = async () => JSON.stringify((await page()).rows.map((r) => r.rating))
    const before = await rated()
    await it_.db
      .update(throws)
      .set({ carryM: one!.carryM + 1 })
      .where(eq(throws.id, one!.id))
    while ((await rated()) === before) {
      await it_.works.shelf.everything()
      await new Promise((r) => setTimeout(r, 100))
    }
    await it_.db.update(throws).set({ carryM: one!.carryM }).where(eq(throws.id, one!.id))
    await it_.works.shelf.everything()
    await rested(it_)
  })

  it('follows a throw as a full rating agrees, and goes back when it is taken back', async () => {
    const ratingsNow = async () => {
      await rested(it_)
      return new Map((await page()).rows.map((r) => [r.disc.code, r.rating]))
    }
    const before = await ratingsNow()
    const [one] = await it_.db
      .select(wireColumns(throws))
      .from(throws)
      .where(eq(throws.counts, true))
      .limit(1)
    const code = SHED.find((d) => demoId('disc', d.code) === one!.discId)!.code
    const thrown = { ...one!, id: newId(), rightM: one!.rightM - 12, path: null, version: 0 }
    const put = async (row: object) => {
      const { body } = await send(`/api/throws/${thrown.id}`, row).expect(200)
      const now = await ratingsNow()
      return { body: body as { version: number }, now }
    }
    const { body, now } = await put(thrown)
    const of = (ratings: typeof before) => ratings.get(code)!
    const apart = Math.abs(of(now).stability - of(before).stability) / of(before).stabilitySd
    expect(apart).greaterThan(0.05)
    await it_.works.shelf.everything()
    const anew = await ratingsNow()
    const off = (key: 'stability' | 'glide' | 'side') => of(now)[key] - of(anew)[key]
    expect(Math.abs(off('stability'))).lessThan(0.15 * of(anew).stabilitySd)
    expect(Math.abs(off('side'))).lessThan(0.15 * of(anew).sideSd)
    expect(of(now).stabilitySd).closeTo(of(anew).stabilitySd, 0.1 * of(anew).stabilitySd)
    // weighed with everything by now: taking it back has everything weighed again
    await send(`/api/throws/${thrown.id}`, {
      ...thrown,
      ...body,
      takenBackAt: new Date().toISOString(),
    }).expect(200)
    const back = await ratingsNow()
    expect(of(back).stability).closeTo(of(before).stability, 0.1 * of(before).stabilitySd)
    // and one that was not
    const other = { ...thrown, id: newId() }
    const stored = await send(`/api/throws/${other.id}`, other).expect(200)
    const with_ = await ratingsNow()
    expect(of(with_).stability).closeTo(of(now).stability, 0.1 * of(now).stabilitySd)
    await send(`/api/throws/${other.id}`, {
      ...other,
      ...(stored.body as object),
      takenBackAt: new Date().toISOString(),
    }).expect(200)
    expect(of(await ratingsNow())).deep.equal(of(back))
    expect(it_.failures).deep.equal([])
  })

  it('is rated again once its database is back', async () => {
    const [one] = await it_.db.select().from(throws).where(eq(throws.counts, true)).limit(1)
    await it_.db
      .update(throws)
      .set({ carryM: one!.carryM + 1 })
      .where(eq(throws.id, one!.id))
    await it_.db.execute(sql`alter table ratings rename to ratings_away`)
    await it_.works.shelf.everything()
    while (it_.failures.length === 0) await new Promise((r) => setTimeout(r, 50))
    expect(await it_.works.shelf.behind()).equal(true)
    await it_.db.execute(sql`alter table ratings_away rename to ratings`)
    await rested(it_)
    it_.failures.length = 0
    await it_.db.update(throws).set({ carryM: one!.carryM }).where(eq(throws.id, one!.id))
    await it_.works.shelf.everything()
    await rested(it_)
    expect(it_.failures).deep.equal([])
  })

  it('is rated without a throw that no arithmetic holds, which it names', async () => {
    const before = (await page()).rows.map((r) => [r.disc.code, r.rating !== null])
    // as one may have been stored before recordings had ranges
    const [spoiled] = await it_.db
      .select({ id: throws.id, trialId: throws.trialId, discId: throws.discId })
      .from(throws)
      .where(eq(throws.counts, true))
      .limit(1)
    const path = { timeS: [], downM: [1, 20, 40, 60], rightM: [0, 1e308, -1e308, 2], upM: [] }
    await it_.db.update(throws).set({ path }).where(eq(throws.id, spoiled!.id))
    await it_.works.shelf.everything()
    await rested(it_)
    expect(it_.failures).deep.equal([])
    const { rows, notWeighed } = await page()
    expect(notWeighed).length(1)
    expect(notWeighed[0]).include({
      throwId: spoiled!.id,
      trialId: spoiled!.trialId,
      discId: spoiled!.discId,
    })
    expect(notWeighed[0]!.why).equal('its recorded path has a value as large as 1e+308')
    expect(rows.map((r) => [r.disc.code, r.rating !== null])).deep.equal(before)
    // its trial can be read, and the throw put right
    const { body } = await api().get(`/api/trials/${spoiled!.trialId}`).expect(200)
    const row = TrialFile.parse(body).throws.find((t) => t.id === spoiled!.id)!
    await api()
      .put(`/api/throws/${row.id}`)
      .send({ ...row, path: null })
      .expect(200)
    await rested(it_)
    expect((await page()).notWeighed).deep.equal([])
  })

  it('sorts by weight, wear and when last thrown, unknown ones last', async () => {
    const { rows } = await page('?sort=weight&down=1')
    const grams = rows.map((r) => r.disc.weighedG ?? r.disc.markedG!)
    expect(grams).deep.equal([...grams].sort((a, b) => b - a))
    expect((await codes('?sort=wear&down=1'))[0]).equal('HS-009')
    const last = (await page('?sort=last&down=1')).rows.map((r) => r.lastThrownAt)
    expect(last[0]).match(/^2026-11-15/)
    expect(last[last.length - 1]).equal(null)
  })

  it('refuses a filter nobody knows, by name', async () => {
    const refused = await api().get('/api/discs?wear=shiny&age=31').expect(422)
    expect(refused.body.errors.map((e: { path: string }) => e.path)).members(['wear', 'age'])
  })

  it('stores an edit of several discs in one go or not at all', async () => {
    const { rows } = await page('?plastic=Flint')
    const [a, b] = rows.map((r) => r.disc) as [
      ShelfPage['rows'][number]['disc'],
      ShelfPage['rows'][number]['disc'],
    ]
    const edit = (discs: object[]) => {
      const id = newId()
      return send(`/api/shelf-edits/${id}`, { id, discs })
    }
    await edit([
      { ...a, wear: 'worn' },
      { ...b, code: 'HS-021' },
    ]).expect(409)
    expect(await codes('?plastic=Flint&wear=worn')).deep.equal([])
    await edit([
      { ...a, wear: 'worn' },
      { ...b, wear: 'worn' },
    ]).expect(200)
    expect(await codes('?plastic=Flint&wear=worn')).length(2)
    await edit([a, b]).expect(200)
    expect(await codes('?plastic=Flint&wear=worn')).deep.equal([])
  })

  it('goes out as a file and comes back the same; a file with errors stores nothing', async () => {
    const csv = (await api().get('/api/discs.csv').expect(200)).text
    const bring = (text: string, store = false) =>
      api()
        .post(`/api/discs/import${store ? '?store=1' : ''}`)
        .set('content-type', 'text/csv')
        .send(text)
    expect((await bring(csv).expect(200)).body).deep.include({
      discs: SHED.length,
      added: [],
      changed: [],
      unchanged: SHED.length,
      renumbered: [],
    })
    const more = csv.replace('176.2', '176.4') + 'HS-090,Eskwright,Tarnwick,,Slate\r\n'
    expect((await bring(more, true).expect(200)).body).deep.include({
      added: ['HS-090'],
      changed: ['HS-002'],
      stored: true,
    })
    expect(await codes('?find=HS-090')).deep.equal(['HS-090'])
    const bad =
      'code,maker,mold,plastic,marked_g\nHS-091,Eskwright,Tarnwick,Slate,heavy\nHS-091,Eskwright,,Slate,\nHS-092,Nowhere,Unmet,Loam,\n'
    const refused = await bring(bad, true).expect(422)
    const said = refused.body.errors.map((e: { row: number; path: string }) => `${e.row} ${e.path}`)
    expect(said).members(['2 marked_g', '3 mold', '3 code'])
    const unknown = await bring('code,maker,mold,plastic\nHS-092,Nowhere,Unmet,Loam\n', true).expect(422)
    expect(unknown.body.errors[0].message).match(/a new one needs its class/)
    expect(await codes('?find=HS-09')).deep.equal(['HS-090'])
  })

  it('turns a page of two thousand discs', async function () {
    this.timeout(180_000)
    const [first] = (await page('?find=HS-040')).rows
    for (let k = 0; k < 4; k++) {
      const id = newId()
      const discs = Array.from({ length: 500 }, (_, i) => ({
        ...first!.disc,
        id: newId(),
        code: `XL-${k}-${i}`,
      }))
      await api().put(`/api/shelf-edits/${id}`).send({ id, discs }).expect(200)
    }
    const { rows, total } = await page('?find=XL&sort=code&page=20')
    expect(total).equal(2000)
    expect(rows).length(60)
    expect(await codes('?find=XL&page=40')).deep.equal([])
  })

  it('has a page for a disc: re-tests day by day, likest discs, wear, trials', async () => {
    const id = demoId('disc', 'HS-017')
    const read = async () => (await api().get(`/api/discs/${id}/record`).expect(200)).body as DiscRecord
    let record = await read()
    while (record.weighing) {
      // what takes a while does not keep the page waiting
      expect(record.trials).length(2)
      expect(record.wear.foretold).equal(null)
      await new Promise((r) => setTimeout(r, 100))
      record = await read()
    }
    expect(record.tests.map((t) => t.day)).deep.equal(['2026-10-04', '2026-11-15'])
    expect(record.trials.map((t) => t.name)).members([
      'Tarnwick in four plastics',
      'Which fairway for the lake wind',
    ])
    const { spread, most, least } = record.likeness!
    expect(spread.pathM).within(1, 15)
    expect(most.map((m) => m.distanceM)).deep.equal(most.map((m) => m.distanceM).sort((x, y) => x - y))
    expect(least[0]!.distanceM).greaterThan(most[0]!.distanceM)
    for (const m of most) expect(m.overlaps).equal(m.sameShape && m.sameDistance)
    expect(record.wear.throws).greaterThan(60)
    const { nextHundred, halfLess, tests, pace } = record.wear.foretold!
    expect(tests.blend).greaterThan(2)
    expect(tests.kind).at.least(tests.blend)
    expect(nextHundred.value).lessThan(0)
    expect(pace.low).lessThan(pace.middle)
    expect(halfLess.likely ?? 1e9).greaterThan(halfLess.earliest!)
    await api().get(`/api/discs/${newId()}/record`).expect(404)
  })

  it('keeps inspections, and refuses what cannot be measured', async () => {
    const id = newId()
    const discId = demoId('disc', 'HS-034')
    const row = {
      id,
      discId,
      day: '2026-11-20',
      diameterMm: 211,
      heightMm: 16,
      rimDepthMm: 12,
      rimWidthMm: 18.5,
      partingLineMm: 7.4,
      domeMm: null,
      noseDeg: null,
      warpMm: null,
      bead: false,
      edge: 1,
      stiffness: 3,
      grip: 2,
      temperatureC: 6,
      note: '',
    }
    await send(`/api/inspections/${id}`, row).expect(200)
    await send(`/api/inspections/${id}`, row).expect(200)
    const all = (await api().get('/api/inspections').expect(200)).body as InspectedDisc[]
    expect(all.filter((i) => i.inspection.discId === discId)).length(1)
    const refused = await send(`/api/inspections/${id}`, { ...row, rimWidthMm: 50, edge: 7 }).expect(422)
    expect(refused.body.errors.map((e: { path: string }) => e.path)).members(['rimWidthMm', 'edge'])
    await send(`/api/inspections/${id}`, { ...row, discId: newId() }).expect(409)
  })

  it('keeps a photo, refuses what is none, and lets it go', async () => {
    const id = demoId('disc', 'HS-021')
    const path = `/api/discs/${id}/photo`
    const bytes = Buffer.from('not really a picture, but bytes')
    const put = (photo: { kind: string; base64: string } | null) => send(`/api/photos/${id}`, { id, photo })
    await put({ kind: 'image/jpeg', base64: bytes.toString('base64') }).expect(200)
    const got = await api().get(path).expect(200)
    expect(got.type).equal('image/jpeg')
    expect(Buffer.from(got.body as Buffer).equals(bytes)).equal(true)
    const none = await put({ kind: 'text/html', base64: bytes.toString('base64') }).expect(422)
    expect(none.body.detail).match(/must be one of image\/jpeg/)
    await put({ kind: 'image/png', base64: 'not base64!' }).expect(422)
    const huge = await put({
      kind: 'image/png',
      base64: Buffer.alloc(2_000_001).toString('base64'),
    }).expect(422)
    expect(huge.body.detail).match(/at most 2 MB/)
    await put(null).expect(200)
    await api().get(path).expect(404)
  })

  it('says what of the shelf flies like a disc at any arm', async () => {
    const id = demoId('disc', 'HS-017')
    const at = async (arm: string) => {
      for (;;) {
        const said = await api().get(`/api/discs/${id}/likeness${arm}`).expect(200)
        const { weighing, likeness } = LikenessRead.parse(said.body)
        if (!weighing) return likeness!
        await new Promise((r) => setTimeout(r, 100))
      }
    }
    const [slow, fast] = [await at('?arm=18'), await at('?arm=30')]
    expect([slow.armMps, fast.armMps]).deep.equal([18, 30])
    // the same discs part farther the harder they are thrown
    expect(fast.most.at(-1)!.distanceM).greaterThan(slow.most.at(-1)!.distanceM)
    expect((await at('')).armMps).within(18, 31)
    await api().get(`/api/discs/${id}/likeness?arm=900`).expect(422)
    await api().get(`/api/discs/${id}/likeness?arm=fast`).expect(422)
    await api().get(`/api/discs/${newId()}/likeness`).expect(404)
  })

  it('keeps a wear log, and counts it', async () => {
    const id = newId()
    const discId = demoId('disc', 'HS-021')
    const worn = async () => ((await api().get(`/api/discs/${discId}/record`)).body as DiscRecord).wear
    const before = await worn()
    const note = {
      id,
      discId,
      day: '2026-11-20',
      throws: 40,
      hardHits: 2,
      note: 'a round in the wood',
      removedAt: null,
    }
    await send(`/api/wear-notes/${id}`, note).expect(200)
    expect(await worn()).deep.include({ throws: before.throws + 40, hardHits: before.hardHits + 2 })
    await send(`/api/wear-notes/${id}`, { ...note, removedAt: '2026-11-20T10:00:00.000Z' }).expect(200)
    expect((await worn()).throws).equal(before.throws)
    await send(`/api/wear-notes/${id}`, { ...note, throws: -1 }).expect(422)
  })
})
