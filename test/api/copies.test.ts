import fs from 'node:fs'
import path from 'node:path'
import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import fc from 'fast-check'
import { isOpen } from '../../contract/custody.ts'
import type { Custody, Errand } from '../../contract/custody.ts'
import type { Problem } from '../../contract/problems.ts'
import { staying } from '../../server/custody/thinning.ts'
import { Errands } from '../../server/work/errands.ts'
import { sharedServer } from './shared.ts'
import type { SharedServer } from './shared.ts'

const DAY = 86_400_000

describe('which copies stay', () => {
  const now = Date.parse('2026-11-27T12:00:00Z')
  const daily = (days: number) => Array.from({ length: days }, (_, i) => ({ at: now - i * DAY, bytes: 10 }))

  it('one a day for a week, one a week for a quarter', () => {
    const kept = staying(daily(200), now, Infinity).map((c) => Math.round((now - c.at) / DAY))
    expect(kept.filter((d) => d < 7)).to.deep.equal([0, 1, 2, 3, 4, 5, 6])
    expect(kept.length).to.be.within(17, 20)
    expect(Math.max(...kept)).to.be.within(77, 91)
  })
  it('always keeps the newest, never more than there is room for, and is content with what it kept', () => {
    const copies = fc.array(
      fc.record({
        at: fc.integer({ min: now - 300 * DAY, max: now }),
        bytes: fc.integer({ min: 1, max: 100 }),
      }),
      {
        minLength: 1,
        maxLength: 60,
      },
    )
    fc.assert(
      fc.property(copies, fc.integer({ min: 1, max: 3000 }), (list, most) => {
        const kept = staying(list, now, most)
        const newest = Math.max(...list.map((c) => c.at))
        expect(kept[0]!.at).to.equal(newest)
        const size = kept.reduce((sum, c) => sum + c.bytes, 0)
        expect(size <= most || kept.length === 1).to.equal(true)
        expect(staying(kept, now, most)).to.deep.equal(kept)
        // the oldest that is kept is kept for its week: nothing is lost that a later day would want
        expect(kept.length).to.be.at.most(7 + 13 + 1)
      }),
    )
  })
})

