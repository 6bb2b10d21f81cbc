import 'fake-indexeddb/auto'
import { expect } from 'chai'
import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import { randomInt, randomLcg } from 'd3'
import { sql } from 'drizzle-orm'
import pg from 'pg'
import { v7 as newId } from 'uuid'
import { demoId } from '../../demo/shed.ts'
import { doc, paragraph } from '../../core/review/document.ts'
import { ReviewFile, ReviewSection } from '../../contract/reviews.ts'
import type { Throw, TrialFile } from '../../contract/trials.ts'
import { dayAt } from '../../core/throw/day.ts'
import { putRow, saidAgainst } from '../../web/data/api.ts'
import { learnClock } from '../../web/data/clock.ts'
import { Queue } from '../../web/data/queue.ts'
import { Line } from './line.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'
import { bundleProgram } from '../../scripts/bundles.mjs'

/** A server process of its own on a database, which can be killed at any moment and started again. */
class Mortal {
  #child: ChildProcess | undefined
  #killed = false
  deaths = 0
  /** How often it ended of itself after it had listened. */
  ended = 0
  constructor(
    private readonly url: string,
    readonly port: number,
  ) {}

  /** Starts it, again and again where its database is away: whoever keeps a server running does so. */
  async live(): Promise<void> {
    while (!(await this.#begin())) await new Promise((r) => setTimeout(r, 100))
  }
  async #begin(): Promise<boolean> {
    const args = [await bundleProgram('test/api/killable.ts'), this.url, String(this.port)]
    const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'ignore'] })
    this.#child = child
    this.#killed = false
    for await (const said of child.stdout!)
      if (String(said).includes('up')) {
        child.once('exit', () => void (this.ended += this.#killed ? 0 : 1))
        return true
      }
    return false
  }
  async die(): Promise<void> {
    const child = this.#child
    if (!child || child.exitCode !== null || child.signalCode !== null) return
    const gone = once(child, 'exit')
    this.#killed = true
    child.kill('SIGKILL')
    await gone
    this.deaths++
  }
}
/** A port nobody listens on. */
async function freePort(): Promise<number> {
  const probe = http.createServer().listen(0, '127.0.0.1')
  await once(probe, 'listening')
  const { port } = probe.address() as AddressInfo
  await new Promise((done) => probe.close(done))
  return port
}

