import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import { discs } from '../../server/store/schema.ts'
import { daysOf, readDays } from '../../server/store/testDays.ts'
import { KeptDays } from '../../server/store/keptDays.ts'
import { Records } from '../../server/work/records.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'

describe('test days that were weighed', () => {
  let it_: TestServer
  before(async () => void (it_ = await demoServer()))
  after(() => it_.stop())

  /** What a server that has just started says of every day. */
  async function weighed(failing: unknown[] = []) {
    const fail = (e: unknown) => failing.push(e)
    const records = new Records(new KeptDays(it_.db, fail), fail)
    const ids = (await it_.db.select({ id: discs.id }).from(discs)).map((d) => d.id)
    const days = await daysOf(it_.db, ids)
    try {
      for (;;) {
        const outcomes = await records.days(days, (changed) => readDays(it_.db, changed))
        if (!outcomes.includes(undefined)) return outcomes
      }
    } finally {
      await records.stop()
    }
  }

  it('are kept for the next start, and weighed again by other code or where they cannot be kept', async () => {
    const first = await weighed()
    expect(first.length).greaterThan(3)
    expect(first.every((day) => day!.length > 2)).equal(true)
    expect(await weighed()).deep.equal(JSON.parse(JSON.stringify(first)))
    // it is they that are read
    await it_.db.execute(sql`update weighed_days set outcomes = '[]'`)
    expect((await weighed()).flat()).deep.equal([])
    await it_.db.execute(sql`update weighed_days set digest = 'other code ' || digest`)
    expect(await weighed()).deep.equal(first)
    // a database that keeps nothing more is said, and answered all the same
    await it_.db.execute(sql`delete from weighed_days`)
    await it_.db.execute(sql`alter table weighed_days add constraint full_up check (false)`)
    const failing: unknown[] = []
    expect(await weighed(failing)).deep.equal(first)
    expect(failing).length(first.length)
  })
})