describe('copies of everything', () => {
  let it_: SharedServer
  before(async () => {
    it_ = await sharedServer()
    await it_.own(`/api/demo/back`, { method: 'POST' })
  })
  after(async () => it_.stop())

  const own = async (method: string, where: string, body?: BodyInit, type = 'application/json') => {
    const answer = await it_.own(where, {
      method,
      ...(body !== undefined && { body, headers: { 'content-type': type } }),
    })
    return { status: answer.status, body: (await answer.json()) as never }
  }
  const over = async (errand: Errand): Promise<Errand> => {
    for (let now = errand; ;) {
      if (!isOpen(now)) return now
      await new Promise((r) => setTimeout(r, 50))
      now = (await own('GET', `/api/errands/${errand.id}`)).body
    }
  }
  const custody = async () => (await own('GET', '/api/custody')).body as Custody

  it('is made at the start, says where the data are, and holds none of the ways into the database', async () => {
    let said = await custody()
    while (said.copies.length === 0) {
      await new Promise((r) => setTimeout(r, 50))
      said = await custody()
    }
    expect(said.database.throws).to.equal(116)
    expect(said.database.bytes).to.be.greaterThan(1e6)
    expect(JSON.stringify(said)).to.not.match(/postgres:\/\/|:\/\/.*@/)
  })

  it('is made when asked for, handed out, and restored over what came after; what was there is kept', async () => {
    const made = await over((await own('POST', '/api/copies')).body)
    expect(made).to.include({ state: 'done' })
    expect(made.said).to.include('116 throws')
    const copy = (await custody()).copies.find((c) => c.why === 'by-hand')
    const bytes = Buffer.from(await (await it_.own(`/api/copies/${copy!.name}`)).arrayBuffer())
    expect(bytes.length).to.equal(copy!.bytes)

    expect((await own('POST', '/api/demo/away')).status).to.equal(200)
    expect((await custody()).database.throws).to.equal(0)
    // a copy has a second of its own
    const second = () => Math.floor(Date.now() / 1000)
    for (const now = second(); second() === now;) await new Promise((r) => setTimeout(r, 20))
    const back = await over((await own('POST', '/api/restore', bytes, 'application/zip')).body)
    expect(back.said).to.match(/Restored: 116 throws, .*What was here before is the copy of/)
    expect((await custody()).database.throws).to.equal(116)
    const before = (await custody()).copies.find((c) => c.why === 'before-a-restore')!
    expect(before).to.include({ throws: 0, why: 'before-a-restore' })
    // what was made by hand does not give way to it
    expect((await custody()).copies.map((c) => c.name)).to.include(copy!.name)
    const again = await over((await own('POST', `/api/copies/${before.name}/restore`)).body)
    expect(again.state, again.said).to.equal('done')
    expect((await custody()).database.throws).to.equal(0)
    expect(fs.readdirSync(path.join(it_.folder, 'copies')).filter((n) => n.endsWith('.part'))).to.deep.equal(
      [],
    )
  })

  it('says what is wrong with a file that is none, and keeps nothing of it', async () => {
    const errand = await over(
      (await own('POST', '/api/restore', Buffer.from('not a zip'), 'application/zip')).body,
    )
    expect(errand.state).to.equal('failed')
    expect(errand.said).to.include('no zip file')
    const wrong = await own('POST', '/api/restore', '{}')
    expect(wrong.status).to.equal(415)
    expect((wrong.body as Problem).detail).to.include('application/zip')
    expect(fs.readdirSync(path.join(it_.folder, 'copies')).filter((n) => n.endsWith('.part'))).to.deep.equal(
      [],
    )
  })

  it('hands out nothing but copies', async () => {
    for (const name of ['..%2F..%2Fshare%2Fauthority.key', 'authority.key', 'sent-x.part'])
      expect((await it_.own(`/api/copies/${name}`)).status).to.equal(404)
  })

  it('can be cancelled from another instance than the one that does it', async () => {
    const [here, there] = [new Errands(it_.db), new Errands(it_.db)]
    const begun = await here.begin(
      'copy',
      (told, signal) => {
        told({ stage: 'writing', done: 3, total: 9 })
        return new Promise((_, reject) =>
          signal.addEventListener('abort', () => reject(signal.reason as Error)),
        )
      },
      (e) => ({ said: String(e) }),
    )
    for (let seen = begun; seen.done !== 3; seen = (await there.read(begun.id))!)
      await new Promise((r) => setTimeout(r, 30))
    expect((await custody()).underWay.map((e) => e.id)).to.deep.equal([begun.id])
    await there.cancel(begun.id)
    expect((await over(begun)).state).to.equal('cancelled')
    expect((await custody()).underWay).to.deep.equal([])
    await here.stop()
  })

  it('of which nobody says any more how far it is has failed', async () => {
    const errands = new Errands(it_.db)
    const begun = await errands.begin(
      'copy',
      (_, signal) =>
        new Promise((_r, reject) => signal.addEventListener('abort', () => reject(new Error('over')))),
      (e) => ({ said: String(e) }),
    )
    await errands.stop()
    // as a server leaves it that is killed
    await it_.db.execute(
      sql`update errands set state = 'under-way', beat_at = now() - interval '1 minute' where id = ${begun.id}`,
    )
    expect(await errands.read(begun.id)).to.include({ state: 'failed' })
  })

  it('under way keeps nobody from stopping the server, and leaves nothing half-made', async () => {
    for (let i = 0; i < 5; i++) {
      const short = await sharedServer()
      await short.own(`/api/me`)
      // the first copy is being made
      await new Promise((r) => setTimeout(r, 40 * i))
      const made = path.join(short.folder, 'copies')
      await short.stop()
      expect(
        fs.existsSync(made) ? fs.readdirSync(made).filter((n) => n.endsWith('.part')) : [],
      ).to.deep.equal([])
    }
  })
})
