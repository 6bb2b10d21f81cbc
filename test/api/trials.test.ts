import { expect } from 'chai'
import { sideOf } from '../../core/flight/side.ts'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { harrowmere } from '../../demo/harrowmere.ts'
import { ownThrows } from '../../demo/away.ts'
import { loadDemoIfEmpty, resetToDemo } from '../../demo/load.ts'
import { readThrowsCsv } from '../../core/formats/throwsCsv.ts'
import { fit } from '../../core/rating/fit.ts'
import { evidenceOf } from '../../core/rating/fromSheet.ts'
import { outcomeOf } from '../../core/rating/outcome.ts'
import { KnownThrows, WornDiscs, Plan } from '../../contract/trials.ts'
import type { Shelf } from '../../contract/shelf.ts'
import type { TrialCard } from '../../contract/cards.ts'
import type { Problem } from '../../contract/problems.ts'
import { TrialFile } from '../../contract/trials.ts'
import type { Throw, TrialSummary } from '../../contract/trials.ts'
import type { ImportPreview } from '../../contract/imports.ts'
import { SHED } from '../../demo/shed.ts'
import { demoId } from '../../demo/shed.ts'
import { demoServer, testServer } from './server.ts'
import type { TestServer } from './server.ts'

const demo = harrowmere()
const trialOf = (key: string) => demo.trials.find((t) => t.id === demoId('trial', key))!
const [finished, halfDone, fresh] = [trialOf('four'), trialOf('fairways'), trialOf('putters')]
const template = demo.throws.find((t) => t.trialId === finished.id)!

