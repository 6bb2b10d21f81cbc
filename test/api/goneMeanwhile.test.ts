import { expect } from 'chai'
import pg from 'pg'
import { demoId } from '../../demo/shed.ts'
import { ratings } from '../../server/store/schema.ts'
import { ratedDemoServer, rested } from './server.ts'
import type { TestServer } from './server.ts'

describe('discs that go while they are weighed', () => {
  let it_: TestServer
  before(async function () {
    this.timeout(180_000)
    it_ = await ratedDemoServer()
  })
  after(() => it_.stop())

  it('are left out of what is stored, and everything else is stored', async function () {
    this.timeout(180_000)
    const before = (await it_.db.select({ id: ratings.discId }).from(ratings)).map((r) => r.id)
    const gone = demoId('disc', 'HS-017')
    expect(before).include(gone)
    const other = new pg.Client(it_.url)
    await other.connect()
    try {
      // as a copy that is restored takes discs away, throws and all, and is not done yet
      await other.query('begin')
      await other.query('set local session_replication_role = replica')
      for (const table of ['throws', 'ratings'])
        await other.query(`delete from ${table} where disc_id = $1`, [gone])
      await other.query('delete from discs where id = $1', [gone])
      await it_.works.shelf.everything()
      const waits = async () =>
        (
          await it_.pool.query(
            `select 1 from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`,
          )
        ).rowCount! > 0
      while (!(await waits())) await new Promise((r) => setTimeout(r, 20))
      await other.query('commit')
    } finally {
      await other.end()
    }
    await rested(it_)
    expect(it_.failures).deep.equal([])
    const now = (await it_.db.select({ id: ratings.discId }).from(ratings)).map((r) => r.id)
    expect(new Set(now)).deep.equal(new Set(before.filter((id) => id !== gone)))
  })
})
