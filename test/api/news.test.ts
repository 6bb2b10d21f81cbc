import { expect } from 'chai'
import http from 'node:http'
import { sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import type { DeviceHand, News } from '../../contract/news.ts'
import { PAGE_HEADER } from '../../contract/news.ts'
import type { TrialFile, TrialSummary } from '../../contract/trials.ts'
import { MOST_OF_ONE } from '../../server/crew/streams.ts'
import { startServer } from '../../server/main.ts'
import type { RunningServer } from '../../server/main.ts'
import { keptDemo } from '../../demo/away.ts'
import { testDatabase } from './server.ts'

/** A page that listens to news. */
class Listener {
  readonly heard: News[] = []
  readonly #req: http.ClientRequest
  readonly open: Promise<void>
  constructor(url: string) {
    let opened = () => {}
    this.open = new Promise((r) => (opened = r))
    let text = ''
    this.#req = http.get(
      `${url}/api/news`,
      { agent: false, headers: { accept: 'text/event-stream' } },
      (res) => {
        expect(res.headers['content-type']).to.equal('text/event-stream')
        opened()
        res.setEncoding('utf8')
        res.on('data', (d: string) => {
          text += d
          const parts = text.split('\n\n')
          text = parts.pop()!
          for (const p of parts) if (p.startsWith('data: ')) this.heard.push(JSON.parse(p.slice(6)) as News)
        })
        res.on('error', () => {})
      },
    )
    this.#req.on('error', () => {})
  }
  async until(test: (news: News) => boolean): Promise<News> {
    for (;;) {
      const found = this.heard.find(test)
      if (found) return found
      await new Promise((r) => setTimeout(r, 15))
    }
  }
  close(): void {
    this.#req.destroy()
  }
}

describe('what others write', () => {
  let database: string
  let one: RunningServer
  let two: RunningServer
  before(async () => {
    database = await testDatabase()
    const options = { databaseUrl: database, host: '127.0.0.1', port: 0, quiet: true, demo: keptDemo }
    one = await startServer(options)
    two = await startServer(options)
    await fetch(`${one.url}/api/demo/back`, { method: 'POST' })
  })
  after(async () => {
    await one.stop()
    await two.stop()
  })
  const put = (url: string, where: string, row: unknown, headers: Record<string, string> = {}) =>
    fetch(`${url}${where}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', ...headers },
      body: JSON.stringify(row),
    })
  async function aTrial(): Promise<TrialFile> {
    const list = (await (await fetch(`${one.url}/api/trials`)).json()) as TrialSummary[]
    const id = list.find((t) => t.counted > 0)!.trial.id
    return (await (await fetch(`${one.url}/api/trials/${id}`)).json()) as TrialFile
  }

  it('is told to pages of every instance, with who wrote it; a long row is told without itself', async () => {
    const [a, b] = [new Listener(one.url), new Listener(two.url)]
    await Promise.all([a.open, b.open])
    const { throws } = await aTrial()
    const pageId = newId()
    const [short, long] = [throws[0]!, throws[1]!]
    const n = 1200
    const line = Array.from({ length: n }, (_, i) => i / 10 + 0.003)
    expect(
      (await put(one.url, `/api/throws/${short.id}`, { ...short, carryM: 77 }, { [PAGE_HEADER]: pageId }))
        .status,
    ).to.equal(200)
    for (const page of [a, b]) {
      const news = await page.until((x) => x.type === 'row' && x.id === short.id)
      expect(news).to.deep.include({ kind: 'throws', pageId })
      expect(news.type === 'row' && news.row!['carryM']).to.equal(77)
    }
    const path = { timeS: [], downM: line, rightM: line.map(() => 0), upM: [] }
    const kept = await put(two.url, `/api/throws/${long.id}`, { ...long, path })
    expect(kept.status, await kept.text()).to.equal(200)
    for (const page of [a, b])
      expect(await page.until((x) => x.type === 'row' && x.id === long.id)).to.deep.include({ row: null })
    a.close()
    b.close()
  })

  it('is heard again after the database let go of everybody', async () => {
    const page = new Listener(two.url)
    await page.open
    await one.db.execute(
      sql`select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
    )
    // what was told meanwhile is not known: everything is read again
    await page.until((x) => x.type === 'everything')
    const { throws } = await aTrial()
    expect(
      (await put(one.url, `/api/throws/${throws[2]!.id}`, { ...throws[2]!, carryM: 70 })).status,
    ).to.equal(200)
    await page.until((x) => x.type === 'row' && x.id === throws[2]!.id)
    page.close()
  })

  it('holds what each device is about to throw, since when, until it stops or falls silent', async () => {
    const { trial, throws } = await aTrial()
    const { discId, hyzerDeg, stroke, power } = throws[0]!
    const [phone, tablet] = [newId(), newId()]
    const held = { discId, hyzerDeg, stroke, power }
    const hold = async (url: string, deviceId: string, what: object | null) => {
      const answer = await put(url, `/api/trials/${trial.id}/hand`, { deviceId, held: what })
      expect(answer.status).to.equal(200)
      return (await answer.json()) as DeviceHand[]
    }
    const page = new Listener(two.url)
    await page.open
    const [first] = await hold(one.url, phone, held)
    await page.until((x) => x.type === 'hands' && x.trialId === trial.id)
    const both = await hold(two.url, tablet, held)
    expect(both.map((h) => h.deviceId)).to.deep.equal([phone, tablet])
    // the same throw held on is held since then; another since now
    expect((await hold(one.url, phone, held))[0]!.since).to.equal(first!.since)
    expect((await hold(one.url, phone, { ...held, hyzerDeg: 33 })).at(-1)!.deviceId).to.equal(phone)
    expect((await hold(one.url, phone, null)).map((h) => h.deviceId)).to.deep.equal([tablet])
    await one.db.execute(sql`update hands set seen_at = now() - interval '1 hour'`)
    expect(await (await fetch(`${one.url}/api/trials/${trial.id}/hands`)).json()).to.deep.equal([])
    page.close()
  })

  it('is told to nobody any more who stopped listening', async () => {
    const pages = Array.from({ length: MOST_OF_ONE }, () => new Listener(one.url))
    await Promise.all(pages.map((p) => p.open))
    // as many as one person may have open
    for (const stream of ['news', 'devices/scale', 'devices/anemometer?place=Millpond'])
      expect((await fetch(`${one.url}/api/${stream}`)).status, stream).to.equal(429)
    for (const p of pages) p.close()
    let status = 429
    while (status === 429) {
      const answer = await fetch(`${one.url}/api/news`)
      status = answer.status
      await answer.body?.cancel()
    }
    expect(status).to.equal(200)
  })
})