describe('trials and throws', () => {
  let it_: TestServer
  before(async () => {
    it_ = await demoServer()
  })
  after(() => it_.stop())
  const api = () => request(it_.server)
  const file = async (id: string) => (await api().get(`/api/trials/${id}`).expect(200)).body as TrialFile
  const sample = (change: Partial<Throw> = {}): Throw => ({
    ...template,
    id: newId(),
    version: 0,
    ...change,
  })
  const put = (row: Throw) => api().put(`/api/throws/${row.id}`).send(row)

  it('has a bench: trials that are finished, one half done, one not begun', async () => {
    const trials = (await api().get('/api/trials').expect(200)).body as TrialSummary[]
    const of = (id: string) => trials.find((t) => t.trial.id === id)!
    expect(of(finished.id)).include({ counted: 68, leftOut: 4 })
    expect(of(finished.id).trial.finishedAt).not.equal(null)
    expect(of(halfDone.id).counted).within(15, 24)
    expect(of(fresh.id).counted).equal(0)
  })

  it('stores a throw as it was sent, once however often it is sent', async () => {
    const row = sample({ trialId: halfDone.id, discId: halfDone.discIds[0]!, notes: { sky: 'low cloud' } })
    await put(row).expect(200)
    await put(row).expect(200)
    const stored = (await file(halfDone.id)).throws.filter((t) => t.id === row.id)
    expect(stored).length(1)
    expect(stored[0]).include({
      carryM: row.carryM,
      rightM: row.rightM,
      thrownAt: row.thrownAt,
      takenBackAt: null,
    })
    expect(stored[0]!.notes).deep.equal({ sky: 'low cloud' })
  })

  it('takes a throw back without erasing it, and restores it', async () => {
    const row = sample()
    const away = { ...row, takenBackAt: '2026-10-04T11:00:00.000Z' }
    const taken = (await put(away).expect(200)).body as Throw
    expect(taken.version).equal(1)
    expect((await file(finished.id)).throws.find((t) => t.id === row.id)!.takenBackAt).equal(
      '2026-10-04T11:00:00.000Z',
    )
    const tally = async () =>
      ((await api().get('/api/trials')).body as TrialSummary[]).find((t) => t.trial.id === finished.id)!
        .counted
    const before = await tally()
    const back = (await put({ ...row, version: 1 }).expect(200)).body as Throw
    expect(await tally()).equal(before + 1)
    // the same restoration sent again is the same; the taking back, made from a version long gone, is refused
    expect((await put({ ...row, version: 1 }).expect(200)).body).deep.equal(back)
    const refused = await put({ ...away, version: 1 }).expect(409)
    expect(refused.body.stored).include({ id: row.id, version: 2, takenBackAt: null })
    await put({ ...row, takenBackAt: row.thrownAt, version: 2 }).expect(200)
  })

  for (const [what, change, sentence] of [
    ['a hyzer of 200°', { hyzerDeg: 200 }, /^The release angle is 200; it must lie between −80 and 80°/],
    [
      'a landing behind the thrower',
      { carryM: -5 },
      /^The landing down the line is −5; it must lie between 0\.5 and 300 m/,
    ],
    [
      'a wind of 90 m/s',
      { windAlongMps: 90 },
      /^The wind along the line is 90; it must lie between −25 and 25 m\/s/,
    ],
    [
      'a bend beyond the landing',
      { midDownM: 150, midRightM: 0, carryM: 90 },
      /^The bend down the line must lie short of the landing/,
    ],
    ['half a bend', { midDownM: 40, midRightM: null }, /^The bend off the line must be given/],
    ['an unknown disc', { discId: newId() }, /^The disc is not in this trial/],
    ['a disc of another trial', { discId: fresh.discIds[0]! }, /^The disc is not in this trial/],
    ['an unknown thrower', { throwerId: newId() }, /^The thrower is not known here/],
    ['an unknown session', { sessionId: newId() }, /^The outing is not known here/],
  ] as const) {
    it(`refuses ${what} with a sentence, and stores nothing`, async () => {
      const row = sample(change as Partial<Throw>)
      const refused = await put(row)
      expect(refused.status).within(409, 422)
      expect(refused.body.detail).match(sentence)
      expect((await file(finished.id)).throws.some((t) => t.id === row.id)).equal(false)
    })
  }

  it('will not drop a thrown disc from its trial', async () => {
    const discIds = halfDone.discIds.slice(1)
    const refused = await api()
      .put(`/api/trials/${halfDone.id}`)
      .send({ ...halfDone, discIds })
    expect(refused.status).equal(409)
    expect((await file(halfDone.id)).trial.discIds).deep.equal(halfDone.discIds)
  })

  it('keeps a plan, and locks what was expected at the first throw', async () => {
    const [a, b] = fresh.discIds as [string, string]
    const plan = Plan.parse({
      kind: 'molds',
      throws: [{ discId: a, hyzerDeg: 0, leg: 'out', round: 0 }],
      order: 'shuffled',
      seed: 7,
      power: 1,
      windMps: 2,
      convention: 'fresh',
      protocol: 'same-release',
      expected: [a, b],
      claims: ['flies farther'],
      built: [{ discId: a, says: 'flies-farther-than', thanId: b, by: 2 }],
    })
    const trial = { ...fresh, id: newId(), name: 'Planned', plan }
    const send = (change: Partial<Plan>) =>
      api()
        .put(`/api/trials/${trial.id}`)
        .send({ ...trial, plan: { ...plan, ...change } })
    await send({}).expect(200)
    expect((await file(trial.id)).trial.plan).deep.equal(plan)
    await send({ expected: [b, a] }).expect(200)
    const stray = await send({ expected: [newId()] }).expect(422)
    expect(JSON.stringify(stray.body)).match(/discs of the trial only/)
    const thrown = sample({ trialId: trial.id, discId: a, takenBackAt: '2026-10-04T12:40:00.000Z' })
    await put(thrown).expect(200)
    const late = await send({ expected: [a, b] }).expect(409)
    expect(late.body)
      .property('detail')
      .match(/locked since the first throw/)
    await api()
      .put(`/api/trials/${trial.id}`)
      .send({ ...trial, plan: null })
      .expect(409)
    await send({ expected: [b, a], built: [] }).expect(409)
    // the rest of the plan may still change
    await send({ expected: [b, a], seed: 8 }).expect(200)
    expect((await file(trial.id)).trial.plan).include({ seed: 8 })
  })

  it('wants the control disc to be one of the trial’s', async () => {
    const outsider = demo.discs.find((d) => !fresh.discIds.includes(d.id))!.id
    const refused = await api()
      .put(`/api/trials/${fresh.id}`)
      .send({ ...fresh, controlDiscId: outsider })
      .expect(422)
    expect(refused.body.detail).match(/^The control disc must be one of the discs/)
  })

  it('keeps what each trial says for its card, and has none of a trial whose card is behind', async () => {
    const cards = async () =>
      (await api().get(`/api/cards?trials=${finished.id},${halfDone.id},${fresh.id}`).expect(200))
        .body as TrialCard[]
    const both = async () => {
      for (;;) {
        const now = await cards()
        if (now.length === 2) return new Map(now.map((c) => [c.trialId, c]))
        await new Promise((r) => setTimeout(r, 50))
      }
    }
    const before = (await both()).get(halfDone.id)!
    expect(before.flights).length(halfDone.discIds.length)
    expect(before.flights.every((f) => f.path.length > 20 && f.name !== '')).equal(true)
    expect(before.sentences).length(2)
    expect(before.sentences[0]!.text).match(/not settled|more stable/)
    const row = sample({ trialId: halfDone.id, discId: halfDone.discIds[0]!, carryM: 71 })
    await put(row).expect(200)
    expect((await cards()).map((c) => c.trialId)).deep.equal([finished.id])
    const after = (await both()).get(halfDone.id)!
    expect(after.flights).not.deep.equal(before.flights)
    // the numbers of a mold are behind every trial of its discs
    const { molds } = (await api().get('/api/shelf')).body as Shelf
    const [mold] = molds
    await api().put(`/api/molds/${mold!.id}`).send(mold).expect(200)
    while ((await cards()).length > 0) await new Promise((r) => setTimeout(r, 20))
    expect((await both()).get(halfDone.id)).deep.equal(after)
    const many = Array.from({ length: 121 }, () => newId()).join()
    await api().get(`/api/cards?trials=${many}`).expect(422)
    expect(it_.failures).deep.equal([])
  })

  it('keeps units and theme per user', async () => {
    const [a, b] = [newId(), newId()]
    await api().put(`/api/preferences/${a}`).send({ id: a, units: 'imperial', theme: 'sun' }).expect(200)
    expect((await api().get(`/api/preferences/${a}`)).body).include({ units: 'imperial', theme: 'sun' })
    expect((await api().get(`/api/preferences/${b}`)).body).include({ units: 'metric', theme: 'day' })
  })
})