describe('the queue of a device', () => {
  let it_: TestServer
  let mortal: Mortal
  let origin: string
  let line: Line
  /** Stands between device and server: lets a request through, loses it, loses the answer, or answers itself. */
  let weather: () => 'through' | 'request lost' | 'answer lost' | number = () => 'through'
  let proxy: http.Server
  /** How often the server said that it cannot, not that the row is wrong. */
  let unable = 0
  const fetch_ = globalThis.fetch
  before(async function () {
    this.timeout(180_000)
    it_ = await demoServer()
    line = new Line(new URL(it_.url))
    mortal = new Mortal(await line.open(), await freePort())
    await mortal.live()
    const { port } = mortal
    proxy = http.createServer((req, res) => {
      const now = weather()
      if (now === 'request lost') return void res.destroy()
      if (typeof now === 'number') {
        unable++
        res.writeHead(now, { 'content-type': 'text/html' }).end('<h1>Somebody else answers</h1>')
        return
      }
      const on = http.request(
        {
          host: '127.0.0.1',
          port,
          path: req.url,
          method: req.method,
          headers: { ...req.headers, host: `127.0.0.1:${port}` },
        },
        (answer) => {
          if (now === 'answer lost') {
            answer.resume()
            answer.on('end', () => res.destroy())
            return
          }
          if (answer.statusCode! >= 500) unable++
          res.writeHead(answer.statusCode!, answer.headers)
          answer.pipe(res)
        },
      )
      // the server died under it, or is not there
      on.on('error', () => res.destroy())
      req.pipe(on)
    })
    await new Promise<void>((r) => proxy.listen(0, '127.0.0.1', r))
    origin = `http://127.0.0.1:${(proxy.address() as AddressInfo).port}`
    // a page's addresses are those of the server it came from
    globalThis.fetch = (address, init) => fetch_(new URL(address as string, origin), init)
  })
  after(async () => {
    globalThis.fetch = fetch_
    proxy.close()
    await mortal.die()
    line.close()
    await it_.stop()
  })

  /** Pages of one device do it one after the other. */
  const turns = new Map<string, Promise<void>>()
  const device = (name: string) =>
    new Queue({
      alone: (work) => {
        const mine = (turns.get(name) ?? Promise.resolve()).then(work, work)
        turns.set(name, mine)
        return mine
      },
      name,
      send: (kind, body, signal) => putRow(kind, body, signal),
      refusal: saidAgainst,
      onSent: () => Promise.resolve(),
      onRefused: () => undefined,
      retryMs: 5,
      longestMs: 40,
    })
  const trial = demoId('trial', 'fairways')
  const stored = async () => {
    const { port } = it_.server.address() as AddressInfo
    // its own connections may have just been ended
    for (;;) {
      const answer = await fetch(`http://127.0.0.1:${port}/api/trials/${trial}`)
      if (answer.status === 503) continue
      return new Map(((await answer.json()) as TrialFile).throws.map((t) => [t.id, t]))
    }
  }
  const empty = async (q: Queue) => {
    while (q.waiting().length > 0) await new Promise((r) => setTimeout(r, 5))
  }
  /** Has the database take writes or not, from the next connection on; those there are end. */
  async function takeWrites(take: boolean): Promise<void> {
    const admin = new pg.Client(it_.url)
    await admin.connect()
    await admin.query('set default_transaction_read_only = off')
    const { rows } = await admin.query<{ name: string }>('select current_database() as name')
    await admin.query(
      `alter database "${rows[0]!.name}" set default_transaction_read_only = ${take ? 'off' : 'on'}`,
    )
    await admin.query(`select pg_terminate_backend(pid) from pg_stat_activity
                       where datname = current_database() and pid <> pg_backend_pid()`)
    await admin.end()
  }
  let template: Throw
  before(async () => void (template = [...(await stored()).values()][0]!))
  const fresh = (carryM: number): Throw => ({
    ...template,
    id: newId(),
    carryM,
    midDownM: null,
    midRightM: null,
    label: null,
    version: 0,
  })

  /** What a database may be for a while. */
  const SPELLS = {
    'read-only': [() => takeWrites(false), () => takeWrites(true)],
    gone: [() => line.cut(), () => void (line.state = 'fine')],
    slow: [() => void (line.state = 'slow'), () => void (line.state = 'fine')],
  } as const
  const SPELL_NAMES = ['read-only', 'gone', 'slow'] as const

  it('of a device whose clock is a year ahead puts days and times right by the server’s, and says so', async () => {
    const YEAR = 365 * 86_400_000
    const own = Date.now
    const said: number[] = []
    const queue = new Queue({
      name: `clock-${newId()}`,
      send: putRow,
      refusal: saidAgainst,
      clock: learnClock,
      onPutRight: (offMs) => said.push(offMs),
      onSent: async () => {},
      onRefused: () => {},
      retryMs: 20,
      longestMs: 100,
    })
    Date.now = () => own() + YEAR
    const ahead = Date.now()
    const day = dayAt(ahead, null)
    const session = {
      ...{
        id: newId(),
        place: 'Weir meadow',
        placeId: null,
        timeZone: null,
        day,
        temperatureC: null,
        altitudeM: null,
      },
      ...{ method: 'eye' as const, watcherId: null, watcherSdDeg: null, version: 0 },
    }
    const log = {
      ...{ id: newId(), sessionId: session.id, startedAt: new Date(ahead).toISOString() },
      ...{ endedAt: new Date(ahead + 60_000).toISOString(), alongMps: [1], acrossMps: [0] },
    }
    try {
      await queue.put('sessions', session)
      await queue.put('wind-logs', log)
      while (queue.waiting().length > 0) await new Promise((r) => setTimeout(r, 20))
    } finally {
      Date.now = own
      await queue.stop()
    }
    const read = async <T>(where: string) => (await (await fetch_(new URL(where, origin))).json()) as T
    const stored = (await read<{ id: string; day: string }[]>('/api/sessions')).find(
      (s) => s.id === session.id,
    )!
    expect(stored.day).to.equal(dayAt(Date.now(), null))
    expect(stored.day).to.not.equal(day)
    const [wind] = await read<{ startedAt: string; endedAt: string }[]>(`/api/sessions/${session.id}/wind`)
    expect(Math.abs(Date.parse(wind!.startedAt) - Date.now())).to.be.lessThan(120_000)
    expect(Date.parse(wind!.endedAt) - Date.parse(wind!.startedAt)).to.equal(60_000)
    expect(said.map((off) => Math.round(off / 86_400_000))).to.deep.equal([-365, -365])
  })

  it('loses and doubles nothing over 150 rounds and more of a server and a page that die at any moment, and a database that is read-only, gone or slow', async function () {
    this.timeout(900_000)
    const uniform = randomLcg(0.27)
    const chance = (p: number) => uniform() < p
    const pick = randomInt.source(uniform)
    const before = await stored()
    /** What a person sees of each throw: the last they kept. */
    const kept = new Map<string, Throw>()
    weather = () => (chance(0.35) ? 'request lost' : chance(0.25) ? 'answer lost' : 'through')
    let page = device('rounds')
    await page.open()
    let deaths = 0
    let rising: Promise<void> | undefined
    let up = true
    const spells = { 'read-only': 0, gone: 0, slow: 0 }
    let begun = 0
    let spell: (typeof SPELL_NAMES)[number] | undefined
    const lift = async () => {
      if (spell) await SPELLS[spell][1]()
      spell = undefined
    }
    const enough = () => mortal.deaths > 10 && deaths > 30 && SPELL_NAMES.every((name) => spells[name] > 5)
    // a slow machine is let go on until enough has died
    for (let round = 0; round < 150 || !enough(); round++) {
      if (chance(0.4)) await lift()
      // a server that rises wants its database once
      else if (!spell && up && chance(0.5)) {
        spell = SPELL_NAMES[begun++ % SPELL_NAMES.length]!
        spells[spell]++
        await SPELLS[spell][0]()
      }
      // the server process is killed in the middle of things, and rises while throws are kept
      if (up && !spell && chance(0.3)) {
        up = false
        const fall = 25 * uniform()
        rising = new Promise((r) => setTimeout(r, fall))
          .then(() => mortal.die())
          .then(() => mortal.live())
          .then(() => void (up = true))
      }
      const old = [...kept.values()]
      const row =
        old.length > 0 && chance(0.4)
          ? { ...old[pick(0, old.length)()]!, carryM: 40 + round / 10 }
          : fresh(40 + round / 10)
      // a page shows a throw as its queue has it, or as the server answered
      const waiting = page.waiting().filter((w) => w.body.id === row.id)
      const version = (waiting.at(-1)?.body ?? (await stored()).get(row.id))?.version ?? 0
      await page.put('throws', { ...row, version } as Throw)
      kept.set(row.id, row)
      await new Promise((r) => setTimeout(r, (up ? 30 : 200) * uniform()))
      if (chance(0.25)) {
        deaths++
        await page.stop()
        page = device('rounds')
        await page.open()
      }
    }
    await rising
    await lift()
    weather = () => 'through'
    page.send()
    await empty(page)
    expect(page.refused().map((r) => r.why)).deep.equal([])
    const after = await stored()
    expect(after.size).equal(before.size + kept.size)
    for (const [id, row] of kept) expect(after.get(id)!.carryM, id).equal(row.carryM)
    expect(deaths).greaterThan(30)
    expect(mortal.deaths).greaterThan(10)
    expect(mortal.ended).equal(0)
    await page.stop()
  })

  it('keeps both versions of a throw that two devices changed, until somebody chooses', async function () {
    this.timeout(180_000)
    weather = () => 'through'
    const [a, b] = [device('phone'), device('laptop')]
    await Promise.all([a.open(), b.open()])
    const row = fresh(70)
    await a.put('throws', row)
    await empty(a)
    const seen = (await stored()).get(row.id)!
    expect(seen.version).equal(1)
    const edited = (carryM: number): Throw => ({ ...seen, carryM })
    // two edits of one device, made while the server is away, follow one another
    weather = () => 'request lost'
    await a.put('throws', edited(71))
    await a.put('throws', edited(71.5))
    weather = () => 'through'
    a.send()
    await empty(a)
    expect(a.refused()).deep.equal([])
    // the other device has not heard of them
    await b.put('throws', edited(80))
    await empty(b)
    expect((await stored()).get(row.id)).include({ carryM: 71.5, version: 3 })
    // the refused version outlives the page
    await b.stop()
    const again = device('laptop')
    await again.open()
    const [refused] = again.refused()
    expect(refused!.body).include({ carryM: 80 })
    expect(refused!.stored).include({ carryM: 71.5, version: 3 })
    await again.put('throws', {
      ...(refused!.body as Throw),
      version: refused!.stored!.version!,
    })
    await again.drop(refused!.key)
    await empty(again)
    expect((await stored()).get(row.id)).include({ carryM: 80, version: 4 })
    expect(again.refused()).deep.equal([])
    await Promise.all([a.stop(), again.stop()])
  })

  it('keeps what two devices wrote of one section, and what one of them goes on writing, without ever writing over the other', async function () {
    this.timeout(180_000)
    weather = () => 'through'
    const [a, b] = [device('phone'), device('laptop')]
    await Promise.all([a.open(), b.open()])
    const review = {
      id: newId(),
      title: 'Of two devices',
      trialIds: [demoId('trial', 'four')],
      listed: false,
      removedAt: null,
    }
    await a.put('reviews', review)
    const section = ReviewSection.parse({
      ...{ id: newId(), reviewId: review.id, kind: 'verdict', place: 3, title: 'Verdict' },
      ...{ body: doc(paragraph('As it was.')), version: 0 },
    })
    await a.put('review-sections', section)
    await empty(a)
    const sections = async () => {
      const said = await fetch_(`${origin}/api/reviews/${review.id}`)
      return ReviewFile.parse(await said.json()).sections
    }
    const [seen] = await sections()
    const wrote = (words: string) => ({ ...seen!, body: doc(paragraph(words)) })
    // the other is there first; one writes from what was before, and goes on writing, while nobody answers
    await b.put('review-sections', wrote('At home.'))
    await empty(b)
    weather = () => 'request lost'
    await a.put('review-sections', wrote('In the field.'))
    await a.put('review-sections', wrote('In the field, in the rain.'))
    weather = () => 'through'
    a.send()
    await empty(a)
    // a page that has not read again writes on
    await a.put('review-sections', wrote('In the field, in the rain, at dusk.'))
    await empty(a)
    expect([...a.refused(), ...b.refused()]).deep.equal([])
    const now = await sections()
    expect(now.map((s) => [s.title, s.body])).deep.equal([
      ['Verdict', doc(paragraph('At home.'))],
      ['Verdict, from another device', doc(paragraph('In the field, in the rain, at dusk.'))],
    ])
    expect(now[0]).include({ id: seen!.id, version: 2 })
    expect(now[1]).include({ kind: 'own', version: 3 })
    // the other device goes on with its own
    await b.put('review-sections', { ...wrote('At home, by the fire.'), version: 2 })
    await empty(b)
    expect((await sections())[0]!.body).deep.equal(doc(paragraph('At home, by the fire.')))
    await Promise.all([a.stop(), b.stop()])
  })

  it('leaves what a page put down and was closed on to another page of the device, which shows it and sends it', async () => {
    weather = () => 'request lost'
    const [one, two] = [device('tabs'), device('tabs')]
    await Promise.all([one.open(), two.open()])
    const row = fresh(72)
    await one.put('throws', row)
    await one.stop()
    while (two.waiting().length === 0) await new Promise((r) => setTimeout(r, 5))
    expect(two.waiting().map((w) => w.body.id)).deep.equal([row.id])
    weather = () => 'through'
    await empty(two)
    expect((await stored()).get(row.id)!.carryM).equal(72)
    await two.stop()
  })

  it('takes two pages of one device for one: their edits of a throw follow one another', async () => {
    weather = () => 'through'
    const [one, two] = [device('both'), device('both')]
    await Promise.all([one.open(), two.open()])
    const row = fresh(73)
    await one.put('throws', row)
    await empty(one)
    const seen = (await stored()).get(row.id)!
    // both pages show the same version; the second has not read again when it edits
    await one.put('throws', { ...seen, carryM: 74 })
    await empty(one)
    await two.put('throws', { ...seen, carryM: 75 })
    await empty(two)
    // and both at once, while nobody answers
    const later = (await stored()).get(row.id)!
    weather = () => 'request lost'
    await one.put('throws', { ...later, rightM: 1 })
    await two.put('throws', { ...later, rightM: 2 })
    weather = () => 'through'
    await Promise.all([empty(one), empty(two)])
    expect([...one.refused(), ...two.refused()]).deep.equal([])
    expect((await stored()).get(row.id)).include({ carryM: 75, rightM: 2, version: 5 })
    await Promise.all([one.stop(), two.stop()])
  })

  it('sets aside what the server refuses, and goes on with the rest', async () => {
    const q = device('refused')
    await q.open()
    const [bad, good] = [{ ...fresh(50), sessionId: newId() }, fresh(51)]
    await q.put('throws', bad)
    await q.put('throws', good)
    await empty(q)
    expect(q.refused().map((r) => r.why)).deep.equal(['The outing is not known here.'])
    expect((await stored()).has(good.id)).equal(true)
    expect((await stored()).has(bad.id)).equal(false)
    await q.stop()
  })

  const writable = async () => ((await (await fetch('/api/health')).json()) as { writes: boolean }).writes

  /** Has the disk of the database be full, or not: as PostgreSQL says it of a table that cannot grow. */
  async function full(is: boolean): Promise<void> {
    if (is)
      await it_.db.execute(sql`
        create function no_room() returns trigger language plpgsql as $$ begin
          raise exception using errcode = '53100', message = 'could not extend file: No space left on device';
        end $$;
        create trigger no_room before insert on throws for each statement execute function no_room()`)
    else await it_.db.execute(sql`drop trigger no_room on throws; drop function no_room()`)
  }
  for (const [what, takes, said, sees] of [
    ['is read-only', takeWrites, /^The database of the server is read-only now/, false],
    ['has no room left', (take: boolean) => full(!take), /^The disk of the server is full/, true],
  ] as const)
    it(`keeps throws, in order, while the database ${what}, says so, and sends them when that is over`, async function () {
      this.timeout(180_000)
      weather = () => 'through'
      const q = device(what)
      await q.open()
      expect(await writable()).equal(true)
      await takes(false)
      const rows = [fresh(61), fresh(62), fresh(63)]
      try {
        unable = 0
        for (const row of rows) await q.put('throws', row)
        while (unable < 4) await new Promise((r) => setTimeout(r, 5))
        expect(await writable()).equal(sees)
        expect(q.waiting().map((w) => w.body.id)).deep.equal(rows.map((r) => r.id))
        expect(q.refused()).deep.equal([])
        expect(q.held()).match(said)
        // the page is closed and opened again meanwhile
        await q.stop()
      } finally {
        await takes(true)
      }
      const again = device(what)
      await again.open()
      await empty(again)
      expect(again.refused()).deep.equal([])
      const now = await stored()
      for (const { id, carryM } of rows) expect(now.get(id)!.carryM).equal(carryM)
      await again.stop()
    })

  for (const status of [404, 408, 413, 429, 500, 502])
    it(`keeps a throw where something else answers ${status}, which says nothing of it`, async () => {
      const q = device(`other ${status}`)
      await q.open()
      const row = fresh(65)
      unable = 0
      weather = () => status
      await q.put('throws', row)
      while (unable < 3) await new Promise((r) => setTimeout(r, 5))
      expect(q.waiting().map((w) => w.body.id)).deep.equal([row.id])
      expect(q.held()).match(status < 500 && status !== 408 && status !== 429 ? /answered 4/ : /not answer/)
      weather = () => 'through'
      await empty(q)
      expect(q.held()).equal(undefined)
      expect(q.refused()).deep.equal([])
      expect((await stored()).get(row.id)!.carryM).equal(65)
      await q.stop()
    })

  it('sends a refused write with the field put right that it was refused for', async () => {
    const q = device('mended')
    await q.open()
    const row = { ...fresh(66), hyzerDeg: 200 }
    await q.put('throws', row)
    await empty(q)
    const [refused] = q.refused()
    expect(refused!.errors!.map((e) => e.path)).deep.equal(['hyzerDeg'])
    await q.sendAgain(refused!.key, { ...refused!.body, hyzerDeg: 20 } as Throw)
    await empty(q)
    expect(q.refused()).deep.equal([])
    expect((await stored()).get(row.id)!.hyzerDeg).equal(20)
    await q.stop()
  })

  it('sends a refused write again when it is told to', async () => {
    const q = device('again')
    await q.open()
    const row = fresh(64)
    const session = newId()
    await q.put('throws', { ...row, sessionId: session })
    await empty(q)
    const [refused] = q.refused()
    expect(refused!.why).equal('The outing is not known here.')
    // the outing comes from elsewhere
    const { sessions } = (await (await fetch(`/api/trials/${trial}`)).json()) as TrialFile
    await q.put('sessions', { ...sessions[0]!, id: session })
    await empty(q)
    await q.sendAgain(refused!.key)
    await empty(q)
    expect(q.refused()).deep.equal([])
    expect((await stored()).get(row.id)!.sessionId).equal(session)
    await q.stop()
  })
})