describe('CSV of a trial', () => {
  let it_: TestServer
  beforeEach(async () => {
    it_ = await demoServer()
  })
  afterEach(() => it_.stop())
  const csvOf = async (id: string) =>
    (await request(it_.server).get(`/api/trials/${id}/throws.csv`).expect(200)).text
  const send = (id: string, csv: string, store: boolean) =>
    request(it_.server)
      .post(`/api/trials/${id}/import?method=ranged&place=Millpond%20meadow${store ? '&store=1' : ''}`)
      .set('content-type', 'text/csv')
      .send(csv)
  const fileOf = async (id: string) => (await request(it_.server).get(`/api/trials/${id}`)).body as TrialFile
  const throwsIn = async (id: string) => (await fileOf(id)).throws.length

  it('comes back as it went out: export, import into another trial, export again', async () => {
    const out = await csvOf(finished.id)
    const preview = (await send(fresh.id, out, false).expect(200)).body as ImportPreview
    expect(preview).include({ throws: 72, leftOut: 4, again: 0, stored: false })
    expect(preview.newDiscs).deep.equal([])
    expect(preview.differences).deep.equal([])
    expect(await throwsIn(fresh.id)).equal(0)
    await send(fresh.id, out, true).expect(200)
    const [first, second] = [readThrowsCsv(out), readThrowsCsv(await csvOf(fresh.id))]
    if (!first.ok || !second.ok) throw new Error('export does not read back')
    expect(second.throws).deep.equal(first.throws)
  })

  it('writes a file read twice only once', async () => {
    const out = await csvOf(halfDone.id)
    await send(fresh.id, out, true).expect(200)
    const stored = await throwsIn(fresh.id)
    const again = (await send(fresh.id, out, true).expect(200)).body as ImportPreview
    expect(again.again).equal(again.throws)
    expect(await throwsIn(fresh.id)).equal(stored)
  })

  it('knows its own throws again: an export read into the trial it came from changes nothing', async () => {
    const before = await fileOf(halfDone.id)
    const out = await csvOf(halfDone.id)
    const preview = (await send(halfDone.id, out, false).expect(200)).body as ImportPreview
    expect(preview.again).equal(preview.throws)
    await send(halfDone.id, out, true).expect(200)
    const after = await fileOf(halfDone.id)
    const content = (f: TrialFile) =>
      new Map(f.throws.map(({ version: _, ...t }) => [t.id, { ...t, thrownAt: Date.parse(t.thrownAt) }]))
    expect(content(after)).deep.equal(content(before))
    expect(after.sessions).deep.equal(before.sessions)
    expect(await csvOf(halfDone.id)).equal(out)
  })

  it('adds discs and throwers the file describes, and says where the shelf knows better', async () => {
    const header =
      'throw,thrower,hand,stroke,disc,maker,mold,plastic,speed,glide,turn,fade,weight_g,hyzer_deg,carry_m,right_m,sky'
    const rows = [
      'a,Ivo Sand,left,backhand,ZZ-1,Newmaker,Newmold,Clay,7,5,-1,2,170,0,80,4,grey',
      'b,Odile Fenn,right,backhand,HS-017,,,,9,5,-3,2,150,0,90,-4,grey',
    ]
    const preview = (await send(fresh.id, [header, ...rows].join('\n'), true).expect(200))
      .body as ImportPreview
    expect(preview.newDiscs).deep.equal(['ZZ-1'])
    expect(preview.newThrowers).deep.equal(['Ivo Sand'])
    expect(preview.noteColumns).deep.equal(['sky'])
    expect(preview.differences).length(2)
    const { throws } = (await request(it_.server).get(`/api/trials/${fresh.id}`)).body as TrialFile
    expect(throws.map((t) => t.notes)).deep.equal([{ sky: 'grey' }, { sky: 'grey' }])
  })

  it('makes a trial of a file: its discs, its thrower, what it asks, all previewed first', async () => {
    const api = () => request(it_.server)
    const own = newId()
    const rows = [10, 0, -8].flatMap((deg) => [
      `Isolde,right,backhand,Flint A,9,5,-1,2,${deg},88,${-9 - deg}`,
      `Isolde,right,backhand,Flint B,9,5,-2,1,${deg},93,${6 - deg}`,
    ])
    const csv = ['thrower,hand,stroke,disc,speed,glide,turn,fade,hyzer_deg,carry_m,right_m', ...rows].join(
      '\n',
    )
    const send = (query: string) =>
      api().post(`/api/trials/${own}/import?${query}`).set('content-type', 'text/csv').send(csv)
    // without a name there is no such trial
    await send('method=paced').expect(404)
    const preview = (await send('method=paced&name=Last%20year').expect(200)).body as ImportPreview
    expect(preview).include({ throws: 6, stored: false, asks: 'molds' })
    expect(preview.newDiscs).deep.equal(['Flint A', 'Flint B'])
    await api().get(`/api/trials/${own}`).expect(404)
    await send('method=paced&name=Last%20year&question=Which%20one%3F&store=1').expect(200)
    const { trial, throws } = (await api().get(`/api/trials/${own}`)).body as TrialFile
    expect(trial).include({
      name: 'Last year',
      question: 'Which one?',
      plannedThrows: 6,
      controlDiscId: null,
    })
    expect(trial.hyzerDegs).deep.equal([10, 0, -8])
    expect(trial.discIds).length(2)
    expect(throws).length(6)
    const shelf = (await api().get('/api/shelf')).body as Shelf
    expect(shelf.molds.map((m) => m.name)).include.members(['Flint A', 'Flint B'])
    // the same file read again into the same trial changes nothing
    const again = (await send('method=paced&name=Last%20year&store=1').expect(200)).body as ImportPreview
    expect(again.again).equal(6)
  })

  it('stores nothing of a file with errors, and lists them all', async () => {
    const lines = (await csvOf(finished.id)).trim().split('\r\n')
    const spoil = (i: number, from: RegExp, to: string) => (lines[i] = lines[i]!.replace(from, to))
    spoil(3, /,right,|,left,/, ',rihgt,')
    spoil(5, /backhand/, 'sidearm')
    const refused = await send(fresh.id, lines.join('\n'), true).expect(422)
    expect(refused.body.errors.map((e: { row: number; path: string }) => [e.row, e.path])).deep.equal([
      [4, 'hand'],
      [6, 'stroke'],
    ])
    expect(refused.body.detail).match(/Nothing of the file was stored/)
    expect(await throwsIn(fresh.id)).equal(0)
    const unknown = await send(
      fresh.id,
      'thrower,hand,stroke,disc,speed,glide,turn,fade,hyzer_deg,carry_m,right_m\nO,right,backhand,QQ-9,9,5,-1,2,0,90,1',
      true,
    ).expect(422)
    expect(unknown.body.errors[0].message).match(/QQ-9 is not on the shelf/)
  })

  it('refuses what is told wrongly with a file instead of dropping it', async () => {
    const told = async (query: Record<string, string>) =>
      (
        await request(it_.server)
          .post(`/api/trials/${finished.id}/import?${new URLSearchParams(query)}`)
          .type('text/csv')
          .send('thrower')
          .expect(422)
      ).body as Problem
    expect((await told({ method: 'guessed' })).detail).contain('must be one of eye, paced, ranged, taped')
    expect((await told({ zone: 'Mars/Olympus' })).detail).contain('must be a time zone')
    expect((await told({ place: 'x'.repeat(121) })).detail).contain('at most 120 characters')
    expect((await told({ question: 'x'.repeat(501) })).detail).contain('at most 500 characters')
    expect((await told({ store: 'yes' })).detail).contain('must be 1 to store')
  })

  it('refuses 50 MB and goes on serving', async () => {
    const refused = await send(fresh.id, 'x'.repeat(50_000_000), true).then(
      (r) => r.status,
      // the server may hang up on the sender before it has sent all
      (e: { code?: string }) => e.code,
    )
    expect(refused).oneOf([413, 'EPIPE', 'ECONNRESET'])
    await request(it_.server).get('/api/health').expect(200)
    expect(await throwsIn(fresh.id)).equal(0)
  })
})

describe('the demo', () => {
  let it_: TestServer
  before(async () => void (it_ = await testServer()))
  after(() => it_.stop())

  it('is the same every time, with discs, molds and volunteers of every kind', () => {
    expect(harrowmere()).deep.equal(demo)
    expect(demo.discs.length).least(12)
    expect(demo.molds).length(5)
    expect(demo.throwers.map((t) => t.hand)).include('left')
    expect(Math.min(...demo.throwers.map((t) => t.backhandMps!))).lessThan(22)
  })

  it('loads into an empty database only, and resets to itself', async () => {
    expect(await loadDemoIfEmpty(it_.db)).equal(true)
    expect(await loadDemoIfEmpty(it_.db)).equal(false)
    expect(await ownThrows(it_.db)).equal(0)
    const extra = { ...template, id: newId() }
    await request(it_.server).put(`/api/throws/${extra.id}`).send(extra).expect(200)
    expect(await ownThrows(it_.db)).equal(1)
    await resetToDemo(it_.db)
    expect(await ownThrows(it_.db)).equal(0)
  })

  it('knows what other trials threw of the same discs, with their outings, and nothing that does not count', async () => {
    const read = async (id: string) =>
      KnownThrows.parse((await request(it_.server).get(`/api/trials/${id}/known`).expect(200)).body)
    const known = await read(halfDone.id)
    const expected = demo.throws.filter(
      (t) => t.trialId !== halfDone.id && t.counts && t.takenBackAt === null,
    )
    expect(known.throws.map((t) => t.id)).members(expected.map((t) => t.id))
    expect(new Set(known.throws.map((t) => t.sessionId))).deep.equal(new Set(known.sessions.map((s) => s.id)))
    const times = known.throws.map((t) => Date.parse(t.thrownAt))
    expect(times).deep.equal([...times].sort((a, b) => a - b))
    // nothing of its own is told twice
    expect((await read(fresh.id)).throws.some((t) => t.trialId === fresh.id)).equal(false)
    await request(it_.server).get(`/api/trials/${newId()}/known`).expect(404)
  })

  it('counts what its discs had been through before a trial: throws of earlier days, and what was noted by then', async () => {
    const read = async (id: string) =>
      new Map(
        WornDiscs.parse((await request(it_.server).get(`/api/trials/${id}/worn`).expect(200)).body).map(
          (d) => [d.discId, d.throws],
        ),
      )
    for (const trial of [finished, halfDone]) {
      const days = new Map(demo.sessions.map((s) => [s.id, s.day]))
      const began = demo.throws
        .filter((t) => t.trialId === trial.id)
        .map((t) => days.get(t.sessionId)!)
        .sort()[0]!
      const worn = await read(trial.id)
      expect([...worn.keys()]).members(trial.discIds)
      for (const [disc, throws] of worn) {
        const logged = demo.throws.filter(
          (t) => t.discId === disc && t.takenBackAt === null && days.get(t.sessionId)! < began,
        )
        const noted = demo.wearNotes.filter((n) => n.discId === disc && n.day <= began)
        expect(throws).equal(logged.length + noted.reduce((n, w) => n + w.throws, 0))
      }
    }
    await request(it_.server).get(`/api/trials/${newId()}/worn`).expect(404)
  })

  it('comes with what its discs had been through by each outing, which a later note changes, and the file that goes out says', async () => {
    const file = async () =>
      TrialFile.parse((await request(it_.server).get(`/api/trials/${halfDone.id}`).expect(200)).body)
    const before = await file()
    const pairs = new Set(before.throws.map((t) => `${t.discId} ${t.sessionId}`))
    expect(before.worn!.map((w) => `${w.discId} ${w.sessionId}`)).members([...pairs])
    const [{ discId, sessionId, throws }] = before.worn! as [NonNullable<TrialFile['worn']>[number]]
    const day = before.sessions.find((s) => s.id === sessionId)!.day
    const note = { id: newId(), discId, day, throws: 40, hardHits: 3, note: '', removedAt: null, version: 0 }
    await request(it_.server).put(`/api/wear-notes/${note.id}`).send(note).expect(200)
    const noted = (await file()).worn!.find((w) => w.discId === discId && w.sessionId === sessionId)!
    expect(noted.throws).equal(throws + 40)
    expect(noted.hardHits).least(3)
    const csv = readThrowsCsv(
      (await request(it_.server).get(`/api/trials/${halfDone.id}/throws.csv?all=1`)).text,
    )
    if (!csv.ok) throw new Error('the file does not read')
    const codeOf = new Map(demo.discs.map((d) => [d.id, d.code]))
    const line = csv.throws.find((t) => t.disc === codeOf.get(discId) && t.outing === sessionId)!
    expect([line.discThrows, line.discHits]).deep.equal([noted.throws, noted.hardHits])
    await request(it_.server)
      .put(`/api/wear-notes/${note.id}`)
      .send({ ...note, removedAt: new Date().toISOString() })
      .expect(200)
    expect((await file()).worn).deep.equal(before.worn)
  })

  it('is rated near its hidden truth: the ladder of the finished trial is right where it claims to be sure', async () => {
    const csv = (await request(it_.server).get(`/api/trials/${finished.id}/throws.csv`)).text
    const read = readThrowsCsv(csv)
    if (!read.ok) throw new Error('the demo does not read')
    const outcome = outcomeOf(fit(evidenceOf(read.throws)))
    const truth = new Map(SHED.map((d) => [d.code, sideOf(d.truth).side]))
    const sure = outcome.pairs.filter((p) => p.pAMoreStable > 0.9 || p.pAMoreStable < 0.1)
    expect(sure.length).least(5)
    for (const p of sure)
      expect(Math.sign(p.difference.value)).equal(Math.sign(truth.get(p.a)! - truth.get(p.b)!))
  })
})
